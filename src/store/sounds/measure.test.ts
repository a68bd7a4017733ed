/** What a sound is measured to be, at the limits: channels, rates, hours, and what its head says of it. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { SoundKind } from '../../core/sounds/rows.ts';
import { wavHead } from '../../core/sounds/wav.ts';
import { measureSound } from './measure.ts';

const measured = (bytes: Buffer, kind: SoundKind = 'wav', longest_s?: number) =>
  measureSound(
    { id: '', sha256: '', crc32: 0, bytes: bytes.length, kind },
    { size: bytes.length, read: (from, to) => Promise.resolve(bytes.subarray(from, to)) },
    longest_s,
  );
/** A WAV of 16 bits, with one tone in all its channels. */
function wav({ frames = 4000, rate_hz = 8000, channels = 1 } = {}): Buffer {
  const data = Buffer.alloc(frames * channels * 2);
  for (let i = 0; i < frames * channels; i++)
    data.writeInt16LE(Math.round(9000 * Math.sin(i / 7)), i * 2);
  return Buffer.concat([wavHead(frames, rate_hz, channels), data]);
}

test('more channels than any house has, and rates that nothing plays, are refused in a sentence', async () => {
  expect(await measured(wav({ channels: 65, frames: 400 }))).toMatchObject({
    message:
      'This sound cannot be played: it has more channels than any house. Nothing was taken in.',
  });
  expect(await measured(wav({ rate_hz: 999 }))).toMatchObject({
    message: 'This sound cannot be played: it has 999 samples a second. Nothing was taken in.',
  });
  expect(await measured(wav({ channels: 64, frames: 400 }))).toMatchObject({
    about: { channels: 64 },
  });
  expect(await measured(wav({ rate_hz: 1000 }))).toMatchObject({ about: { rate_hz: 1000 } });
});

test('what lasts as long as a track may is taken; what is longer is refused', async () => {
  const longest_s = 2;
  const lasting = (s: number) => measured(wav({ frames: s * 8000 }), 'wav', longest_s);
  expect(await lasting(longest_s)).toMatchObject({ about: { length_s: longest_s } });
  expect(await lasting(longest_s + 0.1)).toMatchObject({
    code: 'too-large',
    message: expect.stringContaining('Nothing was taken in.'),
  });
});

test('a FLAC that says to last longer than what is in it: what can be read is taken, and the rest is said to be missing', async () => {
  const flac = await readFile(join(import.meta.dirname, 'testdata', 'tone.flac'));
  const whole = await measured(flac, 'flac');
  expect(whole).not.toHaveProperty('problem');
  const { about } = whole as Exclude<typeof whole, { refused: true }>;
  // Its samples, in 36 bits (RFC 9639, 8.2): a second more, a twentieth more, and beyond 32 bits.
  const samples = Math.round(about.length_s * about.rate_hz);
  const says = (n: number): Buffer => {
    const lying = Buffer.from(flac);
    lying.writeUInt8((lying.readUInt8(21) & 0xf0) | Math.floor(n / 2 ** 32), 21);
    lying.writeUInt32BE(n % 2 ** 32, 22);
    return lying;
  };
  const length = Math.round(about.length_s * 10) / 10;
  const more = Math.round((about.length_s + 1) * 10) / 10;
  expect(await measured(says(samples + about.rate_hz), 'flac')).toMatchObject({
    about: { length_s: about.length_s },
    problem: `It says that it lasts ${more} s, and ${length} s of it can be read; the rest is left out.`,
  });
  expect(await measured(says(samples + about.rate_hz / 20), 'flac')).not.toHaveProperty('problem');
  expect(await measured(says(2 ** 32 + samples), 'flac')).toMatchObject({
    problem: expect.stringContaining(
      `lasts ${Math.round((2 ** 32 / about.rate_hz + about.length_s) * 10) / 10} s`,
    ),
  });
  // One that does not say is believed to be what it is.
  expect(await measured(says(0), 'flac')).not.toHaveProperty('problem');
});
