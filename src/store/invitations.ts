/** Invitations by link: each brings one person into one show. */
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Invitation } from '../core/live/answers.ts';
import { refuse, type Refusal, type Result } from '../core/refusal.ts';
import type { Role } from '../core/roles.ts';
import type { Database } from './database.ts';
import { tellMembers } from './people.ts';

interface NewPerson {
  name: string;
  email: string;
  password: string;
}

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
const OPEN_INVITATIONS = 200;

/** What an invitation offers. */
export interface Invite {
  role: Role;
  pages: readonly string[];
  /** Whoever accepts is in the show until then; null: for good. */
  memberUntil: Date | null;
  expiresAt: Date;
}

/** Makes an invitation. The token is told once and kept only as its hash. */
export async function invite(
  db: Database,
  showId: string,
  by: string,
  i: Invite,
  now = new Date(),
): Promise<{ id: string; token: string } | Refusal> {
  if (i.expiresAt <= now)
    return refuse('invalid', 'The invitation would have ended already: choose a later time.', {
      expiresAt: 'In the past.',
    });
  if (i.memberUntil && i.memberUntil <= now)
    return refuse('invalid', 'The person would be out again already: choose a later end date.', {
      memberUntil: 'In the past.',
    });
  if (i.role === 'owner' && i.memberUntil)
    return refuse('invalid', 'An owner stays: give no end date, or another role.', {
      memberUntil: 'Not for owners.',
    });
  const { count } = await db
    .selectFrom('invitations')
    .select((eb) => eb.fn.countAll<string>().as('count'))
    .where('show_id', '=', showId)
    .where('used_at', 'is', null)
    .where('withdrawn_at', 'is', null)
    .where('expires_at', '>', now)
    .executeTakeFirstOrThrow();
  if (Number(count) >= OPEN_INVITATIONS)
    return refuse(
      'limit',
      `A show has at most ${OPEN_INVITATIONS} open invitations; withdraw some first.`,
    );
  const token = randomBytes(24).toString('base64url');
  const id = randomUUID();
  await db
    .insertInto('invitations')
    .values({
      id,
      token_hash: hashOf(token),
      show_id: showId,
      role: i.role,
      pages: JSON.stringify(i.pages),
      member_until: i.memberUntil,
      expires_at: i.expiresAt,
      made_by: by,
      used_by: null,
      used_at: null,
      withdrawn_at: null,
    })
    .execute();
  return { id, token };
}

function stateOf(
  row: { used_at: Date | null; withdrawn_at: Date | null; expires_at: Date },
  now: Date,
): Invitation['state'] {
  if (row.used_at) return 'used';
  if (row.withdrawn_at) return 'withdrawn';
  return row.expires_at <= now ? 'expired' : 'open';
}

/** Invitations that can still be taken. */
export async function listInvitations(
  db: Database,
  showId: string,
  now = new Date(),
): Promise<Invitation[]> {
  const rows = await db
    .selectFrom('invitations')
    .leftJoin('user', 'user.id', 'invitations.used_by')
    .select([
      'invitations.id',
      'role',
      'pages',
      'member_until',
      'expires_at',
      'made_at',
      'used_at',
      'withdrawn_at',
      'user.name as used_name',
    ])
    .where('show_id', '=', showId)
    .orderBy('made_at', 'desc')
    .limit(100)
    .execute();
  return rows.map((r) => ({
    id: r.id,
    role: r.role,
    pages: r.pages,
    memberUntil: r.member_until?.toISOString() ?? null,
    expiresAt: r.expires_at.toISOString(),
    madeAt: r.made_at.toISOString(),
    state: stateOf(r, now),
    usedBy: r.used_name,
  }));
}

/** Takes an invitation back; refuses one that is not there any more. */
export async function withdrawInvitation(
  db: Database,
  showId: string,
  id: string,
): Promise<{ role: Role } | Refusal> {
  const done = await db
    .updateTable('invitations')
    .set({ withdrawn_at: new Date() })
    .where('id', '=', id)
    .where('show_id', '=', showId)
    .where('used_at', 'is', null)
    .where('withdrawn_at', 'is', null)
    .returning('role')
    .executeTakeFirst();
  return done ?? refuse('conflict', 'This invitation is used, withdrawn, or not of this show.');
}

