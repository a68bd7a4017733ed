/** The output that writes down what a card would have played. */
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { WAV_HEAD_BYTES } from '../../core/sounds/wav.ts';
import { simulatedOutput } from './outputs.ts';

const RATE_HZ = 48_000;
let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'wingman-heard-'))));
afterEach(() => rmSync(folder, { recursive: true, force: true }));
const file = (ending: string): Buffer =>
  readFileSync(join(folder, readdirSync(folder).find((f) => f.endsWith(ending)) ?? ''));

test('frames go by the clock that it is given, from the moment of its opening', () => {
  let now_ms = 5000;
  const out = simulatedOutput(folder, 'heard', () => now_ms);
  expect([out.frame(), out.heardAt(0), out.heardAt(RATE_HZ)]).toEqual([0, 5000, 6000]);
  now_ms = 5250;
  expect(out.frame()).toBe(RATE_HZ / 4);
  out.close();
  expect(JSON.parse(file('.json').toString())).toMatchObject({
    started_ms: 5000,
    rate_hz: RATE_HZ,
  });
});

test('each block stands at its frame, in two channels of sixteen bits; what was skipped is silence', () => {
  const out = simulatedOutput(folder, 'code', () => 0);
  out.write(Float32Array.of(0.5, -0.5), Float32Array.of(0.25, 1), 3);
  out.close();
  const wav = file('.wav');
  const at = (frame: number): number[] =>
    [0, 2].map((o) => wav.readInt16LE(WAV_HEAD_BYTES + frame * 4 + o) / 32_767);
  expect(readdirSync(folder).every((f) => f.startsWith('code-'))).toBe(true);
  expect(wav.length).toBe(WAV_HEAD_BYTES + 5 * 4);
  expect([at(0), at(2)]).toEqual([
    [0, 0],
    [0, 0],
  ]);
  expect(at(3)).toEqual([expect.closeTo(0.5, 3), expect.closeTo(0.25, 3)]);
  expect(at(4)).toEqual([expect.closeTo(-0.5, 3), expect.closeTo(1, 3)]);
  // Its head tells of all of it: data of five frames, two channels, their rate.
  expect([wav.readUInt32LE(40), wav.readUInt16LE(22), wav.readUInt32LE(24)]).toEqual([
    20,
    2,
    RATE_HZ,
  ]);
});

test('an earlier block that is written later does not make it shorter', () => {
  const out = simulatedOutput(folder, 'heard', () => 0);
  const block = new Float32Array(10);
  out.write(block, block, 90);
  out.write(block, block, 0);
  out.close();
  expect(file('.wav').readUInt32LE(40)).toBe(100 * 4);
});

test('no more than an hour and a half is written down', () => {
  const out = simulatedOutput(folder, 'heard', () => 0);
  const block = new Float32Array(10);
  out.write(block, block, RATE_HZ * 5400 - 9);
  out.close();
  expect(file('.wav').length).toBe(WAV_HEAD_BYTES);
});
