/** Who comes in by a ticket: as they are now, once, and only where somebody plays. */
import type { Standing } from '../core/rights.ts';
import type { WhoIsIt } from '../store/rights.ts';
import { issueTicket } from '../store/ticket.ts';
import { admit, makeEntrance } from './entrance.ts';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { WebSocket } from 'ws';
import type { Client } from './client.ts';
import { desk } from './simulated-desk.ts';

const SECRET = 'a secret of this test alone';

function door(more: { onAir?: boolean; who?: WhoIsIt | null } = {}) {
  const spent = new Set<string>();
  const asked: string[] = [];
  const who: WhoIsIt | null = more.who === undefined ? standing({ role: 'operator' }) : more.who;
  return {
    spent,
    asked,
    needs: {
      house: { onAir: more.onAir ?? true },
      secret: SECRET,
      spend: (id: string) => {
        const isNew = !spent.has(id);
        spent.add(id);
        return Promise.resolve(isNew);
      },
      standing: (sessionId: string, showId: string) => {
        asked.push(`${sessionId} in ${showId}`);
        return Promise.resolve(who);
      },
    },
  };
}
function standing(more: Partial<Standing>): WhoIsIt {
  const role = more.role ?? null;
  return {
    userId: 'tam',
    name: 'Tam Brevik',
    sessionId: 'session',
    house: 'guest',
    role,
    isLocked: more.isLocked ?? false,
    of: role === null ? null : { role, until: null, pages: [] },
  } as unknown as WhoIsIt;
}
const ticket = (use: 'socket' | 'request' = 'socket'): string =>
  issueTicket(SECRET, {
    userId: 'tam',
    name: 'Tam Brevik',
    showId: 'show',
    role: 'viewer',
    sessionId: 'session',
    use,
  });

test('comes in with the role of now, and not with that of the ticket', async () => {
  const { needs, asked } = door();
  const admitted = await admit(needs, ticket());
  expect(admitted).toMatchObject({
    of: { role: 'operator' },
    who: { name: 'Tam Brevik' },
    ticket: { showId: 'show' },
  });
  expect(asked).toEqual(['session in show']);
});

test('a ticket opens one socket', async () => {
  const { needs } = door();
  const text = ticket();
  expect(await admit(needs, text)).toMatchObject({ of: { role: 'operator' } });
  expect(await admit(needs, text)).toBe('401 Unauthorized');
});

test.each([
  ['none', null],
  ['of requests', ticket('request')],
  ['changed', `${ticket()}x`],
])('no ticket for a socket (%s): turned away, and nobody is asked', async (_, text) => {
  const { needs, asked, spent } = door();
  expect(await admit(needs, text)).toBe('401 Unauthorized');
  expect([asked, spent.size]).toEqual([[], 0]);
});

test('a player that waits spends no ticket: it is good for the one that plays', async () => {
  const { needs, spent } = door({ onAir: false });
  expect(await admit(needs, ticket())).toBe('503 Service Unavailable');
  expect(spent.size).toBe(0);
});

test('whoever signed out, is no longer of the show, or locked the screen for another one', async () => {
  const as = async (who: WhoIsIt | null): Promise<unknown> => admit(door({ who }).needs, ticket());
  expect(await as(null)).toBe('401 Unauthorized');
  expect(await as(standing({ role: null }))).toBe('403 Forbidden');
  // A locked screen comes in, and is told what plays alone (`client.test.ts`).
  expect(await as(standing({ role: 'operator', isLocked: true }))).toMatchObject({
    who: { isLocked: true },
  });
});

describe('over the network', () => {
  const servers: Server[] = [];
  afterEach(() => {
    for (const server of servers.splice(0)) {
      server.closeAllConnections();
      server.close();
    }
  });

  async function entrance(
    more: { who?: WhoIsIt | null; opens?: () => Promise<unknown>; fails?: boolean } = {},
  ) {
    const { needs } = door(more.who === undefined ? {} : { who: more.who });
    const joined: Client[] = [];
    const d = desk();
    const house = {
      onAir: true,
      open: more.opens ?? (() => Promise.resolve(d.live)),
      joined: (client: Client) => void joined.push(client),
      left: () => undefined,
      air: () => ({}),
      hands: { state: () => ({}) },
      sounds: {},
      notKept: null,
    };
    const server = createServer();
    servers.push(server);
    const enter = makeEntrance({
      ...needs,
      house: house as never,
      log: pino({ level: 'silent' }),
      ...(more.fails ? { standing: () => Promise.reject(new Error('away')) } : {}),
    });
    server.on('upgrade', enter);
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', () => done()));
    const { port } = server.address() as AddressInfo;
    const knock = (path: string) =>
      new Promise<{ heard: { type?: string }[]; ended: string }>((done) => {
        const heard: { type?: string }[] = [];
        const ws = new WebSocket(`ws://127.0.0.1:${port}${path}`);
        // A screen that speaks before it was greeted.
        ws.on('open', () => ws.send(JSON.stringify({ type: 'ping', at: 7 })));
        ws.on('message', (data) => {
          heard.push(JSON.parse((data as Buffer).toString()) as { type?: string });
          if (heard.at(-1)?.type !== 'pong') return;
          ws.close();
          done({ heard, ended: 'open' });
        });
        ws.on('unexpected-response', (_, { statusCode }) =>
          done({ heard, ended: String(statusCode) }),
        );
        ws.on('close', (code) => done({ heard, ended: String(code) }));
        ws.on('error', () => undefined);
      });
    return { knock, joined };
  }
  const live = (): string => `/live?ticket=${encodeURIComponent(ticket())}`;

  test('whoever is let in is greeted first, and what they said before is answered then', async () => {
    const { knock, joined } = await entrance();
    const { heard, ended } = await knock(live());
    expect([ended, heard[0]?.type, heard.at(-1)?.type]).toEqual(['open', 'welcome', 'pong']);
    expect(joined).toHaveLength(1);
    expect(joined[0]?.actor).toMatchObject({ userId: 'tam', name: 'Tam Brevik', role: 'operator' });
  });

  test('whoever is not is told why in the status of the answer', async () => {
    const open = await entrance();
    expect((await open.knock('/elsewhere')).ended).toBe('404');
    expect((await open.knock('/live')).ended).toBe('401');
    expect((await open.knock('/live?ticket=made-up')).ended).toBe('401');
    const stranger = await entrance({ who: standing({}) });
    expect((await stranger.knock(live())).ended).toBe('403');
    const broken = await entrance({ fails: true });
    expect((await broken.knock(live())).ended).toBe('503');
    expect([open.joined, stranger.joined, broken.joined]).toEqual([[], [], []]);
  });

  test('a show that is not there, or cannot be opened now, is said on the socket', async () => {
    const none = await entrance({ opens: () => Promise.resolve(undefined) });
    expect((await none.knock(live())).ended).toBe('4404');
    const later = await entrance({ opens: () => Promise.reject(new Error('away')) });
    expect((await later.knock(live())).ended).toBe('1013');
    expect([none.joined, later.joined]).toEqual([[], []]);
  });
});
