/**
 * How often somebody may try to sign in. Tries are counted for the account and for the address together, and for an
 * account by all strangers together; a device or an address that was signed in before is no stranger, so that nobody can
 * be locked out of their account by others (rights.test.ts).
 */
import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { sql } from 'kysely';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { Database } from './database.ts';

/** Wrong tries from a device that was signed in to this account before; from one address; by strangers together. */
const LIMITS = {
  device: { tries: 20, minutes: 1 },
  pair: { tries: 10, minutes: 1 },
  strangers: { tries: 30, minutes: 10 },
} as const;
type Kind = keyof typeof LIMITS;

/** An attempt to sign in. */
export interface Trying {
  /** As it was typed; need not exist. */
  email: string;
  address: string;
  /** What a device keeps of having been signed in. */
  mark: string | undefined;
}

/** The keys that a try counts under. */
async function keysOf(
  db: Database,
  secret: string,
  { email, address, mark }: Trying,
): Promise<[Kind, string][]> {
  const account = email.trim().toLowerCase().slice(0, 200);
  const device = readMark(secret, mark, account);
  if (device !== undefined) return [['device', `device/${device}`]];
  const pair: [Kind, string] = ['pair', `pair/${account}/${address}`];
  const known = await db
    .selectFrom('known_addresses')
    .select('address')
    .where('email', '=', account)
    .where('address', '=', address)
    .executeTakeFirst();
  return known ? [pair] : [pair, ['strangers', `strangers/${account}`]];
}

/** Counts a try before it is made, so that many at once are many. Null where it may be made. */
export async function countTry(db: Database, secret: string, who: Trying): Promise<Refusal | null> {
  for (const [kind, key] of await keysOf(db, secret, who)) {
    const { tries, minutes } = LIMITS[kind];
    const { rows } = await sql<{ count: number; left: number }>`
      insert into sign_in_tries (key, count, until) values (${key}, 1, now() + make_interval(mins => ${minutes}))
      on conflict (key) do update set
        count = case when sign_in_tries.until < now() then 1 else sign_in_tries.count + 1 end,
        until = case when sign_in_tries.until < now() then now() + make_interval(mins => ${minutes}) else sign_in_tries.until end
      returning count, ceil(extract(epoch from until - now()))::int as left`.execute(db);
    const row = rows[0];
    if (row && row.count > tries)
      return refuse(
        'rate',
        `Too many tries for this account. Try again in ${row.left} s, or on a device that was signed in here before.`,
      );
  }
  return null;
}

/** A try that was right: nothing is counted against it, and the address is no stranger's any more. */
export async function wasRight(db: Database, secret: string, who: Trying): Promise<void> {
  const keys = (await keysOf(db, secret, who))
    .filter(([kind]) => kind !== 'strangers')
    .map(([, key]) => key);
  await db.deleteFrom('sign_in_tries').where('key', 'in', keys).execute();
  const email = who.email.trim().toLowerCase();
  await db
    .insertInto('known_addresses')
    .values({ email, address: who.address })
    .onConflict((oc) => oc.columns(['email', 'address']).doUpdateSet({ at: new Date() }))
    .execute();
}

const sign = (secret: string, text: string): string =>
  createHmac('sha256', `device:${secret}`).update(text).digest('base64url');

/** What a device keeps once somebody has signed in on it: a number of its own, and the account, signed. */
export function makeMark(secret: string, email: string): string {
  const id = randomBytes(9).toString('base64url');
  return `${id}.${sign(secret, `${id}/${email.trim().toLowerCase()}`)}`;
}

function readMark(secret: string, mark: string | undefined, account: string): string | undefined {
  const [id, signature] = (mark ?? '').split('.');
  if (!id || !signature) return undefined;
  const right = Buffer.from(sign(secret, `${id}/${account}`));
  const given = Buffer.from(signature);
  return right.length === given.length && timingSafeEqual(right, given) ? id : undefined;
}
