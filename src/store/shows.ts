/** Shows in the database: the list, making one, its members, loading its rows. */
import { randomUUID } from 'node:crypto';
import type { Role } from '../core/edits/edit.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { MutableShow, type RowChange } from '../core/show/show.ts';
import type { Change } from '../core/show/undo.ts';
import type { Database } from './database.ts';

/** Rows per statement; PostgreSQL takes at most 65,535 parameters. */
const CHUNK = 10_000;

export async function writeRows(db: Database, showId: string, changes: readonly RowChange[]): Promise<void> {
  const gone = changes.filter((c) => c.after === null);
  const kept = changes.filter((c) => c.after !== null);
  for (let i = 0; i < gone.length; i += CHUNK) {
    const part = gone.slice(i, i + CHUNK);
    for (const table of new Set(part.map((c) => c.table))) {
      await db.deleteFrom('show_rows').where('show_id', '=', showId).where('tbl', '=', table).where('id', 'in', part.filter((c) => c.table === table).map((c) => c.id)).execute();
    }
  }
  for (let i = 0; i < kept.length; i += CHUNK) {
    await db
      .insertInto('show_rows')
      .values(kept.slice(i, i + CHUNK).map((c) => ({ show_id: showId, tbl: c.table, id: c.id, data: JSON.stringify(c.after) })))
      .onConflict((oc) => oc.columns(['show_id', 'tbl', 'id']).doUpdateSet((eb) => ({ data: eb.ref('excluded.data') })))
      .execute();
  }
}

/** A show's rows and the number of its last change, as one consistent picture. */
export async function loadShow(db: Database, showId: string): Promise<{ show: MutableShow; seq: number } | undefined> {
  const read = async (trx: Database): Promise<{ show: MutableShow; seq: number } | undefined> => {
    const head = await trx.selectFrom('shows').select('seq').where('id', '=', showId).executeTakeFirst();
    if (!head) return undefined;
    const rows = await trx.selectFrom('show_rows').select(['tbl', 'data']).where('show_id', '=', showId).execute();
    return { show: MutableShow.from(rows.map((r) => ({ table: r.tbl, row: r.data }))), seq: head.seq };
  };
  // Inside a commit the show's row is locked, so that reading row by row is consistent already.
  return db.isTransaction ? read(db) : db.transaction().setIsolationLevel('repeatable read').execute(read);
}

export async function changesAfter(db: Database, showId: string, after: number, limit = 5000): Promise<Change[]> {
  const rows = await db.selectFrom('changes').selectAll().where('show_id', '=', showId).where('seq', '>', after).orderBy('seq').limit(limit).execute();
  return rows.map((r) => ({ seq: r.seq, editId: r.edit_id, userId: r.user_id, userName: r.user_name, at: r.at.toISOString(), edit: r.edit, summary: r.summary, reverts: r.reverts, rows: r.rows }));
}

export interface ShowHead {
  id: string;
  name: string;
  venue: string;
  role: Role;
  seq: number;
  changedAt: string;
  onAir: boolean;
}

export async function listShows(db: Database, userId: string): Promise<ShowHead[]> {
  const rows = await db
    .selectFrom('members')
    .innerJoin('shows', 'shows.id', 'members.show_id')
    .select(['shows.id', 'shows.name', 'shows.venue', 'shows.seq', 'shows.changed_at', 'members.role'])
    .where('members.user_id', '=', userId)
    .orderBy('shows.changed_at', 'desc')
    .execute();
  const air = await airShow(db);
  return rows.map((r) => ({ id: r.id, name: r.name, venue: r.venue, role: r.role, seq: r.seq, changedAt: r.changed_at.toISOString(), onAir: r.id === air }));
}

const SHOWS_PER_PERSON = 500;

/** Makes a show with an empty stage; its maker owns it. */
export async function createShow(db: Database, userId: string, name: string, venue = '', rows: readonly RowChange[] = newShowRows(name, venue)): Promise<{ id: string } | Refusal> {
  const { count } = await db.selectFrom('members').select((eb) => eb.fn.countAll<string>().as('count')).where('user_id', '=', userId).where('role', '=', 'owner').executeTakeFirstOrThrow();
  if (Number(count) >= SHOWS_PER_PERSON) return refuse('limit', `A person owns at most ${SHOWS_PER_PERSON} shows.`);
  const id = randomUUID();
  await db.transaction().execute(async (trx) => {
    await trx.insertInto('shows').values({ id, name, venue }).execute();
    await trx.insertInto('members').values({ show_id: id, user_id: userId, role: 'owner' }).execute();
    await writeRows(trx, id, rows);
  });
  return { id };
}

export async function roleOf(db: Database, showId: string, userId: string): Promise<Role | undefined> {
  const row = await db.selectFrom('members').select('role').where('show_id', '=', showId).where('user_id', '=', userId).executeTakeFirst();
  return row?.role;
}

export interface Member {
  userId: string;
  name: string;
  email: string;
  role: Role;
}

export async function listMembers(db: Database, showId: string): Promise<Member[]> {
  const rows = await db.selectFrom('members').innerJoin('user', 'user.id', 'members.user_id').select(['user.id', 'user.name', 'user.email', 'members.role']).where('show_id', '=', showId).orderBy('user.name').execute();
  return rows.map((r) => ({ userId: r.id, name: r.name, email: r.email, role: r.role }));
}

/** Gives a person a role, changes it, or takes it away (null). A show always keeps an owner. */
export async function setMember(db: Database, showId: string, email: string, role: Role | null): Promise<{ userId: string } | Refusal> {
  return db.transaction().execute(async (trx) => {
    await trx.selectFrom('shows').select('id').where('id', '=', showId).forUpdate().execute();
    const user = await trx.selectFrom('user').select(['id', 'name']).where('email', '=', email.trim().toLowerCase()).executeTakeFirst();
    if (!user) return refuse('not-found', `Nobody here has the address ${email}.`, { email: 'Unknown.' });
    const owners = await trx.selectFrom('members').select('user_id').where('show_id', '=', showId).where('role', '=', 'owner').execute();
    if (role !== 'owner' && owners.length === 1 && owners[0]?.user_id === user.id) return refuse('conflict', `${user.name} is the only owner; make somebody else an owner first.`, { role: 'A show keeps an owner.' });
    if (role === null) await trx.deleteFrom('members').where('show_id', '=', showId).where('user_id', '=', user.id).execute();
    else {
      await trx
        .insertInto('members')
        .values({ show_id: showId, user_id: user.id, role })
        .onConflict((oc) => oc.columns(['show_id', 'user_id']).doUpdateSet({ role }))
        .execute();
    }
    return { userId: user.id };
  });
}

export async function airShow(db: Database): Promise<string | null> {
  const row = await db.selectFrom('installation').select('air_show_id').where('id', '=', 1).executeTakeFirst();
  return row?.air_show_id ?? null;
}
