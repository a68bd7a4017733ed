/** Who somebody is at this moment: session, right in the house, place in a show, lock. Asked anew for every request and at every join. */
import { sql } from 'kysely';
import type { HouseRight, Standing } from '../core/rights.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { Database } from './database.ts';
import { tellMembers } from './people.ts';
import { membership, type Membership } from './shows.ts';

export interface Person {
  userId: string;
  name: string;
  sessionId: string;
}
/** A person, with all that their rights follow from. */
export interface WhoIsIt extends Person, Standing {
  /** Their place in the show that was asked for. */
  of: Membership | null;
}

/** A person's name; where two accounts have the same one, with what tells them apart. */
const nameApart = sql<string>`case
  when not exists (select 1 from "user" as twin where twin.id <> "user".id and lower(twin.name) = lower("user".name)) then "user".name
  when not exists (select 1 from "user" as twin where twin.id <> "user".id and lower(twin.name) = lower("user".name) and split_part(twin.email, '@', 1) = split_part("user".email, '@', 1)) then "user".name || ' (' || split_part("user".email, '@', 1) || ')'
  else "user".name || ' (' || "user".email || ')' end`;

/** Everything that decides what a session may do, or null when it has ended. @param showId a show that is asked for @param evenDeleted also while it can be had back */
export async function standingOf(
  db: Database,
  sessionId: string,
  showId: string | null,
  evenDeleted = false,
): Promise<WhoIsIt | null> {
  const row = await db
    .selectFrom('session')
    .innerJoin('user', 'user.id', 'session.userId')
    .leftJoin('house_rights', 'house_rights.user_id', 'user.id')
    .leftJoin('locked_sessions', 'locked_sessions.session_id', 'session.id')
    .select([
      'user.id',
      'house_rights.may',
      'locked_sessions.session_id as locked',
      nameApart.as('name'),
    ])
    .where('session.id', '=', sessionId)
    .where('session.expiresAt', '>', new Date())
    .executeTakeFirst();
  if (!row) return null;
  const of = showId === null ? null : ((await membership(db, showId, row.id, evenDeleted)) ?? null);
  return {
    userId: row.id,
    name: row.name,
    sessionId,
    house: row.may ?? 'guest',
    isLocked: row.locked !== null,
    role: of?.role ?? null,
    of,
  };
}

/** A person's right in the house, whatever they are signed in with. */
export async function houseRight(db: Database, userId: string): Promise<HouseRight> {
  const row = await db
    .selectFrom('house_rights')
    .select('may')
    .where('user_id', '=', userId)
    .executeTakeFirst();
  return row?.may ?? 'guest';
}

/** An account of the house, for those who see to them. */
export interface Account {
  userId: string;
  name: string;
  email: string;
  may: HouseRight;
  /** Shows that they are in now. */
  shows: number;
}

/** Every account of the house. */
export async function listAccounts(db: Database): Promise<Account[]> {
  const rows = await db
    .selectFrom('user')
    .leftJoin('house_rights', 'house_rights.user_id', 'user.id')
    .select((eb) => [
      'user.id',
      'user.name',
      'user.email',
      'house_rights.may',
      eb
        .selectFrom('members')
        .innerJoin('shows', 'shows.id', 'members.show_id')
        .whereRef('members.user_id', '=', 'user.id')
        .where('shows.deleted_at', 'is', null)
        .where((w) => w.or([w('members.until', 'is', null), w('members.until', '>', new Date())]))
        .select((c) => c.fn.countAll<string>().as('n'))
        .as('shows'),
    ])
    .orderBy('user.name')
    .orderBy('user.email')
    .execute();
  return rows.map((r) => ({
    userId: r.id,
    name: r.name,
    email: r.email,
    may: r.may ?? 'guest',
    shows: Number(r.shows ?? 0),
  }));
}

/** Gives a right in the house, or takes it. A house always keeps an owner. */
export async function setHouseRight(
  db: Database,
  userId: string,
  may: HouseRight,
): Promise<{ name: string } | Refusal> {
  const done = await db.transaction().execute(async (trx) => {
    // One after the other, so that two owners cannot take each other's right at once.
    await sql`lock table house_rights in exclusive mode`.execute(trx);
    const user = await trx
      .selectFrom('user')
      .select('name')
      .where('id', '=', userId)
      .executeTakeFirst();
    if (!user) return refuse('not-found', 'There is no such account any more.');
    const owners = await trx
      .selectFrom('house_rights')
      .select('user_id')
      .where('may', '=', 'owner')
      .execute();
    if (may !== 'owner' && owners.length === 1 && owners[0]?.user_id === userId)
      return refuse(
        'conflict',
        `${user.name} is the only owner of the house; make somebody else one first.`,
        { may: 'A house keeps an owner.' },
      );
    await trx
      .insertInto('house_rights')
      .values({ user_id: userId, may })
      .onConflict((oc) => oc.column('user_id').doUpdateSet({ may }))
      .execute();
    return { name: user.name };
  });
  if (!('refused' in done)) await tellMembers(db, { user: userId });
  return done;
}

/** Takes a ticket out of use. @returns false when it was used before, by whichever player */
export async function spendTicket(db: Database, id: string): Promise<boolean> {
  const done = await db
    .insertInto('used_tickets')
    .values({ id })
    .onConflict((oc) => oc.doNothing())
    .executeTakeFirst();
  return (done.numInsertedOrUpdatedRows ?? 0n) > 0n;
}

/** Of these sessions, those that have ended. */
export async function endedSessions(
  db: Database,
  sessionIds: readonly string[],
): Promise<ReadonlySet<string>> {
  if (sessionIds.length === 0) return new Set();
  const alive = await db
    .selectFrom('session')
    .select('id')
    .where('id', 'in', [...sessionIds])
    .where('expiresAt', '>', new Date())
    .execute();
  const ids = new Set(alive.map((s) => s.id));
  return new Set(sessionIds.filter((id) => !ids.has(id)));
}
