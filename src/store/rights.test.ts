/** Who somebody is, against the real PostgreSQL: sessions, places that end, rights in the house, names, tickets, sign-in. */
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { isRefusal } from '../core/refusal.ts';
import { connect, databaseTrouble, type Database } from './database.ts';
import { MEMBERS_CHANNEL } from './channels.ts';
import { listen } from './feed.ts';
import { migrate } from './migrate.ts';
import {
  endedSessions,
  houseRight,
  listAccounts,
  setHouseRight,
  spendTicket,
  standingOf,
} from './rights.ts';
import { createShow, setMember, setShowState } from './shows.ts';
import { countTry, makeMark, wasRight } from './sign-in.ts';

const url = process.env.WINGMAN_TEST_DATABASE ?? '';
let db: Database;
beforeAll(async () => {
  db = connect(url, 8).db;
  await migrate(db);
});
afterAll(() => db.destroy());

async function somebody(
  name = `Somebody ${randomUUID().slice(0, 8)}`,
  local: string = randomUUID(),
): Promise<{ userId: string; sessionId: string; email: string }> {
  const [userId, sessionId, email] = [randomUUID(), randomUUID(), `${local}@tidewater.example`];
  await db.insertInto('user').values({ id: userId, name, email }).execute();
  await db
    .insertInto('session')
    .values({
      id: sessionId,
      token: randomUUID(),
      userId,
      expiresAt: new Date(Date.now() + 3600_000),
    })
    .execute();
  return { userId, sessionId, email };
}
async function showOf(userId: string): Promise<string> {
  const made = await createShow(db, userId, 'Harbour lights');
  if (isRefusal(made)) throw new Error(made.message);
  return made.id;
}

describe('standing', () => {
  test('a place in a show that has ended is none; a deleted show is nobody’s, but its owner’s to have back', async () => {
    const [owner, guest] = [await somebody(), await somebody()];
    const show = await showOf(owner.userId);
    await setMember(db, show, guest.email, 'operator', { until: new Date(Date.now() + 60_000) });
    expect((await standingOf(db, guest.sessionId, show))?.role).toBe('operator');
    await db
      .updateTable('members')
      .set({ until: new Date(Date.now() - 1000) })
      .where('user_id', '=', guest.userId)
      .execute();
    expect(await standingOf(db, guest.sessionId, show)).toMatchObject({
      role: null,
      of: null,
      house: 'guest',
    });
    await setShowState(db, show, 'deleted', 'owner');
    expect([
      (await standingOf(db, owner.sessionId, show))?.role,
      (await standingOf(db, owner.sessionId, show, true))?.role,
    ]).toEqual([null, 'owner']);
  });

  test('a session that has ended, or whose time is over, is nobody', async () => {
    const a = await somebody();
    expect((await standingOf(db, a.sessionId, null))?.userId).toBe(a.userId);
    await db
      .updateTable('session')
      .set({ expiresAt: new Date(Date.now() - 1) })
      .where('id', '=', a.sessionId)
      .execute();
    expect(await standingOf(db, a.sessionId, null)).toBeNull();
    expect(await standingOf(db, randomUUID(), null)).toBeNull();
    const b = await somebody();
    expect([...(await endedSessions(db, [a.sessionId, b.sessionId]))]).toEqual([a.sessionId]);
  });

  test('two people of one name are told apart by their addresses; one alone keeps the name', async () => {
    const name = `Rook ${randomUUID().slice(0, 6)}`;
    const one = await somebody(name, `rook.${randomUUID().slice(0, 6)}`);
    expect((await standingOf(db, one.sessionId, null))?.name).toBe(name);
    const two = await somebody(name.toUpperCase(), `other.${randomUUID().slice(0, 6)}`);
    const names = await Promise.all(
      [one, two].map(async (p) => (await standingOf(db, p.sessionId, null))?.name),
    );
    expect(names).toEqual([
      `${name} (${one.email.split('@')[0]})`,
      `${name.toUpperCase()} (${two.email.split('@')[0]})`,
    ]);
  });

  test('the database itself tells of ended sessions and changed places', async () => {
    const [owner, guest] = [await somebody(), await somebody()];
    const show = await showOf(owner.userId);
    const heard: unknown[] = [];
    const feed = await new Promise<ReturnType<typeof listen>>((resolve) => {
      const made = listen(
        url,
        (channel, payload) => channel === MEMBERS_CHANNEL && heard.push(payload),
        () => setTimeout(() => resolve(made), 10),
      );
    });
    await setMember(db, show, guest.email, 'viewer');
    await setMember(db, show, guest.email, null);
    await db.deleteFrom('session').where('id', '=', guest.sessionId).execute();
    for (let i = 0; i < 100 && heard.length < 3; i++)
      await new Promise((done) => setTimeout(done, 20));
    expect(heard).toEqual([
      { show, user: guest.userId },
      { show, user: guest.userId },
      { session: guest.sessionId, ended: true },
    ]);
    await feed.stop();
  });
});

describe('rights in the house', () => {
  test('are given and taken, and a house keeps an owner, also when two take each other’s at once', async () => {
    await db.deleteFrom('house_rights').execute();
    const [a, b] = [await somebody(), await somebody()];
    expect(await houseRight(db, a.userId)).toBe('guest');
    await setHouseRight(db, a.userId, 'owner');
    expect(await setHouseRight(db, a.userId, 'maker')).toMatchObject({ code: 'conflict' });
    await setHouseRight(db, b.userId, 'owner');
    const both = await Promise.all([
      setHouseRight(db, a.userId, 'guest'),
      setHouseRight(db, b.userId, 'guest'),
    ]);
    expect(both.filter((r) => isRefusal(r)).length).toBe(1);
    expect((await listAccounts(db)).filter((p) => p.may === 'owner').length).toBe(1);
    expect(await setHouseRight(db, randomUUID(), 'maker')).toMatchObject({ code: 'not-found' });
  });
});

