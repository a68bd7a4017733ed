/** Sounds beside the rows: kept whole or not at all, measured and not believed, in show files and back-ups. */
import { createHash, randomUUID } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { sql } from 'kysely';
import { unzipSync } from 'fflate';
import { isRefusal } from '../../core/refusal.ts';
import { planSoundFile } from '../../core/sounds/edits.ts';
import { STEP_BYTES, stepOf } from '../../core/sounds/shape.ts';
import { backUp, readBackup } from '../backups.ts';
import { ShowStore, type Author } from '../commit.ts';
import { connect, type Database } from '../database.ts';
import { copyShow } from '../copies.ts';
import { exportShow, openFile, readIn } from '../files.ts';
import { migrate } from '../migrate.ts';
import { must } from '../simulated-crew.ts';
import { createShow, loadShow } from '../shows.ts';
import {
  linkSounds,
  PIECE_BYTES,
  readerOf,
  receiveSound,
  roomFor,
  shapeOfShow,
  soundKept,
  soundOfShow,
  sweepSounds,
  type Arrived,
} from './kept.ts';
import { measureSound, takeInSound } from './measure.ts';
import { withSounds } from './show-sounds.ts';

let db: Database;
const mara: Author = { userId: randomUUID(), name: 'Mara Kell' };
beforeAll(async () => {
  db = connect(process.env.WINGMAN_TEST_DATABASE ?? '', 6).db;
  await migrate(db);
  await db
    .insertInto('user')
    .values({ id: mara.userId, name: mara.name, email: `${mara.userId}@tidewater.example` })
    .execute();
});
afterAll(() => db.destroy());

const testdata = (name: string): Promise<Buffer> =>
  readFile(join(import.meta.dirname, 'testdata', name));

/** A WAV by hand: 16 bits, with what its header says of its length put in. */
function wav(
  samples: readonly number[] | Float32Array,
  rate_hz = 8000,
  { channels = 1, says = samples.length * 2 } = {},
): Buffer {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE((36 + says) >>> 0, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(channels, 22);
  head.writeUInt32LE(rate_hz, 24);
  head.writeUInt32LE(rate_hz * channels * 2, 28);
  head.writeUInt16LE(channels * 2, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(says >>> 0, 40);
  const data = Buffer.alloc(samples.length * 2);
  samples.forEach((v, i) => data.writeInt16LE(Math.round(v * 32_767), i * 2));
  return Buffer.concat([head, data]);
}
const sine = (seconds: number, rate_hz = 8000, seed = 0): number[] =>
  Array.from(
    { length: Math.round(seconds * rate_hz) },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * (220 + seed) * i) / rate_hz),
  );

const inParts = (bytes: Uint8Array, size = 70_001): Readable =>
  Readable.from(
    Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
      bytes.subarray(i * size, (i + 1) * size),
    ),
  );
const arrive = async (bytes: Uint8Array): Promise<Arrived> =>
  must(await receiveSound(db, inParts(bytes)));
const measured = async (bytes: Uint8Array) => {
  const arrived = await arrive(bytes);
  return measureSound(arrived, readerOf(db, arrived.id, arrived.bytes));
};
const pieces = async (): Promise<number> =>
  Number((await sql<{ n: string }>`select count(*) n from sound_pieces`.execute(db)).rows[0]?.n);

async function showWith(bytes: Uint8Array, name = 'Waltz'): Promise<{ id: string; sum: string }> {
  const { id } = must(await createShow(db, mara.userId, 'Harbour lights'));
  const { about } = must(await takeInSound(db, await arrive(bytes)));
  must(
    await new ShowStore(db).apply(
      id,
      mara,
      randomUUID(),
      'bring-sound',
      (show) => Promise.resolve(planSoundFile(show, { name, file: about }, randomUUID())),
      { also: (trx) => linkSounds(trx, id, [about.sha256]) },
    ),
  );
  return { id, sum: about.sha256 };
}
const whole = async (parts: AsyncGenerator<Uint8Array>): Promise<Buffer> => {
  const all: Uint8Array[] = [];
  for await (const part of parts) all.push(part);
  return Buffer.concat(all);
};

