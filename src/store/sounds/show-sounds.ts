/** The sounds of a whole show: whether they are here, what they were measured to be, and how they leave with its file. */
import { appendStored, type Appended } from '../../core/formats/zip-append.ts';
import { soundsOf, type ShowFile } from '../../core/formats/show-file.ts';
import { refuse, type Result } from '../../core/refusal.ts';
import { changeOf } from '../../core/show/fields-of.ts';
import type { MutableShow } from '../../core/show/show.ts';
import type { Database } from '../database.ts';
import { linkSounds, missingSounds, readerOf, soundKept, PIECE_BYTES } from './kept.ts';

const sumsOf = (show: MutableShow): string[] => soundsOf(show.sounds.values()).map((s) => s.sha256);

/** Rows say of their files what was measured here, whatever the show file says; refused where one is not here. */
export async function settleSounds(db: Database, file: ShowFile): Promise<Result<true>> {
  const missing = new Set(await missingSounds(db, sumsOf(file.show)));
  for (const row of [...file.show.sounds.values()]) {
    if (!row.file) continue;
    if (missing.has(row.file.sha256))
      return refuse(
        'invalid',
        `The file is not whole: the sound “${row.name}” is missing. Use another copy or a back-up. Nothing was changed.`,
      );
    const about = await soundKept(db, row.file.sha256);
    if (about) file.show.apply([changeOf('sounds', row, { ...row, file: about })]);
  }
  return true;
}

/** That a show has the files that its rows speak of. */
export const linkShow = (db: Database, showId: string, show: MutableShow): Promise<void> =>
  linkSounds(db, showId, sumsOf(show));

interface KeptFile extends Appended {
  id: string;
}

async function filesOf(db: Database, sums: readonly string[]): Promise<KeptFile[]> {
  if (sums.length === 0) return [];
  const rows = await db
    .selectFrom('sounds_kept')
    .select(['id', 'sha256', 'about', 'crc32'])
    .where('sha256', 'in', [...sums])
    .orderBy('sha256')
    .execute();
  return rows.flatMap(({ id, sha256, about, crc32 }) =>
    about
      ? [{ id, name: `sounds/${sha256}.${about.kind}`, bytes: about.bytes, crc32: Number(crc32) }]
      : [],
  );
}

/**
 * A show file with its sounds in it, as it is sent: never more of a sound in memory than a piece.
 * @param sums of the sounds that go with it
 */
export async function withSounds(
  db: Database,
  zip: Uint8Array,
  sums: readonly string[],
): Promise<{ bytes: number; pieces: () => AsyncGenerator<Uint8Array> }> {
  const files = await filesOf(db, sums);
  const { parts, bytes } = appendStored(zip, files);
  return {
    bytes,
    pieces: async function* () {
      for (const part of parts) {
        if (part instanceof Uint8Array) {
          yield part;
          continue;
        }
        const { id, bytes: size } = part as KeptFile;
        const { read } = readerOf(db, id, size);
        for (let at = 0; at < size; at += PIECE_BYTES) yield await read(at, at + PIECE_BYTES);
      }
    },
  };
}