test('a ticket is spent once, however many spend it at the same moment', async () => {
  const id = randomUUID();
  const spent = await Promise.all(Array.from({ length: 12 }, () => spendTicket(db, id)));
  expect(spent.filter(Boolean).length).toBe(1);
});

describe('sign-in', () => {
  const secret = 'a secret of the house';
  const fresh = () => `p.${randomUUID().slice(0, 8)}@tidewater.example`;
  const many = async (n: number, who: Parameters<typeof countTry>[2]): Promise<number> =>
    (await Promise.all(Array.from({ length: n }, () => countTry(db, secret, who)))).filter(
      isRefusal,
    ).length;

  test('so many tries for an account from an address, also at once; another account from there is another matter', async () => {
    const [email, other] = [fresh(), fresh()];
    expect(await many(25, { email, address: '10.0.0.9', mark: undefined })).toBe(15);
    expect(await many(3, { email: other, address: '10.0.0.9', mark: undefined })).toBe(0);
    expect(
      await countTry(db, secret, {
        email: email.toUpperCase(),
        address: '10.0.0.9',
        mark: undefined,
      }),
    ).toMatchObject({ code: 'rate', message: expect.stringMatching(/Try again in \d+ s/) });
  });

  test('strangers from everywhere are limited together, and lock nobody out who was signed in before', async () => {
    const email = fresh();
    await wasRight(db, secret, { email, address: '10.0.0.7', mark: undefined });
    const mark = makeMark(secret, email);
    const from = await Promise.all(
      Array.from({ length: 60 }, (_, i) =>
        countTry(db, secret, { email, address: `10.1.0.${i}`, mark: undefined }),
      ),
    );
    expect(from.filter(isRefusal).length).toBe(30);
    expect(await countTry(db, secret, { email, address: '10.0.0.7', mark: undefined })).toBeNull();
    expect(await countTry(db, secret, { email, address: '10.9.9.9', mark })).toBeNull();
    expect(
      await countTry(db, secret, {
        email,
        address: '10.9.9.9',
        mark: makeMark('another secret', email),
      }),
    ).toMatchObject({ code: 'rate' });
    expect(
      await countTry(db, secret, { email, address: '10.9.9.9', mark: makeMark(secret, fresh()) }),
    ).toMatchObject({ code: 'rate' });
  });

  test('a device and an address wait a minute, strangers ten', async () => {
    const email = fresh();
    const mark = makeMark(secret, email);
    await countTry(db, secret, { email, address: '10.2.0.1', mark: undefined });
    await countTry(db, secret, { email, address: '10.2.0.1', mark });
    const { rows } = await sql<{ key: string; left_s: number }>`
      select key, extract(epoch from until - now())::float8 as left_s from sign_in_tries
      where key like ${`%${email}%`} or key like 'device/%' order by until desc`.execute(db);
    const waits = (of: string): number => rows.find((r) => r.key.startsWith(of))?.left_s ?? 0;
    expect(Math.ceil(waits('pair/') / 60)).toBe(1);
    expect(Math.ceil(waits('device/') / 60)).toBe(1);
    expect(Math.ceil(waits('strangers/') / 60)).toBe(10);
    const tries = (await many(25, { email, address: '10.2.0.2', mark })) + 1;
    expect(tries).toBe(25 - 20 + 1 + 1);
  });

  test('a right password wipes what was counted', async () => {
    const email = fresh();
    const who = { email, address: '10.0.0.5', mark: undefined };
    expect(await many(10, who)).toBe(0);
    await wasRight(db, secret, who);
    expect(await many(10, who)).toBe(0);
  });
});

describe('what a lost database is', () => {
  test.each<[what: string, error: unknown, expected: 'away' | 'lost' | undefined]>([
    [
      'a refused connection',
      Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' }),
      'away',
    ],
    [
      'several addresses that all refuse',
      Object.assign(new AggregateError([Object.assign(new Error('x'), { code: 'ECONNREFUSED' })]), {
        code: undefined,
      }),
      'away',
    ],
    [
      'a server that starts',
      Object.assign(new Error('the database system is starting up'), { code: '57P03' }),
      'away',
    ],
    ['a pool that waits in vain', new Error('timeout exceeded when trying to connect'), 'away'],
    [
      'a session that was ended',
      Object.assign(new Error('terminating connection'), { code: '57P01' }),
      'lost',
    ],
    ['a connection that broke', new Error('Connection terminated unexpectedly'), 'lost'],
    [
      'the same inside another error',
      new Error('could not read', { cause: new Error('Connection terminated unexpectedly') }),
      'lost',
    ],
    [
      'a mistake of ours that speaks of connections',
      new TypeError('Connection is not a function: timeout of terminate'),
      undefined,
    ],
    [
      'a broken rule of a table',
      Object.assign(new Error('duplicate key'), { code: '23505' }),
      undefined,
    ],
    ['nothing', undefined, undefined],
  ])('%s', (_what, error, expected) => expect(databaseTrouble(error)).toBe(expected));
});