describe('what comes in', () => {
  test('a file of several pieces is kept byte by byte, and read from anywhere', async () => {
    const bytes = wav(sine(200, 8000, 3));
    const { sha256, id, ...arrived } = await arrive(bytes);
    expect(sha256).toBe(createHash('sha256').update(bytes).digest('hex'));
    expect(arrived).toMatchObject({ bytes: bytes.length, kind: 'wav' });
    const { read } = readerOf(db, id, bytes.length);
    for (const [from, to] of [
      [0, 44],
      [PIECE_BYTES - 5, PIECE_BYTES + 5],
      [bytes.length - 3, bytes.length + 900],
      [1000, 3_000_000],
    ] as const)
      expect(Buffer.from(await read(from, to)).equals(bytes.subarray(from, to))).toBe(true);
  });

  test('what is no sound, and what breaks off, leaves nothing behind', async () => {
    const before = await pieces();
    expect(
      await receiveSound(db, inParts(Buffer.from('<html>nothing to hear</html>'))),
    ).toMatchObject({
      code: 'invalid',
      message: expect.stringContaining('WAV, MP3, Ogg, FLAC and M4A'),
    });
    expect(await receiveSound(db, inParts(Buffer.alloc(0)))).toMatchObject({ code: 'invalid' });
    const breaks = function* (): Generator<Uint8Array> {
      yield wav(sine(150));
      throw new Error('the cable');
    };
    await expect(receiveSound(db, Readable.from(breaks()))).rejects.toThrow('the cable');
    expect(await pieces()).toBe(before);
  });

  test('the same file twice is kept once', async () => {
    const bytes = wav(sine(2, 8000, 11));
    must(await takeInSound(db, await arrive(bytes)));
    const before = await pieces();
    const again = must(await takeInSound(db, await arrive(bytes)));
    expect(again.about.length_s).toBe(2);
    expect(await pieces()).toBe(before);
  });
});

describe('what it is measured to be', () => {
  test.each([
    ['tone.flac', 22_050, 1, 0.002],
    ['tone.mp3', 44_100, 2, 0.06],
    ['vorbis.ogg', 44_100, 2, 0.03],
    ['opus.ogg', 48_000, 2, 0.03],
    ['tone.m4a', 44_100, 2, 0.06],
    ['tables-first.m4a', 44_100, 2, 0.06],
  ])(
    '%s: a second and a half, and a tone that begins in the middle of its first second',
    async (name, rate_hz, channels, off) => {
      const found = must(await measured(await testdata(name)));
      expect(found.about).toMatchObject({ rate_hz, channels });
      expect(Math.abs(found.about.length_s - 1.5)).toBeLessThan(off);
      const [shape = new Uint8Array()] = found.zooms;
      const loud = Array.from(
        { length: shape.length / STEP_BYTES },
        (_, i) => stepOf(shape, i).loud,
      );
      const begins = loud.findIndex((v) => v > 0.2);
      expect(Math.abs(begins / 100 - 0.5)).toBeLessThan(0.035 + off);
      expect(found.problem).toBeUndefined();
    },
  );

  test('an MP4 whose tables come last is the one whose tables come first', async () => {
    const [last, first] = [
      must(await measured(await testdata('tone.m4a'))),
      must(await measured(await testdata('tables-first.m4a'))),
    ];
    expect(last.zooms[0]).toEqual(first.zooms[0]);
    // Nothing stands in the way, also a box that is only its head.
    const bytes = await testdata('tone.m4a');
    const tables = bytes.indexOf('moov') - 4;
    const empty = Buffer.from([0, 0, 0, 8, ...Buffer.from('free')]);
    const apart = Buffer.concat([bytes.subarray(0, tables), empty, bytes.subarray(tables)]);
    expect(must(await measured(apart)).zooms[0]).toEqual(first.zooms[0]);
  });

  test('boxes in boxes without an end are a sound that cannot be read, and nothing worse', async () => {
    const bytes = await testdata('tone.m4a');
    const tables = bytes.indexOf('moov') - 4;
    const DEEP = 200_000;
    const nest = Buffer.alloc(DEEP * 8);
    for (let i = 0; i < DEEP; i++) {
      nest.writeUInt32BE((DEEP - i) * 8, i * 8);
      nest.write(i === 0 ? 'moov' : 'trak', i * 8 + 4, 'latin1');
    }
    const found = await measured(Buffer.concat([bytes.subarray(0, tables), nest]));
    expect(found).toMatchObject({
      refused: true,
      message: expect.stringContaining('Nothing was taken in'),
    });
  });

  test('a WAV that lies about its length is as long as it is; silence, 8 kHz and 192 kHz are taken', async () => {
    const lies = must(await measured(wav(sine(3), 8000, { says: 4_000_000_000 })));
    expect(lies.about.length_s).toBe(3);
    const short = must(await measured(wav(sine(3), 8000, { says: 0 })));
    expect(short.about.length_s).toBe(3);
    expect(must(await measured(wav(new Float32Array(8000)))).about).toMatchObject({
      length_s: 1,
      rate_hz: 8000,
      channels: 1,
    });
    expect(must(await measured(wav(sine(0.5, 192_000), 192_000))).about).toMatchObject({
      length_s: 0.5,
      rate_hz: 192_000,
    });
  });

  test('broken in the middle, what can be read of it is taken, or what is left out is said', async () => {
    for (const name of ['tone.mp3', 'vorbis.ogg', 'tone.flac', 'tone.m4a', 'opus.ogg']) {
      const bytes = Buffer.from(await testdata(name));
      bytes.fill(0xaa, Math.floor(bytes.length * 0.5), Math.floor(bytes.length * 0.5) + 300);
      const found = await measured(bytes);
      if (isRefusal(found)) {
        expect(found.message).toContain('Nothing was taken in');
        continue;
      }
      expect(found.about.length_s).toBeGreaterThan(0.15);
      // What is missing is said.
      if (found.about.length_s < 1.4)
        expect([name, found.problem]).toEqual([name, expect.stringContaining('left out')]);
      expect(found.about.length_s).toBeLessThan(2.2);
      const cut = await measured(bytes.subarray(0, Math.floor(bytes.length * 0.4)));
      if (isRefusal(cut)) expect(cut.message).toContain('Nothing was taken in');
    }
  });

  test('what cannot be read in the middle is no fault of the file: nothing is measured, and nothing said of it', async () => {
    const bytes = wav(sine(60));
    const arrived = await arrive(bytes);
    const whole = readerOf(db, arrived.id, arrived.bytes);
    const away = {
      size: whole.size,
      read: (from: number, to: number) =>
        to > bytes.length / 2
          ? Promise.reject(new Error('the database is away'))
          : whole.read(from, to),
    };
    await expect(measureSound(arrived, away)).rejects.toThrow('the database is away');
    expect(must(await measureSound(arrived, whole)).about.length_s).toBe(60);
  });

  test('a head without a body is refused in a sentence', async () => {
    for (const bytes of [
      wav([]),
      Buffer.from('fLaC'.padEnd(64, 'x')),
      Buffer.from('OggS'.padEnd(600, '\0')),
      Buffer.from('ID3\u0004'.padEnd(2000, '\0')),
    ])
      expect(await measured(bytes)).toMatchObject({
        refused: true,
        message: expect.stringContaining('Nothing was taken in'),
      });
  });
});

