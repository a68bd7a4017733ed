/**
 * The one way to change a show. In one transaction: lock the show's row, bring the copy in memory up to date, check
 * the role, plan, write the rows, append the change, notify. Nothing else writes show rows.
 */
import { sql } from 'kysely';
import { sayFirst } from '../core/said-wrong.ts';
import { consequences, type Consequence } from '../core/cues/consequences.ts';
import { EDITORS, type Role } from '../core/roles.ts';
import { mayNot, planEdit } from '../core/edits/plan-edit.ts';
import { isRefusal, refuse, type Refusal, type Result } from '../core/refusal.ts';
import { showBefore } from '../core/show/past.ts';
import { likesLost } from '../core/notes/likes.ts';
import { inOthersParts } from '../core/crew/parts.ts';
import { doublesAfter } from '../core/show/numbers.ts';
import { danglingAfter } from '../core/show/references.ts';
import { TABLES } from '../core/show/tables.ts';
import { describeRow } from '../core/show/words.ts';
import { type MutableShow, type RowChange } from '../core/show/show.ts';
import { planReverse, sayReversed, undoneIn, undoState, type Change } from '../core/show/undo.ts';
import { unseenBy, type Decided } from '../core/show/unseen.ts';
import { CHANNEL } from './channels.ts';
import type { Database } from './database.ts';
import { changesAfter, loadShow, roleOf, writeRows } from './shows.ts';
import { tellConcerned } from './inbox.ts';
import { isDangerous, keepVersion } from './versions.ts';

interface Copy {
  show: MutableShow;
  seq: number;
}

/** Who makes a change. */
export interface Author {
  userId: string;
  name: string;
}

/** One edit of one sender. */
type Asked = Pick<EditRequest, 'edit' | 'editId' | 'preview'>;

/** An edit that is asked for. */
export interface EditRequest {
  edit: string;
  params: unknown;
  /** Chosen by the sender; the same id twice is one edit. */
  editId: string;
  preview?: boolean;
  /** The last change that its sender had seen; work of others since then is not overwritten without a question. */
  seen?: number;
  /** Answers to that question, by key. */
  decided?: Decided;
  /** The change at which the question was asked that these answer. */
  decidedAt?: number;
}

/** An edit that was made, or would be. */
export interface EditResult {
  seq: number;
  summary: string;
  changes: RowChange[];
  consequences?: Consequence[];
}

const NO_SHOW = refuse('not-found', 'This show does not exist, or you are not one of its people.');

/** So far back it is looked for what can be undone instead. */
const UNDO_LOOKED_AT = 30;
/** Copies of shows that are kept between edits; the oldest goes when there are more. */
const KEPT_COPIES = 12;
/** Changes of others that are read at a time. */
const CAUGHT_UP_AT_ONCE = 500;

/** Shows, kept in memory as of their newest change, and the one way to change them. */
export class ShowStore {
  private readonly copies = new Map<string, Copy>();

  constructor(readonly db: Database) {}

  /** The show as of its newest change. The copy is shared: read it, do not change it. */
  async open(showId: string, db: Database = this.db): Promise<Copy | undefined> {
    let copy = this.copies.get(showId);
    if (copy) {
      await this.catchUp(showId, copy, db);
    } else {
      copy = await loadShow(db, showId);
      if (!copy) return undefined;
    }
    this.copies.delete(showId);
    this.copies.set(showId, copy);
    const oldest = this.copies.keys().next().value;
    if (this.copies.size > KEPT_COPIES && oldest !== undefined) this.copies.delete(oldest);
    return copy;
  }

  private async catchUp(showId: string, copy: Copy, db: Database): Promise<void> {
    for (;;) {
      const missed = await changesAfter(db, showId, copy.seq, CAUGHT_UP_AT_ONCE);
      for (const change of missed) advance(copy, change);
      if (missed.length < CAUGHT_UP_AT_ONCE) return;
    }
  }

