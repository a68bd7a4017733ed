/** What happened in a show that is no edit: every GO, the board changing hands, people, and what was refused. */
import { Allowances } from '../core/limits.ts';
import type { JournalEntry, JournalKind } from '../core/live/answers.ts';
import type { Database } from './database.ts';

/** Something for the journal. */
export interface Happened {
  userId: string;
  userName: string;
  kind: JournalKind;
  text: string;
  data?: Record<string, unknown>;
}
/** Entries a show keeps; older ones go. */
const KEPT = 50_000;
const CLEAN_EVERY = 500;

/** Writes it down. */
export async function note(
  db: Database,
  showId: string,
  happened: Happened & { at?: Date },
): Promise<void> {
  const row = await db
    .insertInto('journal')
    .values({
      show_id: showId,
      user_id: happened.userId,
      user_name: happened.userName,
      kind: happened.kind,
      text: happened.text.slice(0, 500),
      data: JSON.stringify(happened.data ?? {}),
      ...(happened.at ? { at: happened.at } : {}),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (Number(row.id) % CLEAN_EVERY !== 0) return;
  const oldest = await db
    .selectFrom('journal')
    .select('id')
    .where('show_id', '=', showId)
    .orderBy('id', 'desc')
    .offset(KEPT)
    .limit(1)
    .executeTakeFirst();
  if (oldest)
    await db
      .deleteFrom('journal')
      .where('show_id', '=', showId)
      .where('id', '<=', oldest.id)
      .execute();
}

/** Which entries are wanted. */
export interface JournalQuery {
  kind?: JournalKind | undefined;
  userId?: string | undefined;
  /** Entries before this one. */
  before?: number | undefined;
  limit: number;
}

/** Newest first. */
export async function readJournal(
  db: Database,
  showId: string,
  q: JournalQuery,
): Promise<JournalEntry[]> {
  let query = db.selectFrom('journal').selectAll().where('show_id', '=', showId);
  if (q.kind) query = query.where('kind', '=', q.kind);
  if (q.userId) query = query.where('user_id', '=', q.userId);
  if (q.before !== undefined) query = query.where('id', '<', String(q.before));
  const rows = await query.orderBy('id', 'desc').limit(q.limit).execute();
  return rows.map((r) => ({
    id: Number(r.id),
    at: r.at.toISOString(),
    userId: r.user_id,
    userName: r.user_name,
    kind: r.kind,
    text: r.text,
    data: r.data,
  }));
}

/** Refusals that somebody may want to know of. */
export const KEPT_REFUSALS: ReadonlySet<string> = new Set([
  'forbidden',
  'part',
  'board',
  'rate',
  'locked',
  'remotes',
]);
/** How often refusals of one person are kept: a flood of them is one line now and then. */
export const refusals = new Allowances(20, 0.5);