type Found = {
  id: string;
  show_id: string;
  role: Role;
  pages: string[];
  member_until: Date | null;
  showName: string;
};

async function openInvitation(
  db: Database,
  token: string,
  now: Date,
  lock: boolean,
): Promise<Result<Found>> {
  let query = db.selectFrom('invitations').selectAll().where('token_hash', '=', hashOf(token));
  if (lock) query = query.forUpdate();
  const row = await query.executeTakeFirst();
  if (!row) return refuse('not-found', 'This is no invitation of this house. Ask for a new link.');
  const show = await db
    .selectFrom('shows')
    .select(['name', 'deleted_at'])
    .where('id', '=', row.show_id)
    .executeTakeFirst();
  if (!show || show.deleted_at)
    return refuse('not-found', 'The show of this invitation has been deleted.');
  if (row.used_at)
    return refuse(
      'conflict',
      'This invitation has been used already; each is for one person. Ask for a new link.',
    );
  if (row.withdrawn_at)
    return refuse('conflict', 'This invitation has been withdrawn. Ask for a new link.');
  if (row.expires_at <= now)
    return refuse(
      'conflict',
      `This invitation ended on ${row.expires_at.toISOString().slice(0, 10)}. Ask for a new link.`,
    );
  return {
    id: row.id,
    show_id: row.show_id,
    role: row.role,
    pages: row.pages,
    member_until: row.member_until,
    showName: show.name,
  };
}

/** What an invitation offers, for the page that asks whether to accept it. */
export async function readInvitation(
  db: Database,
  token: string,
  now = new Date(),
): Promise<{ show: string; role: Role; until: string | null } | Refusal> {
  const found = await openInvitation(db, token, now, false);
  return 'refused' in found
    ? found
    : { show: found.showName, role: found.role, until: found.member_until?.toISOString() ?? null };
}

/** Accepts it for a person. Nobody loses a higher role by it. */
export async function acceptInvitation(
  db: Database,
  token: string,
  userId: string,
  now = new Date(),
): Promise<{ showId: string; show: string; role: Role } | Refusal> {
  const done = await db.transaction().execute(async (trx) => {
    const found = await openInvitation(trx, token, now, true);
    if ('refused' in found) return found;
    const was = await trx
      .selectFrom('members')
      .select(['role', 'until'])
      .where('show_id', '=', found.show_id)
      .where('user_id', '=', userId)
      .executeTakeFirst();
    if (was && (was.until === null || was.until > now))
      return refuse(
        'conflict',
        `You are in “${found.showName}” already, as ${was.role}. The invitation is kept for somebody else.`,
      );
    await trx
      .insertInto('members')
      .values({
        show_id: found.show_id,
        user_id: userId,
        role: found.role,
        pages: JSON.stringify(found.pages),
        until: found.member_until,
      })
      .onConflict((oc) =>
        oc.columns(['show_id', 'user_id']).doUpdateSet({
          role: found.role,
          pages: JSON.stringify(found.pages),
          until: found.member_until,
        }),
      )
      .execute();
    await trx
      .updateTable('invitations')
      .set({ used_by: userId, used_at: now })
      .where('id', '=', found.id)
      .execute();
    return { showId: found.show_id, show: found.showName, role: found.role };
  });
  if (!('refused' in done)) await tellMembers(db, { show: done.showId, user: userId });
  return done;
}

/** An account for somebody who has an invitation and none yet. @param make makes it, and keeps the password as its hash */
export async function accountByInvitation(
  db: Database,
  token: string,
  person: NewPerson,
  make: (person: NewPerson) => Promise<string>,
): Promise<{ userId: string } | Refusal> {
  const found = await openInvitation(db, token, new Date(), false);
  if ('refused' in found) return found;
  const email = person.email.trim().toLowerCase();
  const known = await db
    .selectFrom('user')
    .select('id')
    .where('email', '=', email)
    .executeTakeFirst();
  if (known)
    return refuse(
      'conflict',
      'There is an account with this address: sign in with it, then open the link again.',
      { email: 'Known here.' },
    );
  return { userId: await make({ ...person, email }) };
}
