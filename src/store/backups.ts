/** Back-ups: show files in a folder, written by themselves, a folder for each show, the newest and one a day kept. */
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { outdated } from '../core/formats/rotation.ts';
import type { Backup } from '../core/live/answers.ts';
import { isRefusal, refuse, type Result } from '../core/refusal.ts';
import { readShowFile } from '../core/formats/read-show-file.ts';
import { type ShowFile } from '../core/formats/show-file.ts';
import type { ShowStore } from './commit.ts';
import { exportShow } from './files.ts';
import { bringBack, dropUnused, writeSounds } from './sounds/back-up.ts';
import { settleSounds } from './sounds/show-sounds.ts';
import type { Database } from './database.ts';

/** Where a house keeps its backups. */
export const backupFolder = (data: string): string => join(data, 'backups');
const ID = /^[A-Za-z0-9-]{1,120}$/;
const FILE = /^(\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2})Z-(\d+)\.wingman$/;

const timeOf = (name: string): number => {
  const stamp = FILE.exec(name)?.[1];
  return stamp ? Date.parse(`${stamp.slice(0, 10)}T${stamp.slice(11).replaceAll('-', ':')}Z`) : NaN;
};

async function filesOf(folder: string, showId: string): Promise<Backup[]> {
  const names = await readdir(join(folder, showId)).catch(() => []);
  const found = names
    .filter((n) => FILE.test(n))
    .sort()
    .reverse();
  return Promise.all(
    found.map(async (file) => ({
      showId,
      file,
      at: new Date(timeOf(file)).toISOString(),
      seq: Number(FILE.exec(file)?.[2]),
      bytes: (await stat(join(folder, showId, file))).size,
    })),
  );
}

/** Newest first. */
export const listBackups = (data: string, showId: string): Promise<Backup[]> =>
  ID.test(showId) ? filesOf(backupFolder(data), showId) : Promise.resolve([]);

/** Writes one, whole or not at all, and takes away what is outdated. @returns undefined when the newest has this state already */
export async function backUp(
  store: ShowStore,
  data: string,
  showId: string,
  now = new Date(),
  by = 'Wingman, by itself',
): Promise<string | undefined> {
  const folder = join(backupFolder(data), showId);
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const before = await filesOf(backupFolder(data), showId);
  const seq = (await store.open(showId))?.seq;
  if (seq === undefined || before[0]?.seq === seq) return undefined;
  const written = await exportShow(store, showId, by);
  if (isRefusal(written)) return undefined;
  const name = `${now.toISOString().slice(0, 19).replaceAll(':', '-')}Z-${written.seq}.wingman`;
  await writeSounds(store.db, folder, written.sounds);
  await writeFile(join(folder, `${name}.part`), written.bytes, { mode: 0o600 });
  await rename(join(folder, `${name}.part`), join(folder, name));
  const all = [name, ...before.map((b) => b.file)];
  const gone = new Set(outdated(all.map(timeOf), now.getTime()));
  for (const file of all) if (gone.has(timeOf(file))) await rm(join(folder, file), { force: true });
  if (gone.size > 0)
    await dropUnused(
      folder,
      all.filter((file) => !gone.has(timeOf(file))),
    );
  return name;
}

/** A back-up with its sounds: those that are no longer kept are taken in again from beside it. */
export async function readBackup(
  db: Database,
  data: string,
  showId: string,
  file: string,
): Promise<Result<ShowFile>> {
  if (!ID.test(showId) || !FILE.test(file))
    return refuse('invalid', 'This is not the name of a back-up.');
  const bytes = await readFile(join(backupFolder(data), showId, file)).catch(() => undefined);
  if (!bytes)
    return refuse('not-found', 'This back-up is no longer there; newer ones have taken its place.');
  const read = await readShowFile(new Uint8Array(bytes));
  if (isRefusal(read)) return read;
  await bringBack(db, join(backupFolder(data), showId), read.manifest.sounds);
  const settled = await settleSounds(db, read);
  return isRefusal(settled) ? settled : read;
}
