/** Sounds on their way in and out: with a show file, and beside back-ups. What is not what it says leaves nothing behind. */
import { createHash } from 'node:crypto';
import { mkdtemp, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { crc32 } from 'node:zlib';
import { isRefusal } from '../../core/refusal.ts';
import { wavHead } from '../../core/sounds/wav.ts';
import type { Database } from '../database.ts';
import { ownDatabase } from '../own-database.ts';
import { bringBack, dropUnused, writeSounds } from './back-up.ts';
import { SoundsIn } from './bring.ts';
import { receiveSound, soundKept } from './kept.ts';
import { takeInSound } from './measure.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
let folder: string;
beforeAll(async () => {
  own = await ownDatabase();
  db = own.db;
});
afterAll(() => own.drop());
beforeEach(async () => void (folder = await mkdtemp(join(tmpdir(), 'wingman-sounds-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

/** A WAV of 16 bits: a tone of its own for each seed. */
function wav(seed: number, { frames = 4000, rate_hz = 8000, channels = 1 } = {}): Buffer {
  const data = Buffer.alloc(frames * channels * 2);
  for (let i = 0; i < frames * channels; i++)
    data.writeInt16LE(Math.round(9000 * Math.sin(i / (5 + seed))), i * 2);
  return Buffer.concat([wavHead(frames, rate_hz, channels), data]);
}
const soundsFolder = (of: string): string => join(of, 'sounds');
const sumOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const kept = async (): Promise<number> =>
  Number(
    (
      await db
        .selectFrom('sounds_kept')
        .select((eb) => eb.fn.countAll<string>().as('n'))
        .executeTakeFirstOrThrow()
    ).n,
  );
async function takeIn(bytes: Uint8Array): Promise<string> {
  const arrived = await receiveSound(db, Readable.from([bytes]));
  if (isRefusal(arrived)) throw new Error(arrived.message);
  const taken = await takeInSound(db, arrived);
  if (isRefusal(taken)) throw new Error(taken.message);
  return arrived.sha256;
}
test('its sum for a ZIP is that of the whole, however many pieces it is kept in', async () => {
  const bytes = wav(1, { frames: 1_400_000 });
  const arrived = await receiveSound(db, Readable.from([bytes]));
  expect(arrived).toMatchObject({ crc32: crc32(bytes), bytes: bytes.length, kind: 'wav' });
});

describe('out of a show file', () => {
  async function bring(says: string, bytes: Uint8Array): Promise<SoundsIn> {
    const sounds = new SoundsIn(db);
    sounds.begin(says);
    for (let at = 0; at < bytes.length; at += 3000) {
      sounds.put(bytes.subarray(at, at + 3000));
      await sounds.settle();
    }
    sounds.end();
    await sounds.settle();
    return sounds;
  }

  test('a sound is measured on its way; one that is kept already is not kept twice', async () => {
    const bytes = wav(3);
    const sounds = await bring(sumOf(bytes), bytes);
    expect(sounds.came.get(sumOf(bytes))).toMatchObject({ kind: 'wav', length_s: 0.5 });
    const before = await kept();
    const again = await bring(sumOf(bytes), bytes);
    expect(again.came.get(sumOf(bytes))).toEqual(await soundKept(db, sumOf(bytes)));
    expect(await kept()).toBe(before);
  });

  test.each([
    ['is none', Buffer.from('<html>nothing to hear</html>'), 'a sound that is none'],
    ['is another than was written', wav(4), 'its checksum differs'],
    ['cannot be played', wav(5, { rate_hz: 999 }), 'a sound that cannot be played'],
  ])('one that %s refuses the file, and nothing of it stays', async (what, bytes, says) => {
    const before = await kept();
    const sum = what === 'is another than was written' ? sumOf(wav(40)) : sumOf(bytes);
    await expect(bring(sum, bytes)).rejects.toThrow(says);
    expect(await kept()).toBe(before);
  });
});

describe('beside back-ups', () => {
  test('each is written once; one that was not written to its end is written again', async () => {
    const sum = await takeIn(wav(6));
    await writeSounds(db, folder, [sum, sumOf(wav(60))]);
    const path = join(soundsFolder(folder), sum);
    expect((await readFile(path)).equals(wav(6))).toBe(true);
    // Whoever else has an account on this machine reads none of it.
    const modes = await Promise.all([soundsFolder(folder), path].map((p) => stat(p)));
    expect(modes.map((m) => m.mode & 0o777)).toEqual([0o700, 0o600]);
    const long_ago = new Date('2020-01-01T00:00:00Z');
    await utimes(path, long_ago, long_ago);
    await writeSounds(db, folder, [sum]);
    expect((await stat(path)).mtime).toEqual(long_ago);
    await writeFile(path, 'half');
    await writeSounds(db, folder, [sum]);
    expect((await readFile(path)).equals(wav(6))).toBe(true);
    // What nobody has is not written, nor is anything where nothing is wanted.
    await expect(stat(join(soundsFolder(folder), sumOf(wav(60))))).rejects.toThrow('ENOENT');
    await writeSounds(db, join(folder, 'none'), []);
    await expect(stat(join(folder, 'none'))).rejects.toThrow('ENOENT');
  });

  test('none goes while a back-up cannot be read: it may need any of them', async () => {
    const sum = await takeIn(wav(7));
    await writeSounds(db, folder, [sum]);
    await writeFile(join(folder, 'broken.wingman'), 'no ZIP');
    await dropUnused(folder, ['broken.wingman']);
    expect((await stat(join(soundsFolder(folder), sum))).size).toBe(wav(7).length);
    await dropUnused(folder, []);
    await expect(stat(join(soundsFolder(folder), sum))).rejects.toThrow('ENOENT');
  });

  test('what is no longer kept is brought back; what is another by now, or gone, is not', async () => {
    const [good, bad] = [wav(8), wav(9)];
    const sums = [await takeIn(good), await takeIn(bad)] as const;
    await writeSounds(db, folder, sums);
    await db.deleteFrom('sounds_kept').execute();
    await writeFile(join(soundsFolder(folder), sums[1]), wav(90));
    const asked = [...sums, sumOf(wav(91))].map((sha256) => ({ sha256 }) as never);
    await bringBack(db, folder, asked);
    expect(await soundKept(db, sums[0])).toMatchObject({ bytes: good.length });
    expect(await soundKept(db, sums[1])).toBeUndefined();
    expect(await kept()).toBe(1);
  });
});
