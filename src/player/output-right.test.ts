/** Who sends: one at a time, again after the database was away, and never two because of it. */
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import { isRefusal } from '../core/refusal.ts';
import { until } from '../core/testing/until.ts';
import type { Database } from '../store/database.ts';
import { ownDatabase } from '../store/own-database.ts';
import { playerOnAir, register, waitingPlayers } from '../store/players.ts';
import {
  anotherPlays,
  lockConnection,
  makeOutputRight,
  type LockClient,
  type OutputRight,
  type OutputRightNeeds,
} from './output-right.ts';

/** A connection that is there until it is cut. */
interface Cut extends LockClient {
  ended: number;
  locks: number;
  /** As the database does it, or the network. */
  cut: (event?: 'error' | 'end') => void;
}
function connection(more: Partial<LockClient> = {}): Cut {
  const heard: Record<string, (() => void)[]> = {};
  const client: Cut = {
    ended: 0,
    locks: 0,
    connect: () => Promise.resolve(),
    query: () => Promise.resolve(void client.locks++),
    end: () => (client.ended++, client.cut('end'), Promise.resolve()),
    on: (event: string, done: () => void) => void (heard[event] ??= []).push(done),
    cut: (event = 'error') => heard[event]?.forEach((done) => done()),
    ...more,
  };
  return client;
}

function right(more: Partial<OutputRightNeeds> = {}) {
  const made: Cut[] = [];
  const did: string[] = [];
  const state = { sending: false, others: false, waiting: 1 };
  const said: string[] = [];
  const it: OutputRight = makeOutputRight({
    log: { warn: (what: { error: string }) => void said.push(what.error) } as never,
    connection: () => {
      const client = connection();
      made.push(client);
      return client;
    },
    isSending: () => state.sending,
    othersPlay: () => Promise.resolve(state.others),
    take: () => {
      did.push('take');
      state.sending = true;
      return Promise.resolve();
    },
    held: () => Promise.resolve(void did.push('held')),
    waiting: () => Promise.resolve(state.waiting),
    keep: () => Promise.resolve(void did.push('keep')),
    exit: () => void did.push('exit'),
    ...more,
  });
  return { it, made, did, state, said };
}
const pass = (ms: number): Promise<void> => jest.advanceTimersByTimeAsync(ms);

describe('on a clock of the test', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  test('the first one takes it, and says so when it has it', async () => {
    const { it, did, made } = right();
    void it.hold();
    await pass(0);
    expect([did, made[0]?.locks]).toEqual([['take', 'held'], 1]);
    await pass(60_000);
    expect(made).toHaveLength(1);
  });

  test('the database away and back: what is sent goes on, and the right is held again at once', async () => {
    const { it, did, made } = right();
    void it.hold();
    await pass(0);
    made[0]?.cut();
    await pass(199);
    expect(made).toHaveLength(1);
    await pass(1);
    expect(did).toEqual(['take', 'held', 'held']);
    expect(made).toHaveLength(2);
  });

  test('whoever waits lets the one that sent have it again, and tries once more', async () => {
    const { it, did, made, state } = right();
    state.others = true;
    void it.hold();
    await pass(0);
    expect([did, made[0]?.ended]).toEqual([[], 1]);
    await pass(999);
    expect(made).toHaveLength(1);
    await pass(1);
    expect([did, made.length]).toEqual([[], 2]);
    state.others = false;
    await pass(1000);
    expect(did).toEqual(['take', 'held']);
  });

  test('one that sends does not ask whether others play: it is the one', async () => {
    const { it, did, made, state } = right();
    void it.hold();
    await pass(0);
    state.others = true;
    made[0]?.cut();
    await pass(200);
    expect(did).toEqual(['take', 'held', 'held']);
  });

  test('a database that refuses is asked again, later by one that waits, and the connection is closed', async () => {
    let refuses = true;
    const clients: Cut[] = [];
    const { it, did, said } = right({
      connection: () => {
        const client = connection({
          connect: () => (refuses ? Promise.reject(new Error('away')) : Promise.resolve()),
        });
        clients.push(client);
        return client;
      },
    });
    void it.hold();
    await pass(0);
    expect([clients.length, clients[0]?.ended, said]).toEqual([1, 1, ['Error: away']]);
    await pass(1499);
    expect(clients).toHaveLength(1);
    refuses = false;
    await pass(1);
    expect(did).toEqual(['take', 'held']);
  });

  test('given away: kept first, then the lock, then it ends; it asks no more', async () => {
    const { it, did, made } = right();
    void it.hold();
    await pass(0);
    expect(it.isStopping()).toBe(false);
    expect(await it.handOver()).toEqual({ ok: true });
    expect([did, it.isStopping(), made[0]?.ended]).toEqual([['take', 'held', 'keep'], true, 0]);
    await pass(50);
    expect([made[0]?.ended, did.includes('exit')]).toEqual([1, false]);
    await pass(20);
    expect(did.at(-1)).toBe('exit');
    await pass(60_000);
    expect(made).toHaveLength(1);
  });

  test('given to nobody: refused, and nothing has changed', async () => {
    const { it, did, state, made } = right();
    void it.hold();
    await pass(0);
    state.waiting = 0;
    expect(isRefusal(await it.handOver())).toBe(true);
    await pass(1000);
    expect([did, it.isStopping(), made[0]?.ended]).toEqual([['take', 'held'], false, 0]);
  });

  test('what cannot be kept is not given away: this one goes on, and is on air for everybody', async () => {
    const { it, did, made } = right({ keep: () => Promise.reject(new Error('the disk is full')) });
    void it.hold();
    await pass(0);
    await expect(it.handOver()).rejects.toThrow('full');
    await pass(1000);
    expect([did, it.isStopping(), made[0]?.ended]).toEqual([['take', 'held'], false, 0]);
  });

  test('one that stops asks no more', async () => {
    const { it, made } = right();
    void it.hold();
    await pass(0);
    it.stop();
    made[0]?.cut();
    await pass(60_000);
    expect([it.isStopping(), made.length]).toEqual([true, 1]);
  });
});

