/** What becomes of open screens when somebody's session, place or time is another: theirs, and nobody else's. */
import type { Logger } from 'pino';
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
  const gathering = new Gathering();
  for (const s of screens) gathering.clients.add(s.client);
  const did: string[] = [];
  const showOf = (id: string) =>
    ({
      id,
      lookAtPeople: () => void did.push(`look ${id}`),
      withdrawn: (userId: string, why: string) => void did.push(`${id}: ${userId} ${why}`),
      left: { back: (userId: string) => void did.push(`${id}: ${userId} back`), saved: () => [] },
    }) as unknown as LiveShow;
  const warned: unknown[] = [];
  const news = new PeopleNews({
    // Nothing here reads it; what does says so.
    db: {} as Database,
    log: { warn: (...said: unknown[]) => void warned.push(said) } as unknown as Logger,
    shows: new Map(['ferry', 'other'].map((id) => [id, showOf(id)])),
    gathering,
  });
  return { news, did, warned };
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
