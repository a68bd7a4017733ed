/** Shows in the database: the list, making one, its members, loading its rows. */
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { Role } from '../core/roles.ts';
import type { CopyOf, Member } from '../core/live/answers.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { MutableShow, type RowChange } from '../core/show/show.ts';
import { undoneIn, type Change } from '../core/show/undo.ts';
import type { Database, Origin } from './database.ts';
import { packedTables, parted, withPacks, writePacks } from './packs.ts';

/** Rows per statement. */
const CHUNK = 10_000;

/** Puts changed rows into the database, a statement for many; within the caller’s transaction. */
export async function writeRows(
  db: Database,
  showId: string,
  changes: readonly RowChange[],
): Promise<void> {
  const away = changes.filter((c) => c.after === null);
  const packed = away.length > 0 ? await packedTables(db, showId) : NONE;
  const gone = away.filter((c) => !packed.has(c.table));
  // What may lie packed beneath is covered by a row without data.
  const kept = changes.filter((c) => c.after !== null || packed.has(c.table));
  for (let i = 0; i < gone.length; i += CHUNK) {
    const part = gone.slice(i, i + CHUNK);
    for (const table of new Set(part.map((c) => c.table))) {
      await db
        .deleteFrom('show_rows')
        .where('show_id', '=', showId)
        .where('tbl', '=', table)
        .where(
          'id',
          'in',
          part.filter((c) => c.table === table).map((c) => c.id),
        )
        .execute();
    }
  }
  // As one parameter, whatever their number: a statement of forty thousand of them takes seconds to be put together.
  for (let i = 0; i < kept.length; i += CHUNK) {
    const part = JSON.stringify(
      kept.slice(i, i + CHUNK).map((c) => ({ tbl: c.table, id: c.id, data: c.after })),
    );
    await sql`
      insert into show_rows (show_id, tbl, id, data)
      select ${showId}, t.tbl, t.id, t.data from jsonb_to_recordset(${part}::jsonb) as t(tbl text, id text, data jsonb)
      on conflict (show_id, tbl, id) do update set data = excluded.data`.execute(db);
  }
}

const NONE: ReadonlySet<string> = new Set();

/** A show's rows and the number of its last change, as one consistent picture. */
export async function loadShow(
  db: Database,
  showId: string,
): Promise<{ show: MutableShow; seq: number } | undefined> {
  const read = async (trx: Database): Promise<{ show: MutableShow; seq: number } | undefined> => {
    const head = await trx
      .selectFrom('shows')
      .select('seq')
      .where('id', '=', showId)
      .executeTakeFirst();
    if (!head) return undefined;
    const rows = await trx
      .selectFrom('show_rows')
      .select(['tbl', 'id', 'data'])
      .where('show_id', '=', showId)
      .execute();
    return { show: MutableShow.from(await withPacks(trx, showId, rows)), seq: head.seq };
  };
  // Inside a commit the show's row is locked, so that reading row by row is consistent already.
  return db.isTransaction
    ? read(db)
    : db.transaction().setIsolationLevel('repeatable read').execute(read);
}

/** Changes after one of a show, oldest first. */
export async function changesAfter(
  db: Database,
  showId: string,
  after: number,
  limit?: number,
): Promise<Change[]> {
  const rows = await db
    .selectFrom('changes')
    .selectAll()
    .where('show_id', '=', showId)
    .where('seq', '>', after)
    .orderBy('seq')
    .$if(limit !== undefined, (q) => q.limit(limit ?? 0))
    .execute();
  return rows.map((r) => ({
    seq: r.seq,
    editId: r.edit_id,
    userId: r.user_id,
    userName: r.user_name,
    at: r.at.toISOString(),
    edit: r.edit,
    summary: r.summary,
    reverts: r.reverts,
    rows: r.rows,
  }));
}

/** Changes of a show that are not in force: undone, and not done again since. */
export async function undoneOf(db: Database, showId: string): Promise<ReadonlySet<number>> {
  return undoneIn(
    await db
      .selectFrom('changes')
      .select(['seq', 'reverts'])
      .where('show_id', '=', showId)
      .where('reverts', 'is not', null)
      .orderBy('seq')
      .execute(),
  );
}

/** A show in the list of shows. */
export interface ShowHead {
  id: string;
  name: string;
  venue: string;
  role: Role;
  seq: number;
  changedAt: string;
  onAir: boolean;
  archivedAt: string | null;
  /** Deleted then; gone for good a week later. */
  deletedAt: string | null;
  until: string | null;
  /** Which show it began from, as a copy, a file or a back-up; its name where this person is in that show too. */
  origin: { name: string | null; seq: number } | null;
}

