/** Where blocks go: a sound card of this machine, or a file that holds what a card would have played, to the sample. */
import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type * as Audio from 'node-web-audio-api';
import { toInt16, WAV_HEAD_BYTES, wavHead } from '../../core/sounds/wav.ts';
import { monotonic, SIMULATED_OUTPUT } from './messages.ts';

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

interface Device {
  kind: string;
  label: string;
  deviceId: string;
}
/** Its types leave out the devices of the machine. */
type Library = typeof Audio & {
  mediaDevices: { enumerateDevices: () => Promise<Device[]> };
};

async function library(): Promise<Library | string> {
  try {
    return (await import('node-web-audio-api')) as unknown as Library;
  } catch (error) {
    return `The sound of this machine cannot be used: ${(error as Error).message.slice(0, 160)}.`;
  }
}

/** Outputs of this machine by their names, the simulated one last; and why there is no other. */
export async function listOutputs(): Promise<{ devices: string[]; problem: string | null }> {
  const loaded = await library();
  if (typeof loaded === 'string') return { devices: [SIMULATED_OUTPUT], problem: loaded };
  const found = await loaded.mediaDevices.enumerateDevices().catch(() => []);
  const names = found.filter((d) => d.kind === 'audiooutput').map((d) => d.label || d.deviceId);
  return {
    devices: [...new Set(names), SIMULATED_OUTPUT],
    problem: names.length === 0 ? 'This machine has no sound output.' : null,
  };
}

/** A card, through a context of its own. @returns why it cannot be opened, in a sentence */
export async function cardOutput(name: string | null): Promise<Output | string> {
  const loaded = await library();
  if (typeof loaded === 'string') return loaded;
  try {
    const devices = await loaded.mediaDevices.enumerateDevices();
    const device = devices.find((d) => d.kind === 'audiooutput' && d.label === name);
    if (name !== null && !device) return `The output “${name}” is not there.`;
    const context = new loaded.AudioContext({
      latencyHint: 'playback',
      ...(device ? { sinkId: device.deviceId } : {}),
    });
    return onContext(loaded, context);
  } catch {
    return 'This machine has no sound output.';
  }
}

function onContext(loaded: Library, context: Audio.AudioContext): Output {
  const { sampleRate } = context;
  /** The clock of the card against the machine’s: read often, the least of them is the truest. */
  let offset_ms = Infinity;
  let read_ms = 0;
  const look = (): void => {
    const now = monotonic();
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
