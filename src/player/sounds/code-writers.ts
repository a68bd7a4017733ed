/** Timecode as sound of every list that gives it, block by block after the clock of its track. */
import { LtcWriter } from '../../core/timecode/ltc.ts';
import { FRAMES_A_SECOND } from '../../core/timecode/rate.ts';
import type { CodeNow } from './messages.ts';

/** Timecode as sound, for each list that gives it. */
export class CodeWriters {
  private readonly writers = new Map<string, { frames: CodeNow['frames']; writer: LtcWriter }>();

  /**
   * Adds one list's to a block; nothing while it stands.
   * @param starts_ms when the first sample of the block is heard
   */
  add(now: CodeNow, out: Float32Array, starts_ms: number, rate_hz: number): void {
    if (now.rate <= 0) return;
    const at_s = now.position_s + ((starts_ms - now.at_ms) / 1000) * now.rate + now.offset_s;
    const frames = FRAMES_A_SECOND[now.frames];
    this.writerOf(now).add(out, at_s * frames, (frames * now.rate) / rate_hz);
  }

  /** A list that counts otherwise from now on is written anew (code-writers.test.ts). */
  private writerOf({ key, frames }: CodeNow): LtcWriter {
    const known = this.writers.get(key);
    if (known?.frames === frames) return known.writer;
    const writer = new LtcWriter(frames);
    this.writers.set(key, { frames, writer });
    return writer;
  }
}
