/** What is answered over HTTP, to whom, and what never is. */
import { pino } from 'pino';
import { AIR_UNKNOWN } from '../core/live/messages.ts';
import { refuse } from '../core/refusal.ts';
import type { Role } from '../core/roles.ts';
import { issueTicket } from '../store/ticket.ts';
import { answerTo, makeDoor, type Asked, type DoorNeeds, type Told } from './door.ts';
import { desk } from './simulated-desk.ts';

const SECRET = 'a secret of this test alone';
const d = desk();
const order: string[] = [];

function needs(more: { onAir?: boolean; isStopping?: boolean } = {}): DoorNeeds {
  return {
    house: {
      onAir: more.onAir ?? true,
      notKept: null,
      feedIsUp: true,
      clients: new Set(),
      air: () => ({ ...AIR_UNKNOWN, showName: 'The Night Ferry', showId: 'show' }),
      open: (id) => Promise.resolve(id === 'show' ? d.live : undefined),
      command: (_, actor, command) => {
        order.push(`${actor.name} by ${actor.via ?? ''}: ${command.command}`);
        return Promise.resolve(
          command.command === 'blackout' ? refuse('board', 'Tam is at it.') : { ok: true as const },
        );
      },
    },
    clock: {
      stats: () => Promise.resolve({ frames: 7, packets: 12 } as never),
      frame: (id) => (order.push(`frame of ${id}`), Promise.resolve()),
    },
    secret: SECRET,
    log: pino({ enabled: false }),
    ears: () => ({ port: 9440, problem: null }),
    isStopping: () => more.isStopping ?? false,
    handOver: () => Promise.resolve(refuse('nothing', 'Nobody waits.')),
    rehearse: (_, listId) => Promise.resolve({ played: listId }),
  };
}
const ticket = (
  role: Role = 'programmer',
  showId = 'show',
  use: 'request' | 'socket' = 'request',
) => issueTicket(SECRET, { userId: 'mara', name: 'Mara Kell', showId, role, use, sessionId: 's' });
const asking = (
  url: string,
  more: Partial<Asked> & { headers?: Record<string, string> } = {},
): Asked => ({
  method: 'GET',
  url,
  header: (name) => more.headers?.[name],
  body: () => Promise.resolve(undefined),
  ...more,
});
const post = (url: string, body: unknown, role?: Role): Asked =>
  asking(url, {
    method: 'POST',
    headers: { 'x-wingman-ticket': ticket(role) },
    body: () => Promise.resolve(body),
  });
const codeOf = ({ status, body }: Told): string =>
  `${status} ${(body as { error?: { code: string } }).error?.code ?? 'ok'}`;
const ask = async (asked: Asked, of = needs()): Promise<string> =>
  codeOf(await answerTo(of, asked));

beforeEach(() => order.splice(0));

describe('the house', () => {
  test('how it is, is told to whoever asks', async () => {
    expect((await answerTo(needs(), asking('/health?from=launcher'))).body).toMatchObject({
      pid: process.pid,
      onAir: true,
      show: 'The Night Ferry',
      frames: 7,
      packets: 12,
      screens: 0,
      feed: true,
      osc: { port: 9440 },
    });
  });

  test('one that waits, or that has handed over, is not on air', async () => {
    const isOnAir = async (of: DoorNeeds): Promise<unknown> =>
      ((await answerTo(of, asking('/health'))).body as { onAir: boolean }).onAir;
    expect(await isOnAir(needs({ onAir: false }))).toBe(false);
    expect(await isOnAir(needs({ isStopping: true }))).toBe(false);
  });

  test.each(['/stats', '/hand-over'])('%s is for processes of this house alone', async (url) => {
    const as = (secret?: string): Asked =>
      asking(url, {
        method: 'POST',
        headers: secret === undefined ? {} : { 'x-wingman-secret': secret },
      });
    expect(await ask(as())).toBe('401 unauthorized');
    expect(await ask(as('another secret of this test'))).toBe('401 unauthorized');
    expect(await ask(as(SECRET))).toBe(url === '/stats' ? '200 ok' : '409 nothing');
  });

  test('nothing is handed over by a mere look, or by one that waits itself', async () => {
    const headers = { 'x-wingman-secret': SECRET };
    expect(await ask(asking('/hand-over', { headers }))).toBe('401 unauthorized');
    const waits = needs({ onAir: false });
    expect(await ask(asking('/hand-over', { headers, method: 'POST' }), waits)).toBe('409 standby');
  });
});

describe('a show', () => {
  test('is for tickets of requests that are good now', async () => {
    const stage = (text: string): Promise<string> =>
      ask(asking('/stage', { headers: { 'x-wingman-ticket': text } }));
    expect(await stage(ticket())).toBe('200 ok');
    expect(await stage(ticket('programmer', 'show', 'socket'))).toBe('401 unauthorized');
    expect(await stage(`${ticket()}x`)).toBe('401 unauthorized');
    expect(await stage('')).toBe('401 unauthorized');
    expect(await stage(ticket('owner', 'another'))).toBe('404 not-found');
  });

  test('is said by the player that plays, and by no other', async () => {
    expect(await ask(post('/live', { command: 'go' }), needs({ onAir: false }))).toBe(
      '503 standby',
    );
    expect(order).toEqual([]);
  });

  test('is shown from a frame that has all that was told before', async () => {
    const { body } = await answerTo(
      needs(),
      asking('/stage', { headers: { 'x-wingman-ticket': ticket() } }),
    );
    expect(order).toEqual(['frame of show']);
    expect(Object.keys(body as object)).toEqual(expect.arrayContaining(['lists', 'fixtures']));
  });

  test('what is not there is not found, with the wrong method as well', async () => {
    expect(await ask(post('/elsewhere', {}))).toBe('404 not-found');
    const headers = { 'x-wingman-ticket': ticket() };
    expect(await ask(asking('/live', { headers }))).toBe('404 not-found');
    expect(await ask(asking('/rehearse?list=main', { headers }))).toBe('404 not-found');
  });
});

