/**
 * Files of sounds beside the rows of shows: in the database in pieces, known by what is in them, once for all shows that
 * have them. Nothing of them goes through an edit, an undo or a socket.
 */
import { createHash, randomUUID } from 'node:crypto';
import { crc32 } from 'node:zlib';
import { sql } from 'kysely';
import { soundKind, SNIFFED } from '../../core/sounds/kinds.ts';
import { SOUND_BYTES, type SoundFile, type SoundKind } from '../../core/sounds/rows.ts';
import { refuse, type Result } from '../../core/refusal.ts';
import type { Database } from '../database.ts';

/** Of the database: large enough to be few, small enough to be held by many who read at once. */
export const PIECE_BYTES = 1024 * 1024;
/** All sounds of a show together. */
const SHOW_BYTES = 4 * 1024 * 1024 * 1024 - 256 * 1024 * 1024;

const NO_SOUND = refuse(
  'invalid',
  'This is no sound that Wingman reads: WAV, MP3, Ogg, FLAC and M4A are. Nothing was taken in.',
);
const TOO_LARGE = refuse(
  'too-large',
  `A sound has at most ${SOUND_BYTES / 1024 / 1024} MB. Nothing was taken in.`,
);

/** A file that has come in whole, and is not measured yet. */
export interface Arrived {
  id: string;
  sha256: string;
  crc32: number;
  bytes: number;
  kind: SoundKind;
}

/** Any part of a file. */
export interface SoundReader {
  size: number;
  /** @param to beyond the last byte that is wanted */
  read: (from: number, to: number) => Promise<Uint8Array>;
}

/** A reader that remembers why it could not read: a decoder that stops because nothing comes has found nothing broken. */
export function remembering(reader: SoundReader): SoundReader & { failed: () => Error | null } {
  let failed: Error | null = null;
  return {
    size: reader.size,
    read: (from, to) =>
      reader.read(from, to).catch((error: unknown) => {
        failed = error instanceof Error ? error : new Error(String(error));
        throw failed;
      }),
    failed: () => failed,
  };
}

/** Pieces of one size, whatever came in. */
async function* evenPieces(from: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  let waiting: Uint8Array[] = [];
  let size = 0;
  for await (const part of from) {
    waiting.push(part);
    size += part.length;
    if (size < PIECE_BYTES) continue;
    const whole = Buffer.concat(waiting);
    let at = 0;
    for (; at + PIECE_BYTES <= whole.length; at += PIECE_BYTES)
      yield whole.subarray(at, at + PIECE_BYTES);
    waiting = [whole.subarray(at)];
    size = whole.length - at;
  }
  if (size > 0) yield Buffer.concat(waiting);
}

/**
 * Keeps a file as it comes, never more of it in memory than a piece. What does not come whole is taken away again.
 * @throws what reading it throws
 */
export async function receiveSound(
  db: Database,
  from: AsyncIterable<Uint8Array>,
): Promise<Result<Arrived>> {
  const id = randomUUID();
  const hash = createHash('sha256');
  let [bytes, n, crc] = [0, 0, 0];
  let kind: SoundKind | undefined;
  await db.insertInto('sounds_kept').values({ id }).execute();
  try {
    for await (const piece of evenPieces(from)) {
      if (n === 0 && !(kind = soundKind(piece.subarray(0, SNIFFED)))) {
        await dropSound(db, id);
        return NO_SOUND;
      }
      bytes += piece.length;
      if (bytes > SOUND_BYTES) {
        await dropSound(db, id);
        return TOO_LARGE;
      }
      hash.update(piece);
      crc = crc32(piece, crc);
      await db.insertInto('sound_pieces').values({ sound: id, n: n++, data: piece }).execute();
    }
  } catch (error) {
    await dropSound(db, id).catch(() => undefined);
    throw error;
  }
  if (!kind) {
    await dropSound(db, id);
    return NO_SOUND;
  }
  return { id, sha256: hash.digest('hex'), crc32: crc, bytes, kind };
}

/** Forgets a sound that nothing names any more. */
export const dropSound = async (db: Database, id: string): Promise<void> => {
  await db.deleteFrom('sounds_kept').where('id', '=', id).execute();
};

/** What is known of a file that is kept; undefined where there is none. */
export async function soundKept(db: Database, sha256: string): Promise<SoundFile | undefined> {
  const row = await db
    .selectFrom('sounds_kept')
    .select('about')
    .where('sha256', '=', sha256)
    .executeTakeFirst();
  return row?.about ?? undefined;
}

/**
 * A file that has been measured is kept for good, with its shape; one that is kept already is not kept twice.
 * @param zooms its shape, the finest first
 */
export async function keepSound(
  db: Database,
  arrived: Arrived,
  about: SoundFile,
  zooms: readonly Uint8Array[],
): Promise<void> {
  await db.transaction().execute(async (trx) => {
    const own = await sql<{ id: string }>`
      update sounds_kept set sha256 = ${arrived.sha256}, crc32 = ${arrived.crc32}, about = ${JSON.stringify(about)}::jsonb
      where id = ${arrived.id} and not exists (select 1 from sounds_kept where sha256 = ${arrived.sha256})
      returning id`.execute(trx);
    if (own.rows.length === 0) return dropSound(trx, arrived.id);
    for (const [zoom, data] of zooms.entries())
      await trx
        .insertInto('sound_shapes')
        .values({ sound: arrived.id, zoom, data: Buffer.from(data) })
        .execute();
    return undefined;
  });
}

