/** The inbox of each person: what concerns them, kept until it was read and long after. Written with what caused it, or not at all. */
import { sql } from 'kysely';
import type { Inbox, InboxAsk, InboxEntry } from '../core/live/inbox.ts';
import { concernsOf, type Concern } from '../core/crew/concerns.ts';
import type { RowChange, Show } from '../core/show/show.ts';
import type { Change } from '../core/show/undo.ts';
import type { Database } from './database.ts';
import { MEMBERS_CHANNEL } from './channels.ts';
import { changesAfter } from './shows.ts';

/** Something that is put into an inbox. */
export interface Told extends Concern {
  ask?: InboxAsk;
  /** Its first sight was somewhere else already. */
  quiet?: true;
}
interface About {
  showId: string | null;
  showName: string;
  from: { userId: string; name: string };
}

/** Entries that are kept for a person; older ones go. */
const KEPT = 400;
const PAGE = 100;
/** What is noted about a cue reaches those who worked on it last, at most so many. */
const MAKERS = 4;
const MAKERS_WITHIN = 2000;
const MAKERS_BYTES = 60_000;
/** Notifications hold less than 8000 bytes. */
const FIRST_SIGHT = 400;

/** Puts entries into people's inboxes, and tells their screens. */
export async function tell(db: Database, about: About, told: readonly Told[]): Promise<void> {
  if (told.length === 0) return;
  const rows = told.map((t) => ({
    user_id: t.userId,
    show_id: about.showId,
    show_name: about.showName,
    kind: t.kind,
    text: t.text.slice(0, 600),
    from_id: about.from.userId,
    from_name: about.from.name,
    place: JSON.stringify(t.place),
    ask: JSON.stringify(t.ask ?? null),
  }));
  // An account may be gone by now; then there is nobody to tell.
  const known = new Set(
    (
      await db
        .selectFrom('user')
        .select('id')
        .where(
          'id',
          'in',
          rows.map((r) => r.user_id),
        )
        .execute()
    ).map((u) => u.id),
  );
  const kept = rows.filter((r) => known.has(r.user_id));
  if (kept.length === 0) return;
  await db.insertInto('inbox').values(kept).execute();
  for (const userId of new Set(kept.map((r) => r.user_id))) {
    const old = await db
      .selectFrom('inbox')
      .select('id')
      .where('user_id', '=', userId)
      .orderBy('id', 'desc')
      .offset(KEPT)
      .limit(1)
      .executeTakeFirst();
    if (old)
      await db
        .deleteFrom('inbox')
        .where('user_id', '=', userId)
        .where('id', '<=', old.id)
        .execute();
  }
  for (const t of told)
    if (known.has(t.userId))
      await sql`select pg_notify(${MEMBERS_CHANNEL}, ${JSON.stringify({ inbox: t.userId, of: about.showId, says: t.quiet ? null : t.text.slice(0, FIRST_SIGHT) })})`.execute(
        db,
      );
}

/** What a change is about for others, into their inboxes, in the change's own transaction. */
export async function tellConcerned(
  db: Database,
  about: Omit<About, 'from'>,
  show: Show,
  change: Change,
  over?: { rows: readonly RowChange[]; past: readonly Change[] },
): Promise<void> {
  const reverted =
    change.reverts === null
      ? undefined
      : (await changesAfter(db, about.showId ?? '', change.reverts - 1, 1))[0];
  const makers = new Map<string, string[]>();
  for (const row of change.rows) {
    if (row.table !== 'notes' || row.before || row.after?.cueId === undefined) continue;
    const { cueId } = row.after;
    const found = await db
      .selectFrom('changes')
      .select(['user_id', (eb) => eb.fn.max('seq').as('last')])
      .where('show_id', '=', about.showId ?? '')
      // Far back, and in changes of a whole rig, nobody is looked for: the show waits while this is found.
      .where('seq', '>', change.seq - MAKERS_WITHIN)
      .where(sql<boolean>`pg_column_size(rows) < ${MAKERS_BYTES}`)
      .where(sql<boolean>`rows @> ${JSON.stringify([{ table: 'cues', id: cueId }])}::jsonb`)
      .groupBy('user_id')
      .orderBy('last', 'desc')
      .limit(MAKERS)
      .execute();
    makers.set(
      cueId,
      found.map((f) => f.user_id),
    );
  }
  const judged = over ? { ...change, rows: [...over.rows] } : change;
  await tell(
    db,
    { ...about, from: { userId: change.userId, name: change.userName } },
    concernsOf(show, judged, {
      reverted,
      past: over?.past ?? [],
      madeBy: (id) => makers.get(id) ?? [],
    }),
  );
}

/** A person’s newest entries, or those before one of them. */
export async function readInbox(db: Database, userId: string, before?: number): Promise<Inbox> {
  let query = db.selectFrom('inbox').selectAll().where('user_id', '=', userId);
  if (before !== undefined) query = query.where('id', '<', String(before));
  const rows = await query.orderBy('id', 'desc').limit(PAGE).execute();
  const { unseen } = await db
    .selectFrom('inbox')
    .select((eb) => eb.fn.countAll<string>().as('unseen'))
    .where('user_id', '=', userId)
    .where('seen_at', 'is', null)
    .executeTakeFirstOrThrow();
  return {
    entries: rows.map((r): InboxEntry => ({
      id: Number(r.id),
      at: r.at.toISOString(),
      kind: r.kind,
      text: r.text,
      showId: r.show_id,
      showName: r.show_name,
      from: { userId: r.from_id, name: r.from_name },
      place: r.place,
      ask: r.ask,
      seen: r.seen_at !== null,
      done: r.done,
    })),
    unseen: Number(unseen),
  };
}

/** Entries up to this one were read. */
export async function markSeen(db: Database, userId: string, upTo: number): Promise<void> {
  await db
    .updateTable('inbox')
    .set({ seen_at: new Date() })
    .where('user_id', '=', userId)
    .where('id', '<=', String(upTo))
    .where('seen_at', 'is', null)
    .execute();
  await told(db, userId);
}

/** An ask was answered, or put aside. */
export async function markDone(db: Database, userId: string, id: number): Promise<void> {
  await db
    .updateTable('inbox')
    .set({ done: true })
    .where('user_id', '=', userId)
    .where('id', '=', String(id))
    .execute();
  await told(db, userId);
}

/** The person's other screens count anew. */
const told = (db: Database, userId: string): Promise<unknown> =>
  sql`select pg_notify(${MEMBERS_CHANNEL}, ${JSON.stringify({ inbox: userId, of: null, says: null })})`.execute(
    db,
  );