/** Shows that a person is in. */
export async function listShows(db: Database, userId: string): Promise<ShowHead[]> {
  const rows = await db
    .selectFrom('members')
    .innerJoin('shows', 'shows.id', 'members.show_id')
    .select([
      'shows.id',
      'shows.name',
      'shows.venue',
      'shows.seq',
      'shows.changed_at',
      'shows.origin',
      'shows.archived_at',
      'shows.deleted_at',
      'members.role',
      'members.until',
    ])
    .where('members.user_id', '=', userId)
    .where((eb) => eb.or([eb('members.until', 'is', null), eb('members.until', '>', new Date())]))
    .where((eb) => eb.or([eb('shows.deleted_at', 'is', null), eb('members.role', '=', 'owner')]))
    .orderBy('shows.changed_at', 'desc')
    .execute();
  const air = await airShow(db);
  const names = new Map(rows.map((r) => [r.id, r.name]));
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    venue: r.venue,
    role: r.role,
    seq: r.seq,
    changedAt: r.changed_at.toISOString(),
    onAir: r.id === air,
    archivedAt: r.archived_at?.toISOString() ?? null,
    deletedAt: r.deleted_at?.toISOString() ?? null,
    until: r.until?.toISOString() ?? null,
    origin: r.origin && { name: names.get(r.origin.id) ?? null, seq: r.origin.seq },
  }));
}

const COPIES_SAID = 100;

/** Shows that began from this one, newest work first: whose they are, and how far both have gone since. What is in them is theirs. */
export async function listCopies(db: Database, showId: string): Promise<CopyOf[]> {
  const own = await db
    .selectFrom('shows')
    .select('seq')
    .where('id', '=', showId)
    .executeTakeFirst();
  const rows = await db
    .selectFrom('shows')
    .select(['id', 'name', 'seq', 'origin', 'changed_at'])
    .where(sql<boolean>`origin->>'id' = ${showId}`)
    .where('deleted_at', 'is', null)
    .orderBy('changed_at', 'desc')
    .limit(COPIES_SAID)
    .execute();
  if (!own || rows.length === 0) return [];
  const ids = rows.map((r) => r.id);
  const owners = await db
    .selectFrom('members')
    .innerJoin('user', 'user.id', 'members.user_id')
    .select(['show_id', 'user.name'])
    .where('show_id', 'in', ids)
    .where('role', '=', 'owner')
    .orderBy('user.name')
    .execute();
  const undone = await undoneOf(db, showId);
  const merges = (
    await db
      .selectFrom('merges')
      .select(['source_id', 'source_seq', 'seq'])
      .where('show_id', '=', showId)
      .where('source_id', 'in', ids)
      .orderBy('source_seq', 'desc')
      .execute()
  ).filter((m) => !undone.has(m.seq));
  return rows.map((r) => {
    const merged = merges.find((m) => m.source_id === r.id);
    return {
      id: r.id,
      name: r.name,
      owners: owners.filter((o) => o.show_id === r.id).map((o) => o.name),
      changedAt: r.changed_at.toISOString(),
      there: r.seq - (merged?.source_seq ?? 0),
      here: own.seq - (merged?.seq ?? r.origin?.seq ?? 0),
      merged: merged !== undefined,
    };
  });
}

const SHOWS_PER_PERSON = 500;

/** Makes a show with an empty stage; its maker owns it. */
export async function createShow(
  db: Database,
  userId: string,
  name: string,
  venue = '',
  rows: readonly RowChange[] = newShowRows(name, venue),
  origin: Origin | null = null,
): Promise<{ id: string } | Refusal> {
  const { count } = await db
    .selectFrom('members')
    .select((eb) => eb.fn.countAll<string>().as('count'))
    .where('user_id', '=', userId)
    .where('role', '=', 'owner')
    .executeTakeFirstOrThrow();
  if (Number(count) >= SHOWS_PER_PERSON)
    return refuse('limit', `A person owns at most ${SHOWS_PER_PERSON} shows.`);
  const id = randomUUID();
  const write = async (trx: Database): Promise<void> => {
    await trx
      .insertInto('shows')
      .values({ id, name, venue, origin: origin ? JSON.stringify(origin) : null })
      .execute();
    await trx
      .insertInto('members')
      .values({ show_id: id, user_id: userId, role: 'owner' })
      .execute();
    const { packed, others } = parted(rows);
    await writePacks(trx, id, packed);
    await writeRows(trx, id, others);
  };
  await (db.isTransaction ? write(db) : db.transaction().execute(write));
  return { id };
}

/** A person's place in a show, while it lasts and while the show is not deleted, or `evenDeleted`. */
export async function membership(
  db: Database,
  showId: string,
  userId: string,
  evenDeleted = false,
): Promise<Membership | undefined> {
  const row = await db
    .selectFrom('members')
    .innerJoin('shows', 'shows.id', 'members.show_id')
    .select(['members.role', 'members.pages', 'members.until'])
    .where('members.show_id', '=', showId)
    .where('members.user_id', '=', userId)
    .$if(!evenDeleted, (q) => q.where('shows.deleted_at', 'is', null))
    .where((eb) => eb.or([eb('members.until', 'is', null), eb('members.until', '>', new Date())]))
    .executeTakeFirst();
  return row
    ? { role: row.role, pages: row.pages, until: row.until?.getTime() ?? null }
    : undefined;
}
/** A person’s place in a show. */
export interface Membership {
  role: Role;
  /** Control pages that a volunteer has. */
  pages: string[];
  /** Milliseconds since 1970; null: for good. */
  until: number | null;
}
/** Their role; undefined for somebody who is not in it. */
export const roleOf = async (
  db: Database,
  showId: string,
  userId: string,
): Promise<Role | undefined> => (await membership(db, showId, userId))?.role;