  async edit(showId: string, author: Author, request: EditRequest): Promise<Result<EditResult>> {
    return this.commit(showId, author, request, async (show, role, trx, seq) => {
      const planned = planEdit(show, role, request.edit, request.params, request.editId, {
        ...author,
        at: new Date().toISOString(),
      });
      if (isRefusal(planned)) return planned;
      if (request.preview || request.seen === undefined || request.seen >= seq)
        return { ...planned, reverts: null };
      const since = await changesAfter(trx, showId, request.seen);
      const { unseen, changes } = unseenBy(
        show,
        planned.changes,
        since,
        author.userId,
        request.decided,
        request.decidedAt,
      );
      if (unseen.length > 0)
        return {
          ...refuse(
            'unseen',
            `${unseen[0]?.who ?? 'Somebody'} has changed ${unseen.length === 1 ? `${unseen[0]?.title ?? 'this'}` : `${unseen.length} of these`} since you looked. Nothing was written yet: see both, and choose.`,
          ),
          unseen: unseen.slice(0, 500),
          seq,
        };
      if (changes.length === 0)
        return refuse(
          'nothing',
          'Everything of this was left as the others made it; nothing was written.',
        );
      if (changes.length < planned.changes.length) {
        const dangling = danglingAfter(show, changes);
        if (dangling)
          return refuse(
            'conflict',
            `This cannot be done in part: ${dangling}. Nothing was changed.`,
          );
      }
      // What was chosen over others' work is told to them.
      return {
        changes,
        summary: planned.summary,
        reverts: null,
        over: { rows: changes, past: since },
      };
    });
  }

  /** A change that is planned outside the table of edits: going back to a version, merging, importing from another show. */
  async apply(
    showId: string,
    author: Author,
    editId: string,
    edit: 'restore' | 'merge' | 'import-parts' | 'bring-sound' | 'import-file',
    plan: (
      show: MutableShow,
      seq: number,
      trx: Database,
    ) => Promise<{ changes: RowChange[]; summary: string; over?: Over } | Refusal>,
    { preview = false, also }: { preview?: boolean; also?: Also } = {},
  ): Promise<Result<EditResult>> {
    const checked = async (
      show: MutableShow,
      role: Role,
      trx: Database,
      seq: number,
    ): Promise<Result<Plan>> => {
      if (!EDITORS.includes(role)) return refuse('forbidden', mayNot(role));
      const planned = await plan(show, seq, trx);
      if (isRefusal(planned)) return planned;
      for (const c of planned.changes) {
        const row = c.after ? TABLES[c.table].row.safeParse(c.after) : undefined;
        if (row && !row.success)
          return refuse(
            'invalid',
            `This cannot be done: ${describeRow(show, c.table, c.after)} would not be valid. ${sayFirst(row.error)} Nothing was changed.`,
          );
      }
      const dangling = danglingAfter(show, planned.changes) ?? doublesAfter(show, planned.changes);
      if (dangling)
        return refuse('conflict', `This cannot be done: ${dangling}. Nothing was changed.`);
      if (planned.changes.length === 0)
        return refuse('nothing', 'Nothing would be different; nothing was written.');
      return { ...planned, reverts: null };
    };
    return this.commit(showId, author, { editId, edit, preview }, checked, also);
  }

  /** The show as it was after change `seq`. Its own copy: it may be changed. */
  async at(showId: string, seq: number, db: Database = this.db): Promise<Result<MutableShow>> {
    const copy = await this.open(showId, db);
    if (!copy) return NO_SHOW;
    if (seq > copy.seq)
      return refuse('not-found', `This show has ${copy.seq} changes so far; there is no ${seq}.`);
    return showBefore(copy.show, await changesAfter(db, showId, seq));
  }

  /** What a person has done and undone, oldest first. */
  async undoList(
    showId: string,
    userId: string,
    db: Database = this.db,
  ): Promise<ReturnType<typeof undoState>> {
    const rows = await db
      .selectFrom('changes')
      .select(['seq', 'user_id', 'edit', 'reverts', 'summary'])
      .where('show_id', '=', showId)
      .where((eb) => eb.or([eb('user_id', '=', userId), eb('reverts', 'is not', null)]))
      .orderBy('seq')
      .execute();
    return undoState(
      rows.map((r) => ({
        seq: r.seq,
        userId: r.user_id,
        edit: r.edit,
        reverts: r.reverts,
        summary: r.summary,
      })),
    );
  }

