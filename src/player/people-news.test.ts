/** What becomes of open screens when somebody's session, place or time is another: theirs, and nobody else's. */
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { isRefusal } from '../core/refusal.ts';
import { until } from '../core/testing/until.ts';
import { ownDatabase } from '../store/own-database.ts';
import { createShow, setMember } from '../store/shows.ts';
import type { ServerMessage } from '../core/live/messages.ts';
import type { Database } from '../store/database.ts';
import type { Client } from './client.ts';
import { Gathering } from './gathering.ts';
import type { LiveShow } from './live-show.ts';
import { PeopleNews } from './people-news.ts';

interface Seen {
  client: Client;
  heard: ServerMessage[];
  did: string[];
}
function screenOf(
  userId: string,
  { showId = 'ferry', session = userId, leaves = null as number | null } = {},
): Seen {
  const heard: ServerMessage[] = [];
  const did: string[] = [];
  const client = {
    showId,
    sessionId: session,
    leaves,
    actor: { userId, name: userId, role: 'programmer' },
    send: (m: ServerMessage) => void heard.push(m),
    showOut: () => void did.push('out'),
    setLocked: (on: boolean) => void did.push(on ? 'locked' : 'opened'),
    setRole: (of: { role: string } | null) => void did.push(`role ${of?.role ?? 'none'}`),
  };
  return { client: client as unknown as Client, heard, did };
}

function house(...screens: Seen[]) {
  return houseOn({} as Database, ...screens);
}
/** @param db where places and sessions stand; an empty one says so when it is read */
function houseOn(db: Database, ...screens: Seen[]) {
  const gathering = new Gathering();
  for (const s of screens) gathering.clients.add(s.client);
  const did: string[] = [];
  const showOf = (id: string) =>
    ({
      id,
      lookAtPeople: () => void did.push(`look ${id}`),
      withdrawn: (userId: string, why: string) => void did.push(`${id}: ${userId} ${why}`),
      left: {
        back: (userId: string) => void did.push(`${id}: ${userId} back`),
        saved: () => (holders[id] ?? []).map((userId) => [userId, null]),
      },
    }) as unknown as LiveShow;
  const warned: unknown[] = [];
  const holders: Record<string, string[]> = {};
  const news = new PeopleNews({
    db,
    log: { warn: (...said: unknown[]) => void warned.push(said) } as unknown as Logger,
    shows: new Map(
      [...new Set(['ferry', 'other', ...screens.map((c) => c.client.showId)])].map((id) => [
        id,
        showOf(id),
      ]),
    ),
    gathering,
  });
  return { news, did, warned, holders };
}

test('a session that ends shows out its own screens; one that is locked locks them, and opens them again', () => {
  const [mine, second, theirs] = [
    screenOf('mara', { session: 's1' }),
    screenOf('mara', { session: 's2' }),
    screenOf('tam', { session: 's3' }),
  ];
  const { news } = house(mine, second, theirs);
  news.heard({ session: 's1', locked: true });
  news.heard({ session: 's1', locked: false });
  news.heard({ session: 's1', ended: true });
  news.heard({ session: 's2' });
  expect([mine.did, second.did, theirs.did]).toEqual([['locked', 'opened', 'out'], ['opened'], []]);
});

test('something new in an inbox is said on its show’s screens, and counted on all of that person', () => {
  const [here, elsewhere, other] = [
    screenOf('mara'),
    screenOf('mara', { showId: 'other' }),
    screenOf('tam'),
  ];
  const { news } = house(here, elsewhere, other);
  news.heard({ inbox: 'mara', of: 'ferry', says: 'Tam asks for the board' });
  expect(here.heard).toEqual([{ type: 'inbox', says: 'Tam asks for the board' }]);
  expect(elsewhere.heard).toEqual([{ type: 'inbox', says: null }]);
  expect(other.heard).toEqual([]);
  news.heard({ inbox: 'mara', of: 'ferry' });
  expect(here.heard[1]).toEqual({ type: 'inbox', says: null });
});

test('whose time is over leaves at that moment, and whoever stays longer stays', () => {
  const [over, later, always] = [
    screenOf('mara', { leaves: 5000 }),
    screenOf('tam', { leaves: 5001 }),
    screenOf('yrsa'),
  ];
  const { news, did } = house(over, later, always);
  news.lookAtTime(4999);
  expect(over.did).toEqual([]);
  news.lookAtTime(5000);
  expect([over.did, later.did, always.did]).toEqual([['role none'], [], []]);
  expect(did).toEqual([
    'look ferry',
    'look other',
    'look ferry',
    'look other',
    'ferry: mara removed',
  ]);
});

