/** Who comes in by a ticket: as they are now, once, and only where somebody plays. */
import type { Standing } from '../core/rights.ts';
import type { WhoIsIt } from '../store/rights.ts';
import { issueTicket } from '../store/ticket.ts';
import { admit } from './entrance.ts';

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
