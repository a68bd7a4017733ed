/** Timecode as sound at the machine of the player, by a file in the place of a cable. */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freshLtc, ltcSound, readLtc } from '../../core/timecode/ltc.ts';
import { formatTimecode, timecodeOf } from '../../core/timecode/rate.ts';
import { monoWav } from '../../core/sounds/wav.ts';
import { simulatedInput } from './inputs.ts';

const HZ = 48_000;
let folder = '';
const folderWith = (name: string, bytes: Uint8Array): string => {
  writeFileSync(join(folder, name), bytes);
  return folder;
};

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'wingman-input-'));
  jest.useFakeTimers();
});
afterEach(() => {
  jest.useRealTimers();
  rmSync(folder, { recursive: true, force: true });
});

test('a file is heard as fast as it would come, and the time in it is read', () => {
  const frames = Array.from({ length: 60 }, (_, i) => timecodeOf(90_000 + i, '25'));
  folderWith('time-in.wav', monoWav(ltcSound(frames, HZ), HZ));
  const reader = freshLtc();
  const times: string[] = [];
  const input = simulatedInput(
    folder,
    (samples, rate) => {
      for (const { time } of readLtc(reader, samples, rate)) times.push(formatTimecode(time));
    },
    () => Date.now(),
  );
  if (typeof input === 'string') throw new Error(input);
  jest.advanceTimersByTime(1000);
  expect(times.length).toBeGreaterThan(20);
  expect(times.length).toBeLessThan(26);
  expect(times.at(-1)).toMatch(/^01:00:00:2/);
  jest.advanceTimersByTime(500);
  input.close();
  const heard = times.length;
  expect(heard).toBeGreaterThan(32);
  jest.advanceTimersByTime(1000);
  expect(times).toHaveLength(heard);
});

test('what is no such file is said, and nothing is heard', () => {
  const hears = (): void => {
    throw new Error('heard');
  };
  expect(simulatedInput(join(tmpdir(), 'not-there'), hears)).toMatch(/no time-in\.wav/);
  expect(simulatedInput(folderWith('time-in.wav', new Uint8Array(50)), hears)).toMatch(
    /no time-in\.wav/,
  );
  expect(simulatedInput(folderWith('other.wav', monoWav([0, 1], HZ)), hears)).toMatch(
    /no time-in\.wav/,
  );
});
