/**
 * What is heard, block by block: every voice at where its track is by the clock, at any rate, with level and fades, added up
 * for two channels. A voice that is off by little goes a hair faster or slower, one that is off by much jumps.
 */
import { heardAt } from '../../core/sounds/track-sound.ts';
import type { TrackNow } from './messages.ts';
import type { Samples } from './samples.ts';
import { between, Stretch } from './stretch.ts';

/** Further off than this it jumps: it is heard either way, and is right at once. */
const JUMP_S = 0.04;
/** Share by which a voice is led back: half a cent of pitch a millisecond that it is off, and no more than a tenth of a semitone. */
const LEAD = 0.5;
const MOST_LEAD = 0.006;
/** A level that jumps is a click: it is drawn over so many frames at least. */
const EDGE_FRAMES = 64;
/** A voice that is heard at no level is not fresh. */
const SILENT = 1e-9;

interface Voice {
  /** Frame of the file that comes next, with its part. */
  cursor: number;
  gain: number;
  /** Where it goes at another rate: its grains. */
  stretch?: Stretch;
}

interface Block {
  left: Float32Array;
  right: Float32Array;
}

/** Everything that sounds, mixed block by block. */
export class Mixer {
  private readonly voices = new Map<string, Voice>();
  /** How far each voice was off when its last block began, in milliseconds; positive is late. */
  readonly off_ms = new Map<string, number>();

  constructor(private readonly rate_hz: number) {}

  forget(key: string): void {
    this.voices.delete(key);
    this.off_ms.delete(key);
  }

  /**
   * Adds a track to a block: in pieces, where its sound begins, ends or comes round in the middle of it.
   * @param starts_ms when the first frame of the block is heard
   */
  add(track: TrackNow, samples: Samples, starts_ms: number, block: Block): void {
    for (let done = 0; done < block.left.length;)
      done += this.piece(track, samples, starts_ms, block, done);
  }

  /** @returns frames that are done with it */
  private piece(
    track: TrackNow,
    samples: Samples,
    starts_ms: number,
    block: Block,
    done: number,
  ): number {
    const { sound, end_s, rate, key } = track;
    const length_s = samples.length / samples.rate_hz;
    const frames = block.left.length - done;
    const from_ms = starts_ms + (done / this.rate_hz) * 1000;
    const at_s = track.position_s + ((from_ms - track.at_ms) / 1000) * rate;
    const now = rate > 0 ? heardAt(sound, length_s, end_s, at_s) : null;
    const voice = this.voices.get(key);
    if (!now) {
      // It stands, or is over: what is still heard of it fades within a moment.
      if (voice)
        this.write(voice, samples, 1, [voice.gain, 0], block, [
          done,
          Math.min(frames, EDGE_FRAMES),
        ]);
      this.forget(key);
      const begins = rate > 0 ? Math.ceil(((sound.at_s - at_s) / rate) * this.rate_hz) : 0;
      return begins > 0 ? Math.min(frames, begins) : frames;
    }
    const wanted = now.source_s * samples.rate_hz;
    const off_s = voice ? (wanted - voice.cursor) / samples.rate_hz : 0;
    const isFresh = !voice || Math.abs(off_s) > JUMP_S;
    const playing = isFresh ? { cursor: wanted, gain: 0 } : voice;
    this.voices.set(key, playing);
    this.off_ms.set(key, isFresh ? 0 : off_s * 1000);
    const lead = isFresh ? 0 : Math.max(-MOST_LEAD, Math.min(MOST_LEAD, off_s * LEAD));
    const step = ((samples.rate_hz * rate) / this.rate_hz) * (1 + lead);
    // To the end of its part and no further: what comes behind it in the file is not of it.
    const most = Math.max(1, Math.ceil((now.left_s / rate) * this.rate_hz));
    const count = Math.min(frames, most);
    const then = heardAt(sound, length_s, end_s, at_s + (count / this.rate_hz) * rate);
    this.write(playing, samples, step, [now.gain, then?.gain ?? now.gain], block, [done, count]);
    if (count === most) this.forget(key);
    return count;
  }

  private write(
    voice: Voice,
    samples: Samples,
    step: number,
    [from, to]: readonly [number, number],
    { left, right }: Block,
    [done, count]: readonly [number, number],
  ): void {
    const isFresh = voice.gain === 0;
    const heard = this.soundOf(voice, samples, step, count);
    for (let i = 0; i < count; i++) {
      const edge = isFresh ? Math.min(1, (i + 1) / EDGE_FRAMES) : 1;
      const gain = (from + ((to - from) * (i + 1)) / count) * edge;
      const o = done + i;
      left[o] = (left[o] ?? 0) + gain * (heard[0][i] ?? 0);
      right[o] = (right[o] ?? 0) + gain * (heard[1][i] ?? 0);
    }
    voice.cursor += count * step;
    voice.gain = Math.max(to, SILENT);
  }

  /** At its own rate, or led by a hair, it is played as it is; slower or faster it keeps its pitch. */
  private soundOf(voice: Voice, samples: Samples, step: number, count: number): Heard {
    const heard: Heard = [new Float32Array(count), new Float32Array(count)];
    const native = samples.rate_hz / this.rate_hz;
    if (Math.abs(step / native - 1) <= MOST_LEAD * 2) {
      delete voice.stretch;
      resampled(samples, voice.cursor, step, heard);
    } else {
      voice.stretch ??= new Stretch(native);
      voice.stretch.fill(samples, voice.cursor, step, this.rate_hz, heard);
    }
    return heard;
  }
}

type Heard = readonly [left: Float32Array, right: Float32Array];

/** As it is, a hair higher or lower with its rate. */
function resampled(samples: Samples, cursor: number, step: number, [left, right]: Heard): void {
  const first = Math.floor(cursor) - 1;
  const need = Math.ceil(left.length * step) + 6;
  const [l, r] = [new Float32Array(need), new Float32Array(need)];
  samples.read(first, l, r);
  let at = cursor - first;
  for (let i = 0; i < left.length; i++) {
    const k = Math.floor(at);
    const x = at - k;
    left[i] = between(l[k - 1] ?? 0, l[k] ?? 0, l[k + 1] ?? 0, l[k + 2] ?? 0, x);
    right[i] = between(r[k - 1] ?? 0, r[k] ?? 0, r[k + 1] ?? 0, r[k + 2] ?? 0, x);
    at += step;
  }
}
