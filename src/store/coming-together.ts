/** Coming together again: another show, or a file of it, merged into one or brought in by parts. */
import { importParts, type Wanted } from '../core/bring-in/bring-in.ts';
import { mapFixtures, type Mapping } from '../core/bring-in/mapping.ts';
import type { ShowFile } from '../core/formats/show-file.ts';
import { isRefusal, refuse, type Refusal, type Result } from '../core/refusal.ts';
import { same } from '../core/same.ts';
import { compareShows, type Item } from '../core/show/compare.ts';
import { mergeShows, type Conflict, type Decisions } from '../core/show/merge.ts';
import { showBefore } from '../core/show/past.ts';
import { showName, type MutableShow, type RowChange } from '../core/show/show.ts';
import type { Change } from '../core/show/undo.ts';
import type { Also, Author, EditResult, Over, ShowStore } from './commit.ts';
import type { Database, Origin } from './database.ts';
import { note } from './journal.ts';
import { changesAfter, undoneOf } from './shows.ts';
import { linkShow } from './sounds/show-sounds.ts';

/** The other side of a merge: its state, its log, and what it came from. */
export interface Other {
  id: string;
  name: string;
  seq: number;
  show: MutableShow;
  origin: Origin | null;
  /** Changes after change `n` of it, oldest first. */
  after: (n: number) => Promise<readonly Change[]>;
}

/** A file as the other side of a comparison. */
export const otherFromFile = (file: ShowFile): Other => ({
  id: file.manifest.show.id,
  name: file.manifest.show.name,
  seq: file.manifest.seq,
  show: file.show,
  origin: file.manifest.origin,
  after: (n) => Promise.resolve(file.changes.filter((c) => c.seq > n)),
});

/** A show of this house as the other side of a comparison. */
export async function otherFromShow(store: ShowStore, showId: string): Promise<Result<Other>> {
  const copy = await store.open(showId);
  const row = await store.db
    .selectFrom('shows')
    .select('origin')
    .where('id', '=', showId)
    .executeTakeFirst();
  if (!copy || !row) return refuse('not-found', 'The other show does not exist.');
  const { seq } = copy;
  const show = copy.show.clone();
  return {
    id: showId,
    name: showName(show),
    seq,
    show,
    origin: row.origin,
    after: async (n) => (await changesAfter(store.db, showId, n)).filter((c) => c.seq <= seq),
  };
}

/** The newest state of another show that was merged into this one, and has not been undone since. */
async function lastMerge(
  db: Database,
  into: string,
  sourceId: string,
  upTo = Number.MAX_SAFE_INTEGER,
): Promise<{ source_seq: number } | undefined> {
  const merges = await db
    .selectFrom('merges')
    .select(['source_seq', 'seq'])
    .where('show_id', '=', into)
    .where('source_id', '=', sourceId)
    .orderBy('source_seq', 'desc')
    .orderBy('seq', 'desc')
    .execute();
  if (merges.length === 0) return undefined;
  const undone = await undoneOf(db, into);
  return merges.find((m) => m.source_seq <= upTo && !undone.has(m.seq));
}

/** The state that both began from, or why there is none. */
async function commonAncestor(
  db: Database,
  showId: string,
  ours: MutableShow,
  other: Other,
): Promise<{ base: MutableShow; said: string } | Refusal> {
  const row = await db
    .selectFrom('shows')
    .select('origin')
    .where('id', '=', showId)
    .executeTakeFirstOrThrow();
  const own = row.origin;
  const oursAt = async (seq: number): Promise<MutableShow> =>
    showBefore(ours, await changesAfter(db, showId, seq));
  const theirsAt = async (seq: number): Promise<MutableShow> =>
    showBefore(other.show, await other.after(seq));
  // What was merged before is the newest that both have.
  const merged = await lastMerge(db, showId, other.id, other.seq);
  if (merged)
    return { base: await theirsAt(merged.source_seq), said: `since it was merged here last` };
  const given = await lastMerge(db, other.id, showId);
  if (other.id === showId)
    return refuse(
      'conflict',
      'This file is an older state of this very show: there is nothing to merge. Compare it with a version, or open it as a copy.',
    );
  if (given)
    return {
      base: await oursAt(given.source_seq),
      said: 'since this show was merged into it last',
    };
  if (other.origin?.id === showId)
    return { base: await oursAt(other.origin.seq), said: 'since it was copied from here' };
  if (own?.id === other.id && own.seq <= other.seq)
    return { base: await theirsAt(own.seq), said: 'since this show was copied from it' };
  if (own && other.origin?.id === own.id)
    return own.seq <= other.origin.seq
      ? { base: await oursAt(0), said: 'since both were copied from one show' }
      : { base: await theirsAt(0), said: 'since both were copied from one show' };
  return refuse(
    'unrelated',
    `“${other.name}” and this show do not come from one another, so it cannot be told who changed what. Bring parts of it in instead.`,
  );
}

