/** Sounds of the player's machine, decoded: whole or not at all, whatever fails on the way. */
import { mkdir, mkdtemp, readdir, rm, stat, truncate, utimes } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { SoundFile } from '../../core/sounds/rows.ts';
import type { SoundReader } from '../../store/sounds/kept.ts';
import { dropUnused, makeReady, openSamples } from './pcm-file.ts';

const RATE_HZ = 8000;
let folder = '';
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'pcm-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

/** A WAV of 16 bits that rises from 0 to 1 on the left and falls on the right. */
function ramp(seconds: number, channels: 1 | 2 = 2): Buffer {
  const frames = seconds * RATE_HZ;
  const wav = Buffer.alloc(44 + frames * 2 * channels);
  wav.write('RIFF', 0);
  wav.writeUInt32LE(wav.length - 8, 4);
  wav.write('WAVEfmt ', 8);
  wav.writeUInt32LE(16, 16);
  wav.writeUInt16LE(1, 20);
  wav.writeUInt16LE(channels, 22);
  wav.writeUInt32LE(RATE_HZ, 24);
  wav.writeUInt32LE(RATE_HZ * 2 * channels, 28);
  wav.writeUInt16LE(2 * channels, 32);
  wav.writeUInt16LE(16, 34);
  wav.write('data', 36);
  wav.writeUInt32LE(frames * 2 * channels, 40);
  for (let i = 0; i < frames; i++) {
    wav.writeInt16LE(Math.round((i / frames) * 32_000), 44 + i * 2 * channels);
    if (channels === 2) wav.writeInt16LE(Math.round((1 - i / frames) * 32_000), 46 + i * 4);
  }
  return wav;
}
const about = (seconds: number, channels = 2): SoundFile => ({
  sha256: 'a'.repeat(64),
  bytes: 1,
  kind: 'wav',
  length_s: seconds,
  rate_hz: RATE_HZ,
  channels,
});
/** @param fails from this byte on nothing can be read */
const reader = (bytes: Buffer, fails = Infinity): SoundReader => ({
  size: bytes.length,
  read: (from, to) =>
    to > fails
      ? Promise.reject(new Error('the database is away'))
      : Promise.resolve(bytes.subarray(from, to)),
});
const unheard = (): void => undefined;
const read = (file: SoundFile, from: number, count: number): [number[], number[]] => {
  const [left, right] = [new Float32Array(count), new Float32Array(count)];
  const samples = openSamples(folder, file);
  samples.read(from, left, right);
  samples.close();
  const tenths = (of: Float32Array): number[] => [...of].map((v) => Math.round(v * 100) / 100);
  return [tenths(left), tenths(right)];
};

test('what is decoded is read from anywhere; before its beginning and behind its end it is silent', async () => {
  const file = about(10);
  const shares: number[] = [];
  await makeReady(folder, file, reader(ramp(10)), (share) => shares.push(share));
  expect(shares.every((s, i) => s <= 0.99 && s >= (shares[i - 1] ?? 0))).toBe(true);
  const samples = openSamples(folder, file);
  expect([samples.length, samples.rate_hz]).toEqual([10 * RATE_HZ, RATE_HZ]);
  samples.close();
  expect(read(file, 5 * RATE_HZ, 2)).toEqual([
    [0.49, 0.49],
    [0.49, 0.49],
  ]);
  expect(read(file, -2, 4)[1]).toEqual([0, 0, 0.98, 0.98]);
  expect(read(file, 10 * RATE_HZ - 1, 3)[0]).toEqual([0.98, 0, 0]);
  expect(read(file, 99 * RATE_HZ, 2)).toEqual([
    [0, 0],
    [0, 0],
  ]);
});

test('one channel is heard on both sides', async () => {
  const file = about(2, 1);
  await makeReady(folder, file, reader(ramp(2, 1)), unheard);
  const [left, right] = read(file, RATE_HZ, 3);
  expect(left).toEqual([0.49, 0.49, 0.49]);
  expect(right).toEqual(left);
});

test('a database that goes in the middle leaves nothing behind, and the next attempt has all of it', async () => {
  const file = about(60);
  const bytes = ramp(60);
  await expect(makeReady(folder, file, reader(bytes, bytes.length / 2), unheard)).rejects.toThrow(
    'the database is away',
  );
  expect(await readdir(folder)).toEqual([]);
  await makeReady(folder, file, reader(bytes), unheard);
  expect(read(file, 59 * RATE_HZ, 1)[0]).toEqual([0.96]);
});

test('a file that ends before what was measured is none', async () => {
  await expect(makeReady(folder, about(60), reader(ramp(20)), unheard)).rejects.toThrow(
    'frames could be decoded',
  );
  expect(await readdir(folder)).toEqual([]);
});

test('one that cannot be written is said to, and is no sound that is ready', async () => {
  const file = about(2);
  await mkdir(join(folder, `${file.sha256}.pcm.part`));
  await expect(makeReady(folder, file, reader(ramp(2)), unheard)).rejects.toThrow();
  expect(() => openSamples(folder, file)).toThrow();
});

test('one that is there is not decoded again; one that was cut short is', async () => {
  const file = about(10);
  const bytes = ramp(10);
  await makeReady(folder, file, reader(bytes), unheard);
  const path = join(folder, `${file.sha256}.pcm`);
  await utimes(path, 1, 1);
  await makeReady(folder, file, reader(bytes, 0), unheard);
  // It was used now, and stays.
  await dropUnused(folder, Date.now() + 24 * 3600 * 1000);
  expect((await stat(path)).mtimeMs).toBeGreaterThan(1e12);
  await truncate(path, 4000);
  await makeReady(folder, file, reader(bytes), unheard);
  expect((await stat(path)).size).toBe(10 * RATE_HZ * 4);
});

test('what nobody has played for a month goes', async () => {
  await makeReady(folder, about(2), reader(ramp(2)), unheard);
  const day = 24 * 3600 * 1000;
  await dropUnused(folder, Date.now() + 29 * day);
  expect(await readdir(folder)).toHaveLength(1);
  await dropUnused(folder, Date.now() + 31 * day);
  expect(await readdir(folder)).toEqual([]);
  await dropUnused(join(folder, 'nowhere'), Date.now());
});
