/** Where timecode is heard as sound at this machine: an input of a card, or a file in the place of one. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type * as Audio from 'node-web-audio-api';
import { WAV_HEAD_BYTES } from '../../core/sounds/wav.ts';
import { cardCalled, type Cards } from './cards.ts';
import { monotonic } from './messages.ts';

/** Blocks of one channel as they come. */
export type Hearing = (samples: Float32Array, rate_hz: number) => void;
/** A sound input that is open. */
export interface Input {
  close: () => void;
}

const BLOCK = 1024;
const TICK_MS = 20;

/** @param name of an input; empty: the machine's own choice @returns why it cannot be opened, in a sentence */
export async function cardInput(
  cards: () => Promise<Cards>,
  name: string,
  heard: Hearing,
): Promise<Input | string> {
  try {
    const loaded = await cards();
    const deviceId = name === '' ? undefined : await cardCalled(loaded, 'audioinput', name);
    if (name !== '' && deviceId === undefined) return `The input “${name}” is not there.`;
    const stream = await loaded.mediaDevices.getUserMedia({
      audio: deviceId === undefined ? true : { deviceId },
    });
    const context = new loaded.AudioContext();
    const tap = context.createScriptProcessor(BLOCK, 1, 1);
    tap.onaudioprocess = (event: { inputBuffer: Audio.AudioBuffer }): void =>
      heard(event.inputBuffer.getChannelData(0), context.sampleRate);
    context.createMediaStreamSource(stream as never).connect(tap);
    // What is tapped goes on as silence: without a way out nothing is asked of it.
    tap.connect(context.destination);
    return {
      close: () => {
        for (const track of stream.getTracks()) track.stop();
        void context.close();
      },
    };
  } catch {
    return 'This machine has no sound input.';
  }
}

const INPUT_FILE = /^time-in.*\.wav$/;

/** The left of 16 bit channels. */
function samplesIn(wav: Buffer): { samples: Float32Array; rate_hz: number } | undefined {
  if (wav.length < WAV_HEAD_BYTES || wav.toString('latin1', 0, 4) !== 'RIFF') return undefined;
  const [channels, rate_hz, bits] = [
    wav.readUInt16LE(22),
    wav.readUInt32LE(24),
    wav.readUInt16LE(34),
  ];
  if (bits !== 16 || channels < 1 || rate_hz < 8000) return undefined;
  const frames = Math.floor((wav.length - WAV_HEAD_BYTES) / (2 * channels));
  const samples = Float32Array.from(
    { length: frames },
    (_, i) => wav.readInt16LE(WAV_HEAD_BYTES + i * 2 * channels) / 32_768,
  );
  return { samples, rate_hz };
}

/**
 * What stands in for a cable where there is none: the newest `time-in….wav` of a folder (16 bit), from its beginning as
 * fast as it would come, once.
 * @param now_ms a clock, of which it is as much on as that has gone on
 */
export function simulatedInput(
  folder: string,
  heard: Hearing,
  now_ms: () => number = monotonic,
): Input | string {
  try {
    const name = readdirSync(folder)
      .filter((f) => INPUT_FILE.test(f))
      .sort()
      .at(-1);
    const wav = name === undefined ? undefined : samplesIn(readFileSync(join(folder, name)));
    if (!wav) return 'There is no time-in.wav in the folder “heard” of the data folder.';
    const { samples, rate_hz } = wav;
    const began = now_ms();
    let done = 0;
    const timer = setInterval(() => {
      const due = Math.min(samples.length, Math.floor(((now_ms() - began) / 1000) * rate_hz));
      for (; done + BLOCK <= due; done += BLOCK)
        heard(samples.subarray(done, done + BLOCK), rate_hz);
      if (samples.length - done < BLOCK) clearInterval(timer);
    }, TICK_MS);
    return { close: () => clearInterval(timer) };
  } catch {
    return 'There is no time-in.wav in the folder “heard” of the data folder.';
  }
}