describe('whose it is', () => {
  test('a show has its own sounds and no others; it takes no more than there is room for', async () => {
    const a = await showWith(wav(sine(1, 8000, 21)));
    const b = await showWith(wav(sine(1, 8000, 22)));
    expect((await soundOfShow(db, a.id, a.sum))?.about.length_s).toBe(1);
    expect(await soundOfShow(db, a.id, b.sum)).toBeUndefined();
    expect(await shapeOfShow(db, a.id, b.sum, 0)).toBeUndefined();
    expect((await shapeOfShow(db, a.id, a.sum, 0))?.length).toBe(100 * STEP_BYTES);
    expect((await shapeOfShow(db, a.id, a.sum, 1))?.length).toBe(25 * STEP_BYTES);
    expect(await roomFor(db, a.id, 1000)).toBe(true);
    expect(await roomFor(db, a.id, 5e9)).toMatchObject({ code: 'limit' });
  });

  test('what nobody has goes after a while, what a show has stays', async () => {
    const { id, sum } = await showWith(wav(sine(1, 8000, 31)));
    const loose = await arrive(wav(sine(1, 8000, 32)));
    const unused = await arrive(wav(sine(1, 8000, 33)));
    must(await takeInSound(db, unused));
    await sweepSounds(db);
    expect(await soundKept(db, unused.sha256)).toBeDefined();
    await sql`update sounds_kept set at = now() - interval '9 days'`.execute(db);
    await sweepSounds(db);
    expect(await soundKept(db, unused.sha256)).toBeUndefined();
    expect(
      await db.selectFrom('sounds_kept').select('id').where('id', '=', loose.id).execute(),
    ).toEqual([]);
    expect(await soundOfShow(db, id, sum)).toBeDefined();
  });

  test('a copy of a show has its sounds, also when the first is gone', async () => {
    const { id, sum } = await showWith(wav(sine(1, 8000, 41)));
    const copy = must(await copyShow(new ShowStore(db), id, mara.userId, 'Copy'));
    await db.deleteFrom('shows').where('id', '=', id).execute();
    await sql`update sounds_kept set at = now() - interval '9 days'`.execute(db);
    await sweepSounds(db);
    expect((await soundOfShow(db, copy.id, sum))?.about.length_s).toBe(1);
  });
});