describe('a command of a program', () => {
  test('is carried out in the name of whoever has the ticket', async () => {
    expect(await ask(post('/live', { command: 'go' }))).toBe('200 ok');
    expect(order).toEqual(['Mara Kell by a program: go']);
  });

  test('that is refused comes back with its reason', async () => {
    expect(await ask(post('/live', { command: 'blackout', on: true }))).toBe('409 board');
  });

  test.each([
    ['not JSON', undefined, 'command'],
    ['no command', { command: 'fly' }, 'command'],
    ['a field of another kind', { command: 'master', level: 'high' }, 'level'],
  ])('%s is refused at its field, and nothing is carried out', async (_, body, field) => {
    const answer = await answerTo(needs(), post('/live', body));
    expect(codeOf(answer)).toBe('400 invalid');
    expect(Object.keys((answer.body as { error: { fields: object } }).error.fields)).toEqual([
      field,
    ]);
    expect(order).toEqual([]);
  });

  test('broken characters are refused before anything looks at them', async () => {
    expect(await ask(post('/live', { command: 'type', text: 'name cue 1 \u0000' }))).toBe(
      '400 invalid',
    );
    expect(order).toEqual([]);
  });
});

describe('a rehearsal', () => {
  test('is played for players, of lists that are there', async () => {
    expect((await answerTo(needs(), post('/rehearse?list=main', {}))).body).toEqual({
      played: 'main',
    });
    expect(await ask(post('/rehearse?list=nowhere', {}))).toBe('404 not-found');
    expect(await ask(post('/rehearse', {}))).toBe('404 not-found');
    for (const role of ['viewer', 'volunteer'] as const)
      expect(await ask(post('/rehearse?list=main', {}, role))).toBe('403 forbidden');
  });

  test('is one at a time, and the next one comes when it has ended, well or not', async () => {
    const ends: { well: () => void; badly: () => void }[] = [];
    const of: DoorNeeds = {
      ...needs(),
      rehearse: () =>
        new Promise((resolve, reject) =>
          ends.push({ well: () => resolve({}), badly: () => reject(new Error('too long')) }),
        ),
    };
    const settle = (): Promise<void> => new Promise((done) => setImmediate(done));
    const first = ask(post('/rehearse?list=main', {}), of);
    await settle();
    expect(await ask(post('/rehearse?list=main', {}), of)).toBe('409 conflict');
    ends[0]?.well();
    expect(await first).toBe('200 ok');
    const second = ask(post('/rehearse?list=main', {}), of);
    await settle();
    ends[1]?.badly();
    await expect(second).rejects.toThrow('too long');
    const third = ask(post('/rehearse?list=main', {}), of);
    await settle();
    ends[2]?.well();
    expect(await third).toBe('200 ok');
  });
});

describe('over the wire', () => {
  async function at<T>(of: DoorNeeds, done: (base: string) => Promise<T>): Promise<T> {
    const server = makeDoor(of);
    await new Promise<void>((open) => server.listen(0, '127.0.0.1', open));
    const address = server.address();
    if (address === null || typeof address === 'string') throw new Error('no port');
    try {
      return await done(`http://127.0.0.1:${address.port}`);
    } finally {
      server.closeAllConnections();
      server.close();
    }
  }
  const send = (base: string, body: string): Promise<Response> =>
    fetch(`${base}/live`, { method: 'POST', headers: { 'x-wingman-ticket': ticket() }, body });

  test('a body is read, and one that is too long or broken is not', async () => {
    await at(needs(), async (base) => {
      expect((await send(base, JSON.stringify({ command: 'go' }))).status).toBe(200);
      expect((await send(base, '{"command":')).status).toBe(400);
      const long = JSON.stringify({ command: 'go', padding: 'x'.repeat(3_000_000) });
      // It may hang up while that is still being sent.
      const status = await send(base, long).then(
        (r) => r.status,
        () => 'hung up',
      );
      expect([400, 'hung up']).toContain(status);
    });
    expect(order).toEqual(['Mara Kell by a program: go']);
  });

  test('a mistake of ours has a number, and the next question is answered', async () => {
    const of: DoorNeeds = {
      ...needs(),
      house: { ...needs().house, open: () => Promise.reject(new Error('a hole')) },
    };
    await at(of, async (base) => {
      const answer = await send(base, '{}');
      expect(answer.status).toBe(500);
      expect(((await answer.json()) as { error: { message: string } }).error.message).toMatch(
        /number [0-9A-F]{6}/,
      );
      expect((await fetch(`${base}/health`)).status).toBe(200);
    });
  });
});
