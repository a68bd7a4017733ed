/** Accounts and the demo show, made once: a database that has people or shows is left as it is. */
import { randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import { ensureUser, type Auth } from '../src/store/auth.ts';
import type { Database } from '../src/store/database.ts';
import { setHouseRight } from '../src/store/rights.ts';
import { createShow, setMember } from '../src/store/shows.ts';
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from '../src/core/demo-accounts.ts';
import type { HouseRight } from '../src/core/rights.ts';
import { isRefusal } from '../src/core/refusal.ts';
import type { Role } from '../src/core/roles.ts';
import { changeOf } from '../src/core/show/fields-of.ts';
import type { RowChange } from '../src/core/show/show.ts';
import { linkSounds, receiveSound } from '../src/store/sounds/kept.ts';
import { takeInSound } from '../src/store/sounds/measure.ts';
import { nightFerryRows } from './night-ferry.ts';
import { waltzWav } from './waltz-music.ts';
import { SUNDAY_SHEET, sundayRows } from './sunday.ts';

const PEOPLE: { name: string; email: string; role: Role; may: HouseRight }[] = [
  { name: 'Yrsa Oddny', email: 'owner@tidewater.example', role: 'owner', may: 'owner' },
  { name: 'Mara Kell', email: 'programmer@tidewater.example', role: 'programmer', may: 'maker' },
  { name: 'Tam Brevik', email: 'operator@tidewater.example', role: 'operator', may: 'guest' },
  { name: 'Iden Vale', email: 'viewer@tidewater.example', role: 'viewer', may: 'guest' },
  { name: 'Nell Strand', email: 'volunteer@tidewater.example', role: 'volunteer', may: 'guest' },
];

export interface SeededAccounts {
  /** Accounts whose random passwords must be shown once. */
  shown: { email: string; password: string }[];
}

/** @param known everybody on this machine may know the demo's password; else passwords are random and printed once */
export async function seedAccounts(
  auth: Auth,
  db: Database,
  { demo, known }: { demo: boolean; known: boolean },
): Promise<SeededAccounts> {
  const { count } = await db
    .selectFrom('user')
    .select((eb) => eb.fn.countAll<string>().as('count'))
    .executeTakeFirstOrThrow();
  if (Number(count) > 0) return { shown: [] };
  const shown: SeededAccounts['shown'] = [];
  const people = demo
    ? PEOPLE
    : PEOPLE.slice(0, 1).map((p) => ({ ...p, name: 'Owner', email: 'owner@wingman.example' }));
  for (const p of people) {
    const password = demo && known ? DEMO_PASSWORD : randomBytes(12).toString('base64url');
    const userId = await ensureUser(auth, db, { name: p.name, email: p.email, password });
    await setHouseRight(db, userId, p.may);
    if (!(demo && known)) shown.push({ email: p.email, password });
  }
  if (demo)
    await db
      .updateTable('installation')
      .set({ demo_passwords: known ? 'published' : 'random' })
      .where('id', '=', 1)
      .execute();
  return { shown };
}

/**
 * The demo's published password holds while only this machine reaches the house. Opened to a network, accounts that
 * still have it get random ones, told once, and their sessions end; closed again, they have the published one back.
 */
export async function guardDemoAccounts(
  auth: Auth,
  db: Database,
  isOpen: boolean,
): Promise<SeededAccounts> {
  const house = await db
    .selectFrom('installation')
    .select('demo_passwords')
    .where('id', '=', 1)
    .executeTakeFirstOrThrow();
  const wanted = isOpen ? 'random' : 'published';
  if (house.demo_passwords === wanted) return { shown: [] };
  const { password } = await auth.$context;
  const shown: SeededAccounts['shown'] = [];
  const accounts = await db
    .selectFrom('account')
    .innerJoin('user', 'user.id', 'account.userId')
    .select(['account.id', 'account.password', 'user.id as userId', 'user.email'])
    .where('account.providerId', '=', 'credential')
    .where('user.email', 'in', [...DEMO_ACCOUNTS])
    .orderBy('user.email')
    .execute();
  for (const account of accounts) {
    if (
      isOpen &&
      !(
        account.password !== null &&
        (await password.verify({ hash: account.password, password: DEMO_PASSWORD }))
      )
    )
      continue;
    const next = isOpen ? randomBytes(12).toString('base64url') : DEMO_PASSWORD;
    await db
      .updateTable('account')
      .set({ password: await password.hash(next) })
      .where('id', '=', account.id)
      .execute();
    if (!isOpen) continue;
    await db.deleteFrom('session').where('userId', '=', account.userId).execute();
    shown.push({ email: account.email, password: next });
  }
  await db
    .updateTable('installation')
    .set({ demo_passwords: wanted })
    .where('id', '=', 1)
    .execute();
  return { shown };
}

/** The waltz with its music: kept as any sound is, and laid under its list. */
async function withWaltz(
  db: Database,
  rows: RowChange[],
): Promise<{ rows: RowChange[]; sum: string }> {
  const wav = waltzWav();
  const arrived = await receiveSound(db, Readable.from([wav]));
  if (isRefusal(arrived)) throw new Error(arrived.message);
  const taken = await takeInSound(db, arrived);
  if (isRefusal(taken)) throw new Error(taken.message);
  const sound = { id: 'ledger-waltz', name: 'waltz, take 3', file: taken.about };
  const laid = rows.map((c) =>
    c.table === 'lists' && c.after?.name === 'The ledger waltz' && c.after.time
      ? changeOf('lists', null, {
          ...c.after,
          time: { ...c.after.time, sound: { sound: sound.id, at_s: 0 } },
        })
      : c,
  );
  return { rows: [...laid, changeOf('sounds', null, sound)], sum: taken.about.sha256 };
}

/** The Night Ferry, owned by the demo's owner, on air; and Sunday at Tidewater beside it. */
export async function seedDemo(db: Database): Promise<void> {
  const { count } = await db
    .selectFrom('shows')
    .select((eb) => eb.fn.countAll<string>().as('count'))
    .executeTakeFirstOrThrow();
  if (Number(count) > 0) return;
  const owner = await db
    .selectFrom('user')
    .select('id')
    .where('email', '=', PEOPLE[0]?.email ?? '')
    .executeTakeFirst();
  if (!owner) return;
  // The newest comes first on the page of shows: that is the Ferry.
  const sundayShow = sundayRows();
  const sunday = await createShow(
    db,
    owner.id,
    'Sunday at Tidewater',
    'Tidewater Hall · chapel',
    sundayShow,
  );
  if (isRefusal(sunday)) throw new Error(sunday.message);
  const ferry = await withWaltz(db, nightFerryRows());
  const made = await createShow(
    db,
    owner.id,
    'The Night Ferry',
    'Tidewater Hall · rehearsal 3',
    ferry.rows,
  );
  if (isRefusal(made)) throw new Error(made.message);
  await linkSounds(db, made.id, [ferry.sum]);
  const page = sundayShow.find((c) => c.table === 'sheets' && c.after?.name === SUNDAY_SHEET);
  for (const p of PEOPLE) {
    if (p.role !== 'volunteer')
      for (const show of [made, sunday]) await setMember(db, show.id, p.email, p.role);
    // On Sundays only, and only with the page.
    else await setMember(db, sunday.id, p.email, p.role, { pages: page ? [page.id] : [] });
  }
  await db.updateTable('installation').set({ air_show_id: made.id }).where('id', '=', 1).execute();
}
