/** Where blocks go: a sound card of this machine, or a file that holds what a card would have played, to the sample. */
import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type * as Audio from 'node-web-audio-api';
import { toInt16, WAV_HEAD_BYTES, wavHead } from '../../core/sounds/wav.ts';
import { cardCalled, type Cards } from './cards.ts';
import { monotonic } from './messages.ts';

/** A sound card’s output that is open. */
export interface Output {
  rate_hz: number;
  /** When a frame is heard, in milliseconds of the machine’s clock; frames are counted from its opening. */
  heardAt: (frame: number) => number;
  /** Frames that are heard by now. */
  frame: () => number;
  write: (left: Float32Array<ArrayBuffer>, right: Float32Array<ArrayBuffer>, frame: number) => void;
  close: () => void;
}

const SIMULATED_HZ = 48_000;

/** What is written down at most: an hour and a half. */
const MOST_FRAMES = SIMULATED_HZ * 5400;

/**
 * Writes `heard-….wav` or, of timecode, `code-….wav`, and beside it a JSON that says when its first frame was heard: `started_ms` of the machine’s clock
 * that nobody sets, `at` as a time of day.
 */
export function simulatedOutput(
  folder: string,
  called: 'heard' | 'code' = 'heard',
  now_ms: () => number = monotonic,
): Output {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const at = new Date().toISOString();
  const path = join(folder, `${called}-${at.replaceAll(/[:.]/g, '-')}`);
  const handle = openSync(`${path}.wav`, 'w', 0o600);
  const started_ms = now_ms();
  writeSync(handle, wavHead(0, SIMULATED_HZ, 2), 0, WAV_HEAD_BYTES, 0);
  writeFileSync(`${path}.json`, JSON.stringify({ started_ms, at, rate_hz: SIMULATED_HZ }));
  let written = 0;
  return {
    rate_hz: SIMULATED_HZ,
    heardAt: (frame) => started_ms + (frame / SIMULATED_HZ) * 1000,
    frame: () => Math.floor(((now_ms() - started_ms) / 1000) * SIMULATED_HZ),
    write: (left, right, frame) => {
      if (frame + left.length > MOST_FRAMES) return;
      const out = Buffer.alloc(left.length * 4);
      for (let i = 0; i < left.length; i++) {
        out.writeInt16LE(toInt16(left[i] ?? 0), i * 4);
        out.writeInt16LE(toInt16(right[i] ?? 0), i * 4 + 2);
      }
      writeSync(handle, out, 0, out.length, WAV_HEAD_BYTES + frame * 4);
      written = Math.max(written, frame + left.length);
      writeSync(handle, wavHead(written, SIMULATED_HZ, 2), 0, WAV_HEAD_BYTES, 0);
    },
    close: () => closeSync(handle),
  };
}

/**
 * A card, through a context of its own.
 * @param name null: the machine's own choice @returns why it cannot be opened, in a sentence
 */
export async function cardOutput(
  cards: () => Promise<Cards>,
  name: string | null,
  now_ms: () => number = monotonic,
): Promise<Output | string> {
  let loaded: Cards;
  try {
    loaded = await cards();
  } catch (error) {
    return `The sound of this machine cannot be used: ${(error as Error).message.slice(0, 160)}.`;
  }
  try {
    const sinkId = name === null ? undefined : await cardCalled(loaded, 'audiooutput', name);
    if (name !== null && sinkId === undefined) return `The output “${name}” is not there.`;
    const context = new loaded.AudioContext({
      latencyHint: 'playback',
      ...(sinkId === undefined ? {} : { sinkId }),
    });
    return onContext(loaded, context, now_ms);
  } catch {
    return 'This machine has no sound output.';
  }
}

function onContext(loaded: Cards, context: Audio.AudioContext, now_ms: () => number): Output {
  const { sampleRate } = context;
  /** The clock of the card against the machine’s: read often, the least of them is the truest. */
  let offset_ms = Infinity;
  let read_ms = 0;
  const look = (): void => {
    const now = now_ms();
    const seen = now - context.currentTime * 1000;
    // Forgotten slowly, since the two drift.
    offset_ms = Math.min(seen, offset_ms + (now - read_ms) * 0.0002);
    read_ms = now;
  };
  look();
  const latency_ms = (): number => (context.outputLatency || context.baseLatency || 0) * 1000;
  return {
    rate_hz: sampleRate,
    heardAt: (frame) => (look(), offset_ms + (frame / sampleRate) * 1000 + latency_ms()),
    frame: () => Math.floor(context.currentTime * sampleRate),
    write: (left, right, frame) => {
      const buffer = new loaded.AudioBuffer({
        length: left.length,
        numberOfChannels: 2,
        sampleRate,
      });
      buffer.copyToChannel(left, 0);
      buffer.copyToChannel(right, 1);
      const source = context.createBufferSource();
      source.buffer = buffer;
      source.connect(context.destination);
      source.start(frame / sampleRate);
    },
    close: () => void context.close(),
  };
}