/** What a merge would do. */
export interface MergePreview {
  said: string;
  /** What would come in, in words. */
  items: Item[];
  conflicts: Conflict[];
  open: number;
  notes: string[];
  changes: RowChange[];
  seq: number;
}

/** What a merge would do. Nothing is written. */
export async function previewMerge(
  store: ShowStore,
  showId: string,
  other: Other,
  decisions: Decisions,
): Promise<Result<MergePreview>> {
  const copy = await store.open(showId);
  if (!copy) return refuse('not-found', 'This show does not exist.');
  const ours = copy.show.clone();
  const { seq } = copy;
  const ancestor = await commonAncestor(store.db, showId, ours, other);
  if (isRefusal(ancestor)) return ancestor;
  const merged = mergeShows(ancestor.base, ours, other.show, decisions);
  return {
    said: ancestor.said,
    items: compareShows(ours, merged.after, merged.changes),
    conflicts: merged.conflicts,
    open: merged.open,
    notes: merged.notes,
    changes: merged.changes,
    seq,
  };
}

/** How far back it is looked who made what a merge writes over. */
const JUDGED = 5000;

/** Merges, all or nothing; refused while a conflict is undecided. */
export async function mergeInto(
  store: ShowStore,
  showId: string,
  author: Author,
  other: Other,
  decisions: Decisions,
  editId: string,
): Promise<Result<EditResult>> {
  const plan = async (
    show: MutableShow,
    seq: number,
    trx: Database,
  ): Promise<{ changes: RowChange[]; summary: string; over: Over } | Refusal> => {
    const ancestor = await commonAncestor(trx, showId, show, other);
    if (isRefusal(ancestor)) return ancestor;
    const merged = mergeShows(ancestor.base, show, other.show, decisions);
    if (merged.open > 0)
      return refuse(
        'conflict',
        `${merged.open === 1 ? 'One conflict is' : `${merged.open} conflicts are`} not decided yet. Nothing was changed.`,
      );
    // What both changed, and was decided for the other side.
    const over = merged.changes.filter(
      (c) =>
        c.before &&
        !same((ancestor.base[c.table] as ReadonlyMap<string, unknown>).get(c.id), c.before),
    );
    return {
      over: {
        rows: over,
        past: over.length > 0 ? await changesAfter(trx, showId, Math.max(0, seq - JUDGED)) : [],
      },
      changes: merged.changes,
      summary: `Merged “${other.name}”: ${merged.changes.length} rows${merged.conflicts.length > 0 ? `, ${merged.conflicts.length} conflicts decided` : ''}`,
    };
  };
  // That it was merged is part of the merge: without it the next one would bring everything again.
  const also: Also = async (trx, change) => {
    await linkShow(trx, showId, other.show);
    await trx
      .insertInto('merges')
      .values({ show_id: showId, source_id: other.id, source_seq: other.seq, seq: change.seq })
      .onConflict((oc) => oc.doNothing())
      .execute();
    await note(trx, showId, {
      userId: author.userId,
      userName: author.name,
      kind: 'file',
      text: change.summary,
    });
  };
  return store.apply(showId, author, editId, 'merge', plan, { also });
}

interface BroughtIn {
  other: Other;
  wanted: Wanted;
  by: Mapping;
  /** Units of the other by hand: to which of ours, or to none. */
  own: Readonly<Record<string, string | null>>;
  editId: string;
  preview: boolean;
}

/** Parts of another show, mapped onto this one; with `preview` nothing is written. */
export async function bringIn(
  store: ShowStore,
  showId: string,
  author: Author,
  { other, wanted, by, own, editId, preview }: BroughtIn,
): Promise<(EditResult & { notes: string[] }) | Refusal> {
  let notes: string[] = [];
  const done = await store.apply(
    showId,
    author,
    editId,
    'import-parts',
    (show) => {
      const mapping = new Map([...mapFixtures(show, other.show, by), ...Object.entries(own)]);
      let n = 0;
      const planned = importParts(
        show,
        other.show,
        wanted,
        mapping,
        () => `${editId}-${(n++).toString(36)}`,
      );
      if (isRefusal(planned)) return Promise.resolve(planned);
      notes = planned.notes;
      return Promise.resolve({
        changes: planned.changes,
        summary: `${planned.summary} from “${other.name}”`,
      });
    },
    { preview },
  );
  return isRefusal(done) ? done : { ...done, notes };
}
