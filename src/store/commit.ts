/**
 * The one way to change a show. In one transaction: lock the show's row, bring the copy in memory up to date, check
 * the role, plan, write the rows, append the change, notify. Nothing else writes show rows.
 */
import { sql } from 'kysely';
import { consequences, type Consequence } from '../core/cues/consequences.ts';
import { aRole, type Role } from '../core/edits/edit.ts';
import { planEdit } from '../core/edits/index.ts';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import { type MutableShow, type RowChange } from '../core/show/show.ts';
import { planReverse, undoState, type Change, type ChangeHead } from '../core/show/undo.ts';
import type { Database } from './database.ts';
import { changesAfter, loadShow, roleOf, writeRows } from './shows.ts';

export const CHANNEL = 'wingman_change';

interface Copy {
  show: MutableShow;
  seq: number;
}

export interface Author {
  userId: string;
  name: string;
}

export interface EditRequest {
  edit: string;
  params: unknown;
  /** Chosen by the sender; the same id twice is one edit. */
  editId: string;
  preview?: boolean;
}

export interface EditResult {
  seq: number;
  summary: string;
  changes: RowChange[];
  consequences?: Consequence[];
}

const NO_SHOW = refuse('not-found', 'This show does not exist, or you are not one of its people.');

/** Copies of shows that are kept between edits; the oldest goes when there are more. */
const KEPT_COPIES = 12;

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
      const missed = await changesAfter(db, showId, copy.seq, 500);
      for (const change of missed) advance(copy, change);
      if (missed.length < 500) return;
    }
  }

  async edit(showId: string, author: Author, request: EditRequest): Promise<EditResult | Refusal> {
    const known = await this.db.selectFrom('changes').select(['seq', 'summary', 'rows', 'user_id']).where('show_id', '=', showId).where('edit_id', '=', request.editId).executeTakeFirst();
    if (known) return known.user_id === author.userId ? { seq: known.seq, summary: known.summary, changes: known.rows } : refuse('conflict', 'This edit id has been used.');
    return this.commit(showId, author, request.editId, request.edit, request.preview ?? false, (show, role) => {
      const planned = planEdit(show, role, request.edit, request.params, request.editId);
      if (isRefusal(planned)) return planned;
      return { ...planned, reverts: null };
    });
  }

  /** Undo or redo of the author's own newest change, refused where others have built on it. */
  async reverse(showId: string, author: Author, way: 'undo' | 'redo', editId: string): Promise<EditResult | Refusal> {
    return this.commit(showId, author, editId, way, false, async (show, role, trx) => {
      if (role !== 'owner' && role !== 'programmer') return refuse('forbidden', `${aRole(role)} cannot change this show.`);
      const own: ChangeHead[] = (await trx.selectFrom('changes').select(['seq', 'user_id', 'edit', 'reverts', 'summary']).where('show_id', '=', showId).where('user_id', '=', author.userId).orderBy('seq').execute()).map((r) => ({ seq: r.seq, userId: r.user_id, edit: r.edit, reverts: r.reverts, summary: r.summary }));
      const head = undoState(own)[way];
      if (!head) return refuse('nothing', way === 'undo' ? 'There is nothing of yours to undo.' : 'There is nothing of yours to redo.');
      const since = await changesAfter(trx, showId, head.seq - 1);
      const change = since[0];
      if (!change || change.seq !== head.seq) return refuse('nothing', 'This change is no longer in the log.');
      const planned = planReverse(show, change, since.slice(1));
      if (isRefusal(planned)) return planned;
      const original = change.summary.replace(/^(Undid|Redid): /, '');
      return { changes: planned, summary: `${way === 'undo' ? 'Undid' : 'Redid'}: ${original}`, reverts: head.seq };
    });
  }

  private async commit(
    showId: string,
    author: Author,
    editId: string,
    edit: string,
    preview: boolean,
    plan: (show: MutableShow, role: Role, trx: Database) => Promise<Plan | Refusal> | Plan | Refusal,
  ): Promise<EditResult | Refusal> {
    let committed: { change: Change; copy: Copy } | undefined = undefined as { change: Change; copy: Copy } | undefined;
    const done: EditResult | Refusal = await this.db.transaction().execute(async (trx) => {
      const locked = await trx.selectFrom('shows').select('seq').where('id', '=', showId).forUpdate().executeTakeFirst();
      const role = locked ? await roleOf(trx, showId, author.userId) : undefined;
      const copy = role ? await this.open(showId, trx) : undefined;
      if (!locked || !role || !copy) return NO_SHOW;
      const planned = await plan(copy.show, role, trx);
      if (isRefusal(planned)) return planned;
      const aimed = new Set(planned.changes.flatMap((c) => (c.table === 'cues' ? [c.id] : [])));
      if (preview) return { seq: copy.seq, summary: planned.summary, changes: planned.changes, consequences: consequences(copy.show, planned.changes, aimed) };
      const change: Change = { seq: copy.seq + 1, editId, userId: author.userId, userName: author.name, at: new Date().toISOString(), edit, summary: planned.summary, reverts: planned.reverts, rows: planned.changes };
      await writeRows(trx, showId, planned.changes);
      await trx
        .insertInto('changes')
        .values({ show_id: showId, seq: change.seq, edit_id: editId, user_id: author.userId, user_name: author.name, edit, summary: change.summary, reverts: change.reverts, rows: JSON.stringify(change.rows) })
        .execute();
      const settings = planned.changes.find((c) => c.table === 'settings')?.after;
      await trx
        .updateTable('shows')
        .set({ seq: change.seq, changed_at: new Date(), ...(settings && 'venue' in settings ? { name: settings.name, venue: settings.venue } : {}) })
        .where('id', '=', showId)
        .execute();
      await sql`select pg_notify(${CHANNEL}, ${JSON.stringify({ show: showId, seq: change.seq })})`.execute(trx);
      committed = { change, copy };
      return { seq: change.seq, summary: change.summary, changes: change.rows };
    });
    if (committed !== undefined) advance(committed.copy, committed.change);
    return done;
  }
}

interface Plan {
  changes: RowChange[];
  summary: string;
  reverts: number | null;
}

/** Applies the change that follows the copy's last one; any other is already in it or will be read with those before it. */
export function advance(copy: Copy, change: Change): boolean {
  if (change.seq !== copy.seq + 1) return false;
  copy.show.apply(change.rows);
  copy.seq = change.seq;
  return true;
}