  /** Undo of one change of anybody, however old, where nothing was built on it. */
  async reverseOne(
    showId: string,
    author: Author,
    seq: number,
    editId: string,
  ): Promise<Result<EditResult>> {
    return this.commit(showId, author, { editId, edit: 'undo' }, async (show, role, trx) => {
      if (!EDITORS.includes(role)) return refuse('forbidden', mayNot(role));
      const [change, ...since] = await changesAfter(trx, showId, seq - 1);
      if (change?.seq !== seq) return refuse('not-found', 'There is no such change in the log.');
      if (undoneIn([change, ...since]).has(seq))
        return refuse(
          'conflict',
          `“${change.summary}” has been undone already. Nothing was changed.`,
        );
      const planned = planReverse(show, change, since);
      if (isRefusal(planned)) return planned;
      return {
        changes: planned,
        summary: sayReversed(
          change.summary,
          change.userId === author.userId ? '' : change.userName,
        ),
        reverts: seq,
      };
    });
  }

  /** Undo or redo of the author's own newest change, refused where others have built on it. */
  async reverse(
    showId: string,
    author: Author,
    way: 'undo' | 'redo',
    editId: string,
  ): Promise<Result<EditResult>> {
    return this.commit(showId, author, { editId, edit: way }, async (show, role, trx) => {
      if (!EDITORS.includes(role)) return refuse('forbidden', mayNot(role));
      const head = (await this.undoList(showId, author.userId, trx))[way];
      if (!head)
        return refuse(
          'nothing',
          way === 'undo'
            ? 'There is nothing of yours to undo.'
            : 'There is nothing of yours to redo.',
        );
      const since = await changesAfter(trx, showId, head.seq - 1);
      const change = since[0];
      if (change?.seq !== head.seq)
        return refuse('nothing', 'This change is no longer in the log.');
      const planned = planReverse(show, change, since.slice(1));
      if (isRefusal(planned)) return planned;
      return { changes: planned, summary: sayReversed(change.summary), reverts: head.seq };
    });
  }

  /** Own changes, newest first, that nothing stands against undoing: offered where the newest cannot be. */
  async undoable(
    showId: string,
    userId: string,
    most: number,
  ): Promise<{ seq: number; summary: string }[]> {
    const copy = await this.open(showId);
    const heads = (await this.undoList(showId, userId)).done.slice(-UNDO_LOOKED_AT);
    const log = heads[0] ? await changesAfter(this.db, showId, heads[0].seq - 1) : [];
    const found: { seq: number; summary: string }[] = [];
    for (const head of heads.reverse()) {
      if (!copy || found.length >= most) break;
      const at = log.findIndex((c) => c.seq === head.seq);
      const change = log[at];
      if (change && !isRefusal(planReverse(copy.show, change, log.slice(at + 1))))
        found.push({ seq: head.seq, summary: head.summary });
    }
    return found;
  }

  private async commit(
    showId: string,
    author: Author,
    { editId, edit, preview = false }: Asked,
    plan: (
      show: MutableShow,
      role: Role,
      trx: Database,
      seq: number,
    ) => Promise<Result<Plan>> | Plan | Refusal,
    also?: Also,
  ): Promise<Result<EditResult>> {
    const committed: { change: Change; copy: Copy }[] = [];
    const done: Result<EditResult> = await this.db.transaction().execute(async (trx) => {
      const held = await hold(trx, showId, author.userId);
      const copy = held ? await this.open(showId, trx) : undefined;
      if (!held || !copy) return NO_SHOW;
      // Asked while the show is held: the same edit twice is one, also when both come at the same moment.
      const known = preview ? undefined : await madeBefore(trx, showId, author, editId);
      if (known) return known;
      const planned = await plan(copy.show, held.role, trx, copy.seq);
      if (isRefusal(planned)) return planned;
      const others = inOthersParts(copy.show, planned.changes, author.userId, held.role);
      if (others) return refuse('part', others);
      if (preview) return previewed(copy, planned);
      const at = new Date().toISOString();
      // What was liked and looks different now is not liked any more, whatever changed it.
      const by = { userId: author.userId, name: author.name, at };
      const rows = [...planned.changes, ...likesLost(copy.show, planned.changes, by)];
      const { summary, reverts } = planned;
      const change: Change = {
        seq: copy.seq + 1,
        editId,
        userId: author.userId,
        userName: author.name,
        at,
        edit,
        summary,
        reverts,
        rows,
      };
      if (isDangerous(edit, rows)) await keepBefore(trx, showId, change);
      await writeChange(trx, showId, change);
      await also?.(trx, change);
      await tellConcerned(trx, { showId, showName: held.name }, copy.show, change, planned.over);
      await tellChanged(trx, showId, change.seq);
      committed.push({ change, copy });
      return { seq: change.seq, summary, changes: rows };
    });
    for (const { change, copy } of committed) advance(copy, change);
    return done;
  }
}