describe('at the database', () => {
  // Who has the output stands in the one row of an installation.
  let own: Awaited<ReturnType<typeof ownDatabase>>;
  let db: Database;
  beforeAll(async () => {
    own = await ownDatabase();
    db = own.db;
  });
  afterAll(() => own.drop());

  test('of two players one has the output; the other waits, and has it when that connection ends', async () => {
    const clients: LockClient[] = [];
    const has: string[] = [];
    const player = (name: string): OutputRight => {
      let sending = false;
      return makeOutputRight({
        log: { warn: () => undefined } as never,
        connection: () => {
          const client = lockConnection(own.url);
          clients.push(client);
          return client;
        },
        isSending: () => sending,
        othersPlay: () => Promise.resolve(false),
        take: () => {
          sending = true;
          return Promise.resolve(void has.push(name));
        },
        held: () => register(db, { id: randomUUID(), address: `${name}:1`, machine: 'here' }),
        waiting: () => waitingPlayers(db),
        keep: () => Promise.resolve(),
        exit: () => undefined,
      });
    };
    const [one, two] = [player('one'), player('two')];
    void one.hold();
    await until(async () => (await playerOnAir(db))?.address === 'one:1');
    expect(await waitingPlayers(db)).toBe(0);
    void two.hold();
    await until(async () => (await waitingPlayers(db)) === 1);
    expect(has).toEqual(['one']);
    expect(await one.handOver()).toEqual({ ok: true });
    await until(async () => (await playerOnAir(db))?.address === 'two:1');
    expect(has).toEqual(['one', 'two']);
    two.stop();
    await clients.at(-1)?.end();
  });

  test('another plays where it answers that it does; not where that is this one, or nobody answers', async () => {
    let onAir: unknown = true;
    const other = createServer((_, response) => response.end(JSON.stringify({ onAir })));
    await new Promise<void>((open) => other.listen(0, '127.0.0.1', open));
    const { port } = other.address() as { port: number };
    const me = { id: randomUUID(), address: '127.0.0.1:1' };
    const them = { id: randomUUID(), address: `127.0.0.1:${port}`, machine: 'here' };
    await register(db, them);
    expect(await anotherPlays(db, me)).toBe(true);
    expect(await anotherPlays(db, { ...me, id: them.id })).toBe(false);
    expect(await anotherPlays(db, { ...me, address: them.address })).toBe(false);
    onAir = false;
    expect(await anotherPlays(db, me)).toBe(false);
    other.closeAllConnections();
    other.close();
    expect(await anotherPlays(db, me)).toBe(false);
  });
});
