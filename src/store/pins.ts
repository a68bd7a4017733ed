/** The PIN that opens a screen again, and which sessions' screens are locked. */
import { randomBytes, scrypt as scryptCallback, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import { sql } from 'kysely';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { Database } from './database.ts';
import { tellMembers } from './people.ts';

const scrypt = promisify(scryptCallback) as (
  password: string,
  salt: Buffer,
  length: number,
) => Promise<Buffer>;

const PIN = /^\d{4,8}$/;
const WRONG_ALLOWED = 5;
const WAIT_MS = 60_000;

/** Gives a person a PIN to unlock their screens with, or takes it away; refuses one that is no PIN. */
export async function setPin(
  db: Database,
  userId: string,
  pin: string | null,
): Promise<{ ok: true } | Refusal> {
  if (pin === null) {
    await db.deleteFrom('pins').where('user_id', '=', userId).execute();
    return { ok: true };
  }
  if (!PIN.test(pin))
    return refuse('invalid', 'A PIN has 4 to 8 digits.', { pin: '4 to 8 digits.' });
  const salt = randomBytes(16);
  const hash = `${salt.toString('hex')}:${(await scrypt(pin, salt, 32)).toString('hex')}`;
  await db
    .insertInto('pins')
    .values({ user_id: userId, hash, wait_until: null })
    .onConflict((oc) => oc.column('user_id').doUpdateSet({ hash, wrong: 0, wait_until: null }))
    .execute();
  return { ok: true };
}

/** Whether the PIN is right. After five wrong ones a minute must pass, also when they come at the same moment. */
export async function checkPin(
  db: Database,
  userId: string,
  pin: string,
  now = new Date(),
): Promise<{ ok: true } | Refusal> {
  // Counted before it is looked at: of many tries at once only so many are looked at.
  const row = await db
    .updateTable('pins')
    .set({
      wrong: sql<number>`(wrong + 1) % ${sql.lit(WRONG_ALLOWED)}`,
      wait_until: sql<Date | null>`case when wrong >= ${sql.lit(WRONG_ALLOWED - 1)} then ${new Date(now.getTime() + WAIT_MS)}::timestamptz end`,
    })
    .where('user_id', '=', userId)
    .where((eb) => eb.or([eb('wait_until', 'is', null), eb('wait_until', '<=', now)]))
    .returning('hash')
    .executeTakeFirst();
  if (!row) {
    const waits = await db
      .selectFrom('pins')
      .select('wait_until')
      .where('user_id', '=', userId)
      .executeTakeFirst();
    if (!waits) return refuse('nothing', 'You have no PIN; set one first.');
    const left_s = Math.max(
      1,
      Math.ceil(((waits.wait_until?.getTime() ?? now.getTime()) - now.getTime()) / 1000),
    );
    return refuse(
      'rate',
      `Too many wrong PINs. Try again in ${left_s} s, or sign out and in again.`,
    );
  }
  const [salt = '', hash = ''] = row.hash.split(':');
  const given = await scrypt(pin, Buffer.from(salt, 'hex'), 32);
  if (timingSafeEqual(given, Buffer.from(hash, 'hex'))) {
    await db
      .updateTable('pins')
      .set({ wrong: 0, wait_until: null })
      .where('user_id', '=', userId)
      .execute();
    return { ok: true };
  }
  return refuse('forbidden', 'This is not your PIN.', { pin: 'Wrong.' });
}

/** Whether a person has a PIN. */
export const hasPin = async (db: Database, userId: string): Promise<boolean> =>
  (await db
    .selectFrom('pins')
    .select('user_id')
    .where('user_id', '=', userId)
    .executeTakeFirst()) !== undefined;

/** A locked screen shows what plays and takes nothing, on the server too, until its PIN is given. */
export async function lockSession(db: Database, sessionId: string, locked: boolean): Promise<void> {
  if (locked)
    await db
      .insertInto('locked_sessions')
      .values({ session_id: sessionId })
      .onConflict((oc) => oc.doNothing())
      .execute();
  else await db.deleteFrom('locked_sessions').where('session_id', '=', sessionId).execute();
  await tellMembers(db, { session: sessionId, locked });
}
/** Whether a session’s screens are locked. */
export const isLocked = async (db: Database, sessionId: string): Promise<boolean> =>
  (await db
    .selectFrom('locked_sessions')
    .select('session_id')
    .where('session_id', '=', sessionId)
    .executeTakeFirst()) !== undefined;