test('roles that cannot be read are said in the log, and nobody is thrown out for it', async () => {
  const here = screenOf('mara');
  const { news, did, warned } = house(here);
  news.heard({ show: 'ferry', user: 'mara' });
  await news.lookAtSessions();
  await new Promise((done) => setImmediate(done));
  expect(warned).toHaveLength(2);
  expect([here.did, did]).toEqual([[], []]);
});

describe('with a database', () => {
  let own: Awaited<ReturnType<typeof ownDatabase>>;
  let showId = '';
  const [YRSA, TAM, NELL] = [randomUUID(), randomUUID(), randomUUID()];
  const names = { [YRSA]: 'yrsa', [TAM]: 'tam', [NELL]: 'nell' };
  const session = (userId: string): string => `session-${names[userId]}`;
  beforeAll(async () => {
    own = await ownDatabase();
    for (const [id, name] of Object.entries(names)) {
      await own.db
        .insertInto('user')
        .values({ id, name, email: `${name}@tidewater.example` })
        .execute();
      await own.db
        .insertInto('session')
        .values({
          id: session(id),
          userId: id,
          token: name,
          expiresAt: new Date(Date.now() + 3_600_000),
        })
        .execute();
    }
    const made = await createShow(own.db, YRSA, 'Harbour lights', '', []);
    if (isRefusal(made)) throw new Error(made.message);
    showId = made.id;
  });
  afterAll(() => own.drop());
  beforeEach(async () => {
    await setMember(own.db, showId, 'tam@tidewater.example', 'operator');
    await setMember(own.db, showId, 'nell@tidewater.example', 'viewer');
  });

  const screens = () =>
    [YRSA, TAM, NELL].map((userId) => screenOf(userId, { showId, session: session(userId) })) as [
      Seen,
      Seen,
      Seen,
    ];
  const removed = (userId: string) =>
    own.db
      .deleteFrom('members')
      .where('show_id', '=', showId)
      .where('user_id', '=', userId)
      .execute();

  test('whose place has changed has it at once, on their screens alone, and light that they held is looked after', async () => {
    const [yrsa, tam, nell] = screens();
    const { news, did } = houseOn(own.db, yrsa, tam, nell);
    await setMember(own.db, showId, 'tam@tidewater.example', 'viewer');
    news.heard({ show: showId, user: TAM });
    await until(() => tam.heard.length > 0);
    expect([yrsa.did, tam.did, nell.did]).toEqual([[], ['role viewer'], []]);
    // Once for the screen, once for what is held without one.
    expect(did).toEqual([`${showId}: ${TAM} role`, `${showId}: ${TAM} role`]);
    await removed(TAM);
    news.heard({ show: showId, user: TAM });
    await until(() => tam.did.length > 1);
    expect(tam.did[1]).toBe('role none');
    await until(() => did.length === 4);
    expect(did.slice(2)).toEqual([`${showId}: ${TAM} removed`, `${showId}: ${TAM} removed`]);
  });

  test('whoever plays again has their light back', async () => {
    const [, tam] = screens();
    const { news, did } = houseOn(own.db, tam);
    news.heard({ show: showId, user: TAM });
    await until(() => tam.did.length > 0 && tam.heard.length > 0);
    expect([tam.did, did]).toEqual([['role operator'], [`${showId}: ${TAM} back`]]);
  });

  test('where it is not said whose place has changed, everybody’s is looked at', async () => {
    const [yrsa, tam, nell] = screens();
    const elsewhere = screenOf(TAM, { showId: 'other' });
    const { news } = houseOn(own.db, yrsa, tam, nell, elsewhere);
    news.heard({ show: showId });
    await until(() => nell.did.length > 0);
    expect([yrsa.did, tam.did, nell.did, elsewhere.did]).toEqual([
      ['role owner'],
      ['role operator'],
      ['role viewer'],
      [],
    ]);
  });

  test('after a time without news everybody is looked at: who has ended, who is locked, and who holds light without a screen', async () => {
    const [yrsa, tam, nell] = screens();
    const { news, did, holders } = houseOn(own.db, yrsa, tam, nell);
    const ghost = screenOf(TAM, { showId, session: 'ended-long-ago' });
    const { news: later } = houseOn(own.db, ghost);
    await later.lookAtSessions();
    expect(ghost.did).toEqual(['out', 'role none', 'opened']);
    await own.db
      .insertInto('locked_sessions')
      .values({ session_id: session(NELL) })
      .execute();
    holders[showId] = ['somebody who is gone', YRSA];
    await news.lookAtSessions();
    expect([yrsa.did, tam.did, nell.did]).toEqual([
      ['role owner', 'opened'],
      ['role operator', 'opened'],
      ['role viewer', 'locked'],
    ]);
    expect(did).toContain(`${showId}: somebody who is gone removed`);
    expect(did).not.toContain(`${showId}: ${YRSA} removed`);
    expect(did).toContain(`${showId}: ${NELL} role`);
  });
});