/** That a show has these files: they stay as long as it does, also while an undo may bring their rows back. */
export async function linkSounds(
  db: Database,
  showId: string,
  sums: readonly string[],
): Promise<void> {
  if (sums.length === 0) return;
  await sql`
    insert into show_sounds (show_id, sound)
    select ${showId}, id from sounds_kept where sha256 = any(${[...sums]}::text[])
    on conflict do nothing`.execute(db);
}

/** @returns the id of a file that this show has */
async function ofShow(db: Database, showId: string, sha256: string): Promise<string | undefined> {
  const row = await db
    .selectFrom('sounds_kept')
    .innerJoin('show_sounds', 'show_sounds.sound', 'sounds_kept.id')
    .select('sounds_kept.id')
    .where('show_id', '=', showId)
    .where('sha256', '=', sha256)
    .executeTakeFirst();
  return row?.id;
}

async function pieceOf(db: Database, id: string, n: number): Promise<Buffer> {
  const row = await db
    .selectFrom('sound_pieces')
    .select('data')
    .where('sound', '=', id)
    .where('n', '=', n)
    .executeTakeFirst();
  if (!row) throw new Error(`piece ${n} of a sound is missing`);
  return row.data;
}

/** A file by its own id, piece by piece: the one that was read last is kept, since what is read is read in a row. */
export function readerOf(db: Database, id: string, size: number): SoundReader {
  let last: { n: number; data: Buffer } | undefined;
  const piece = async (n: number): Promise<Buffer> => {
    if (last?.n !== n) last = { n, data: await pieceOf(db, id, n) };
    return last.data;
  };
  return {
    size,
    read: async (from, to) => {
      const end = Math.min(to, size);
      const parts: Uint8Array[] = [];
      for (let at = from; at < end;) {
        const n = Math.floor(at / PIECE_BYTES);
        const data = await piece(n);
        const part = data.subarray(at - n * PIECE_BYTES, end - n * PIECE_BYTES);
        parts.push(part);
        at += part.length;
      }
      return parts.length === 1 ? (parts[0] ?? new Uint8Array(0)) : Buffer.concat(parts);
    },
  };
}

/** Reads a file that this show has; undefined where it has not. */
export async function soundOfShow(
  db: Database,
  showId: string,
  sha256: string,
): Promise<{ about: SoundFile; reader: SoundReader } | undefined> {
  const id = await ofShow(db, showId, sha256);
  const about = id === undefined ? undefined : await soundKept(db, sha256);
  return id !== undefined && about ? { about, reader: readerOf(db, id, about.bytes) } : undefined;
}

/** Reads any file that is kept, for Wingman itself. */
export async function soundAnywhere(
  db: Database,
  sha256: string,
): Promise<{ about: SoundFile; reader: SoundReader } | undefined> {
  const row = await db
    .selectFrom('sounds_kept')
    .select(['id', 'about'])
    .where('sha256', '=', sha256)
    .executeTakeFirst();
  return row?.about
    ? { about: row.about, reader: readerOf(db, row.id, row.about.bytes) }
    : undefined;
}

/** @returns undefined where this show has no such file, or there is no such zoom */
export async function shapeOfShow(
  db: Database,
  showId: string,
  sha256: string,
  zoom: number,
): Promise<Buffer | undefined> {
  const id = await ofShow(db, showId, sha256);
  if (id === undefined) return undefined;
  const row = await db
    .selectFrom('sound_shapes')
    .select('data')
    .where('sound', '=', id)
    .where('zoom', '=', zoom)
    .executeTakeFirst();
  return row?.data;
}

/** Whether a show takes another so many bytes. */
export async function roomFor(db: Database, showId: string, bytes: number): Promise<Result<true>> {
  const { all } = await db
    .selectFrom('show_sounds')
    .innerJoin('sounds_kept', 'sounds_kept.id', 'show_sounds.sound')
    .select(sql<string>`coalesce(sum((about->>'bytes')::bigint), 0)`.as('all'))
    .where('show_id', '=', showId)
    .executeTakeFirstOrThrow();
  return Number(all) + bytes > SHOW_BYTES
    ? refuse('limit', 'The sounds of a show have at most 3.75 GB together. Nothing was taken in.')
    : true;
}

/** What came in and was never kept, and what no show has any more, goes after a while. */
export async function sweepSounds(db: Database): Promise<void> {
  await sql`
    delete from sounds_kept k
    where (sha256 is null and at < now() - interval '2 hours')
       or (sha256 is not null and at < now() - interval '8 days'
           and not exists (select 1 from show_sounds s where s.sound = k.id))`.execute(db);
}

/** Whole files that rows speak of, in the order of their sums. @returns those that are not here */
export async function missingSounds(db: Database, sums: Iterable<string>): Promise<string[]> {
  const wanted = [...new Set(sums)].sort();
  if (wanted.length === 0) return [];
  const rows = await db
    .selectFrom('sounds_kept')
    .select('sha256')
    .where('sha256', 'in', wanted)
    .execute();
  const here = new Set(rows.map((r) => r.sha256));
  return wanted.filter((w) => !here.has(w));
}