/** Holds a show until the transaction ends: one edit at a time. Undefined where it is not there for this person. */
async function hold(
  trx: Database,
  showId: string,
  userId: string,
): Promise<{ name: string; role: Role } | undefined> {
  const locked = await trx
    .selectFrom('shows')
    .select('name')
    .where('id', '=', showId)
    .forUpdate()
    .executeTakeFirst();
  const role = locked && (await roleOf(trx, showId, userId));
  return role && { name: locked.name, role };
}

/** What an edit did that was made before, for whoever made it and has not heard. */
async function madeBefore(
  trx: Database,
  showId: string,
  author: Author,
  editId: string,
): Promise<Result<EditResult> | undefined> {
  const known = await trx
    .selectFrom('changes')
    .select(['seq', 'summary', 'rows', 'user_id'])
    .where('show_id', '=', showId)
    .where('edit_id', '=', editId)
    .executeTakeFirst();
  if (!known) return undefined;
  return known.user_id === author.userId
    ? { seq: known.seq, summary: known.summary, changes: known.rows }
    : refuse('conflict', 'This edit id has been used.');
}

/** What would come of it; nothing is written. */
function previewed({ show, seq }: Copy, { summary, changes }: Plan): EditResult {
  const aimed = new Set(changes.flatMap((c) => (c.table === 'cues' ? [c.id] : [])));
  return { seq, summary, changes, consequences: consequences(show, changes, aimed) };
}

const keepBefore = (trx: Database, showId: string, change: Change): Promise<unknown> =>
  keepVersion(trx, showId, {
    name: `before: ${change.summary}`,
    seq: change.seq - 1,
    kind: 'before',
    userId: change.userId,
    userName: change.userName,
  });

/** The rows, the log, and where the show stands. */
async function writeChange(trx: Database, showId: string, change: Change): Promise<void> {
  await writeRows(trx, showId, change.rows);
  await trx
    .insertInto('changes')
    .values({
      show_id: showId,
      seq: change.seq,
      edit_id: change.editId,
      user_id: change.userId,
      user_name: change.userName,
      edit: change.edit,
      summary: change.summary,
      reverts: change.reverts,
      rows: JSON.stringify(change.rows),
    })
    .execute();
  const settings = change.rows.find((c) => c.table === 'settings')?.after;
  await trx
    .updateTable('shows')
    .set({
      seq: change.seq,
      changed_at: new Date(),
      ...(settings && 'venue' in settings ? { name: settings.name, venue: settings.venue } : {}),
    })
    .where('id', '=', showId)
    .execute();
}

const tellChanged = (trx: Database, showId: string, seq: number): Promise<unknown> =>
  sql`select pg_notify(${CHANNEL}, ${JSON.stringify({ show: showId, seq })})`.execute(trx);

/** What belongs to a change and is kept elsewhere: written with it, or not at all. */
export type Also = (trx: Database, change: Change) => Promise<void>;

interface Plan {
  changes: RowChange[];
  summary: string;
  reverts: number | null;
  over?: Over;
}
/** Rows that may stand as others made them, and the changes, oldest first, in which it is looked for who that was. */
export interface Over {
  rows: readonly RowChange[];
  past: readonly Change[];
}

/** Applies the change that follows the copy's last one; any other is already in it or will be read with those before it. */
export function advance(copy: Copy, change: Change): boolean {
  if (change.seq !== copy.seq + 1) return false;
  copy.show.apply(change.rows);
  copy.seq = change.seq;
  return true;
}