describe('in a show file', () => {
  async function file(bytes: Uint8Array): Promise<{ id: string; sum: string; zip: Buffer }> {
    const { id, sum } = await showWith(bytes);
    const written = must(await exportShow(new ShowStore(db), id, 'Mara Kell'));
    const out = await withSounds(db, written.bytes, written.sounds);
    const zip = await whole(out.pieces());
    expect(zip.length).toBe(out.bytes);
    return { id, sum, zip };
  }
  /** As on a house that has never heard it. */
  async function forget(id: string, sum: string): Promise<void> {
    await db.deleteFrom('shows').where('id', '=', id).execute();
    await db.deleteFrom('sounds_kept').where('sha256', '=', sum).execute();
  }

  test('it is a ZIP that others read, with the sound as it came', async () => {
    const bytes = wav(sine(150, 8000, 51));
    const { zip, sum } = await file(bytes);
    const files = unzipSync(new Uint8Array(zip));
    expect(Buffer.from(files[`sounds/${sum}.wav`] ?? []).equals(bytes)).toBe(true);
    expect(Object.keys(files)).toContain('tables/sounds.json');
  });

  test('out, forgotten, and in again it is there, measured anew, whatever its row said', async () => {
    const bytes = wav(sine(150, 8000, 52));
    const { id, sum, zip } = await file(bytes);
    await forget(id, sum);
    const read = must(await readIn(db, inParts(zip, 40_003)));
    const opened = must(await openFile(db, mara.userId, read.file));
    const kept = await soundOfShow(db, opened.id, sum);
    expect(kept?.about.length_s).toBe(150);
    expect(Buffer.from((await kept?.reader.read(0, bytes.length)) ?? []).equals(bytes)).toBe(true);
    const [row] = [...((await loadShow(db, opened.id))?.show.sounds.values() ?? [])];
    expect(row).toMatchObject({ name: 'Waltz', file: { sha256: sum, length_s: 150 } });
    expect((await shapeOfShow(db, opened.id, sum, 0))?.length).toBe(15_000 * STEP_BYTES);
  });

  test('a sound that was changed in the file, or is missing from it, refuses the whole', async () => {
    const { id, sum, zip } = await file(wav(sine(90, 8000, 53)));
    await forget(id, sum);
    const changed = Buffer.from(zip);
    const at = changed.indexOf(`sounds/${sum}.wav`) + 400_000;
    changed[at] = (changed[at] ?? 0) ^ 0xff;
    expect(await readIn(db, inParts(changed))).toMatchObject({
      code: 'invalid',
      message: expect.stringContaining('checksum differs'),
    });
    const { bytes } = must(
      await exportShow(new ShowStore(db), (await showWith(wav(sine(1, 8000, 54)))).id, 'M'),
    );
    await sql`delete from show_sounds`.execute(db);
    await sql`delete from sounds_kept`.execute(db);
    expect(await readIn(db, [bytes])).toMatchObject({
      message: expect.stringContaining('the sound “Waltz” is missing'),
    });
  });

  test('a back-up has it beside it, once, and brings it back; with the last that has it, it goes', async () => {
    const data = await mkdtemp(join(tmpdir(), 'wingman-sounds-'));
    const store = new ShowStore(db);
    const { id, sum } = await showWith(wav(sine(3, 8000, 61)));
    const first = await backUp(store, data, id, new Date('2026-11-01T10:00:00Z'));
    const folder = join(data, 'backups', id, 'sounds');
    expect(await readdir(folder)).toEqual([sum]);
    await db.deleteFrom('show_sounds').where('show_id', '=', id).execute();
    await db.deleteFrom('sounds_kept').where('sha256', '=', sum).execute();
    const read = must(await readBackup(db, data, id, first ?? ''));
    const opened = must(await openFile(db, mara.userId, read));
    expect((await soundOfShow(db, opened.id, sum))?.about.length_s).toBe(3);
    const sound = [...read.show.sounds.values()][0];
    must(
      await store.edit(id, mara, {
        edit: 'delete-sound',
        params: { id: sound?.id },
        editId: randomUUID(),
      }),
    );
    // Every back-up with it is past its time long since.
    for (let day = 2; day < 60; day++) {
      must(
        await store.edit(id, mara, {
          edit: 'change-show',
          params: { set: { note: `${day}` } },
          editId: randomUUID(),
        }),
      );
      await backUp(store, data, id, new Date(Date.UTC(2026, 10, day, 10)));
    }
    expect(await readdir(folder)).toEqual([]);
    await rm(data, { recursive: true });
  }, 60_000);
});
