/** Show files: a show as a file, a file as a show, and files that somebody brought and that wait for a decision. */
import { randomUUID } from 'node:crypto';
import { packEntries, writeShowFile } from '../core/formats/write-show-file.ts';
import { readEntries, readShowFile } from '../core/formats/read-show-file.ts';
import { soundsOf, type Entries, type ShowFile } from '../core/formats/show-file.ts';
import { unpackShowFile } from '../core/formats/unpack-show-file.ts';
import { isRefusal, refuse, type Refusal, type Result } from '../core/refusal.ts';
import { changeOf } from '../core/show/fields-of.ts';
import { showName, type MutableShow, type RowChange } from '../core/show/show.ts';
import type { ShowStore } from './commit.ts';
import type { Database } from './database.ts';
import { changesAfter, createShow } from './shows.ts';
import { SoundsIn } from './sounds/bring.ts';
import { linkShow, settleSounds } from './sounds/show-sounds.ts';

const INCOMING_KEPT = 6;
const PARSED_KEPT = 3;

const asRows = (show: MutableShow): RowChange[] =>
  [...show.rows()].map(({ table, row }) => changeOf(table, null, row));

/** A show as a file, with its log, so that it can be merged back. */
export async function exportShow(
  store: ShowStore,
  showId: string,
  by: string,
): Promise<{ bytes: Uint8Array; name: string; seq: number; sounds: string[] } | Refusal> {
  const copy = await store.open(showId);
  const row = await store.db
    .selectFrom('shows')
    .select(['origin', 'venue'])
    .where('id', '=', showId)
    .executeTakeFirst();
  if (!copy || !row) return refuse('not-found', 'This show does not exist.');
  // What is written is one state, also while others edit.
  const [show, seq] = [copy.show.clone(), copy.seq];
  const changes = (await changesAfter(store.db, showId, 0)).filter((c) => c.seq <= seq);
  const name = showName(show);
  return {
    bytes: await writeShowFile(show, changes, {
      id: showId,
      name,
      venue: row.venue,
      seq,
      origin: row.origin,
      by,
      made: new Date().toISOString(),
    }),
    name,
    seq,
    sounds: soundsOf(show.sounds.values()).map((s) => s.sha256),
  };
}

/** A file as a new show, owned by whoever opens it. It remembers what it came from. */
export async function openFile(
  db: Database,
  userId: string,
  file: ShowFile,
  name?: string,
): Promise<{ id: string } | Refusal> {
  const show = name === undefined ? file.show : renamed(file.show, name);
  const { id: from, venue } = file.manifest.show;
  return db.transaction().execute(async (trx) => {
    const origin = { id: from, seq: file.manifest.seq };
    const made = await createShow(trx, userId, showName(show), venue, asRows(show), origin);
    if (!isRefusal(made)) await linkShow(trx, made.id, show);
    return made;
  });
}

function renamed(show: MutableShow, name: string): MutableShow {
  const settings = show.settings.get('show');
  const copy = show.clone();
  if (settings)
    copy.apply([{ table: 'settings', id: 'show', before: settings, after: { ...settings, name } }]);
  return copy;
}

/** A show file as it comes, its sounds kept on the way. */
export async function readIn(
  db: Database,
  file: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
): Promise<Result<{ file: ShowFile; entries: Entries }>> {
  const entries = await unpackShowFile(file, new SoundsIn(db));
  if (isRefusal(entries)) return entries;
  const read = await readEntries(entries);
  if (isRefusal(read)) return read;
  const settled = await settleSounds(db, read);
  return isRefusal(settled) ? settled : { file: read, entries };
}

/** Keeps a file until it is opened or merged; the oldest of a person goes when there are many. */
export async function takeIn(
  db: Database,
  userId: string,
  name: string,
  bytes: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
): Promise<{ id: string; file: ShowFile } | Refusal> {
  const read = await readIn(db, bytes);
  if (isRefusal(read)) return read;
  const { file, entries } = read;
  const id = randomUUID();
  await db
    .insertInto('incoming')
    .values({
      id,
      user_id: userId,
      name: name.slice(0, 200),
      bytes: Buffer.from(packEntries(entries)),
    })
    .execute();
  const old = await db
    .selectFrom('incoming')
    .select('id')
    .where('user_id', '=', userId)
    .orderBy('at', 'desc')
    .offset(INCOMING_KEPT)
    .execute();
  if (old.length > 0)
    await db
      .deleteFrom('incoming')
      .where(
        'id',
        'in',
        old.map((o) => o.id),
      )
      .execute();
  remember(id, file);
  return { id, file };
}

const parsed = new Map<string, ShowFile>();
function remember(id: string, file: ShowFile): void {
  parsed.set(id, file);
  const oldest = parsed.keys().next().value;
  if (parsed.size > PARSED_KEPT && oldest !== undefined) parsed.delete(oldest);
}

/** A file that somebody has taken in and that waits for a decision; refuses those of others. */
export async function incomingFile(
  db: Database,
  userId: string,
  id: string,
): Promise<Result<ShowFile>> {
  const row = await db
    .selectFrom('incoming')
    .select('user_id')
    .where('id', '=', id)
    .executeTakeFirst();
  if (row?.user_id !== userId)
    return refuse('not-found', 'This file is no longer kept here; bring it along again.');
  const known = parsed.get(id);
  if (known) return known;
  const { bytes } = await db
    .selectFrom('incoming')
    .select('bytes')
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  const file = await readShowFile(new Uint8Array(bytes));
  if (!isRefusal(file)) remember(id, file);
  return file;
}