/** Everybody in a show. */
export async function listMembers(db: Database, showId: string): Promise<Member[]> {
  const rows = await db
    .selectFrom('members')
    .innerJoin('user', 'user.id', 'members.user_id')
    .select([
      'user.id',
      'user.name',
      'user.email',
      'members.role',
      'members.pages',
      'members.until',
    ])
    .where('show_id', '=', showId)
    .orderBy('user.name')
    .execute();
  return rows.map((r) => ({
    userId: r.id,
    name: r.name,
    email: r.email,
    role: r.role,
    pages: r.pages,
    until: r.until?.toISOString() ?? null,
  }));
}

/** Gives a person a role, changes it, or takes it away (null). A show always keeps an owner. */
export async function setMember(
  db: Database,
  showId: string,
  email: string,
  role: Role | null,
  more: { pages?: readonly string[] | undefined; until?: Date | null | undefined } = {},
): Promise<
  | { userId: string; name: string; show: string; /** Their role until now. */ was: Role | null }
  | Refusal
> {
  return db.transaction().execute(async (trx) => {
    const show = await trx
      .selectFrom('shows')
      .select('name')
      .where('id', '=', showId)
      .forUpdate()
      .executeTakeFirst();
    const user = await trx
      .selectFrom('user')
      .select(['id', 'name'])
      .where('email', '=', email.trim().toLowerCase())
      .executeTakeFirst();
    if (!user)
      return refuse('not-found', `Nobody here has the address ${email}.`, { email: 'Unknown.' });
    const owners = await trx
      .selectFrom('members')
      .select('user_id')
      .where('show_id', '=', showId)
      .where('role', '=', 'owner')
      .where('until', 'is', null)
      .execute();
    if ((role !== 'owner' || more.until) && owners.length === 1 && owners[0]?.user_id === user.id)
      return refuse(
        'conflict',
        `${user.name} is the only owner; make somebody else an owner first.`,
        { role: 'A show keeps an owner.' },
      );
    const was = await trx
      .selectFrom('members')
      .select('role')
      .where('show_id', '=', showId)
      .where('user_id', '=', user.id)
      .executeTakeFirst();
    if (role === null)
      await trx
        .deleteFrom('members')
        .where('show_id', '=', showId)
        .where('user_id', '=', user.id)
        .execute();
    else {
      await trx
        .insertInto('members')
        .values({
          show_id: showId,
          user_id: user.id,
          role,
          pages: JSON.stringify(more.pages ?? []),
          until: more.until ?? null,
        })
        .onConflict((oc) =>
          oc.columns(['show_id', 'user_id']).doUpdateSet({
            role,
            ...(more.pages === undefined ? {} : { pages: JSON.stringify(more.pages) }),
            ...(more.until === undefined ? {} : { until: more.until }),
          }),
        )
        .execute();
    }
    return { userId: user.id, name: user.name, show: show?.name ?? '', was: was?.role ?? null };
  });
}

/** The show on air; null where there is none. */
export async function airShow(db: Database): Promise<string | null> {
  const row = await db
    .selectFrom('installation')
    .select('air_show_id')
    .where('id', '=', 1)
    .executeTakeFirst();
  return row?.air_show_id ?? null;
}

/** What may become of a show. */
export const SHOW_STATES = ['archived', 'open', 'deleted', 'kept'] as const;
/** Days in which a deleted show can be had back. */
const GRACE_DAYS = 7;

/** Archived shows and deleted ones leave the list; a deleted one can be had back for a week. A show on air stays. */
export async function setShowState(
  db: Database,
  showId: string,
  to: (typeof SHOW_STATES)[number],
  by: string,
): Promise<{ ok: true } | Refusal> {
  if (to === 'deleted' && (await airShow(db)) === showId)
    return refuse(
      'conflict',
      'This show is on air. Take it off air first; then it can be deleted.',
    );
  const set = {
    archived: { archived_at: new Date() },
    open: { archived_at: null },
    deleted: { deleted_at: new Date(), deleted_by: by },
    kept: { deleted_at: null, deleted_by: null },
  }[to];
  await db.updateTable('shows').set(set).where('id', '=', showId).execute();
  return { ok: true };
}

/** Deletes for good what was deleted more than a week ago. @returns names of the shows that are gone */
export async function purgeDeleted(db: Database, now = new Date()): Promise<string[]> {
  const before = new Date(now.getTime() - GRACE_DAYS * 24 * 3600 * 1000);
  const gone = await db
    .deleteFrom('shows')
    .where('deleted_at', '<', before)
    .returning('name')
    .execute();
  return gone.map((g) => g.name);
}
