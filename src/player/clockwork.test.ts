/** The clock without its thread: which frames are made when, what goes out with them, and what is said. */
import { compileEffects } from '../core/playback/programs.ts';
import { compileSlots } from '../core/playback/slots.ts';
import { moves } from '../core/testing/columns.ts';
import { exampleShow } from '../core/testing/example.ts';
import type { FromClock, ToClock } from './clock-messages.ts';
import { Clockwork, type ClockNeeds } from './clockwork.ts';
import { Conductor } from './conductor.ts';

const show = exampleShow();
const slots = compileSlots(show);
const programs = compileEffects(show, 120);
const ROUTES = [{ id: 'r', universe: 1 }] as never[];
const OPEN = {
  slots,
  version: 1,
  programs,
  configs: [],
  routes: ROUTES,
  priorities: new Map([[1, Uint8Array.of(9)]]),
  saved: null,
};
const GO = { do: 'move', showId: 's', listId: 'a', moves: moves(0, { level: 1, up_s: 1 }) };

function clock() {
  const said: FromClock[] = [];
  const did: string[] = [];
  /** Moments of frames. */
  const sent_ms: number[] = [];
  // A clock moves on while one looks at it: waiting for the last millisecond ends.
  let looks = 0;
  const now_ms = (): number => performance.now() + ++looks * 0.001;
  const began_ms = performance.now();
  const state = { leaves: true };
  const output = {
    onAir: null as unknown,
    packets: 0,
    errors: 3,
    problem: null as string | null,
    nowhere: null as unknown,
    counts: () => [{ routeId: 'r', packets: 5, errors: 0, problem: null }],
    sequences: () => ({ 'sacn/1': 200 }),
    send: (at: number) => {
      sent_ms.push(at - began_ms);
      if (state.leaves) output.packets++;
    },
    take: (engine: unknown, routes: unknown[], fade_ms: number) => {
      output.onAir = engine;
      did.push(`take ${routes.length} in ${fade_ms}`);
    },
    replace: (engine: unknown, routes: unknown[]) => {
      output.onAir = engine;
      did.push(`replace ${routes.length}`);
    },
    setRoutes: (routes: unknown[]) => did.push(`routes ${routes.length}`),
    setPriorities: (p: ReadonlyMap<number, Uint8Array>) => did.push(`priorities ${p.size}`),
    setNetwork: () => did.push('network'),
    goOnFrom: (from: Record<string, number>) => did.push(`from ${JSON.stringify(from)}`),
    fadeOver: (universe: number, fade_ms: number) => did.push(`fade ${universe} in ${fade_ms}`),
    close: (done: () => void) => (did.push('close'), done()),
  };
  const say = (m: FromClock): void => void said.push(m);
  const conductor = new Conductor(say);
  const work = new Clockwork({
    output: output as unknown as ClockNeeds['output'],
    conductor,
    say,
    now_ms,
    ended: () => did.push('ended'),
  });
  return {
    said,
    did,
    sent_ms,
    state,
    output,
    conductor,
    begin: () => work.begin(),
    tell: (m: object): void => work.hear(m as ToClock),
    /** As the player does it with a show that it opens, and puts on air. */
    onAir: () => {
      work.hear({ do: 'open', showId: 's', ...OPEN } as never);
      work.hear({ do: 'air', showId: 's', fade_s: 2 });
      did.splice(0);
    },
    of: <I extends FromClock['is']>(is: I) =>
      said.filter((m): m is Extract<FromClock, { is: I }> => m.is === is),
  };
}
const pass = (ms: number): void => void jest.advanceTimersByTime(ms);

/** A show on air of which nothing leaves any more, and its frames so far. */
function still() {
  const c = clock();
  c.onAir();
  c.state.leaves = false;
  c.begin();
  pass(100);
  return { c, frames: c.sent_ms.length };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

describe('frames', () => {
  test('44 a second, evenly, from one period after it began', () => {
    const c = clock();
    c.begin();
    pass(2000);
    expect(c.sent_ms.length).toBeGreaterThanOrEqual(86);
    expect(c.sent_ms.length).toBeLessThanOrEqual(88);
    const gaps = c.sent_ms.slice(1).map((t, i) => t - (c.sent_ms[i] ?? 0));
    expect(Math.min(...gaps)).toBeGreaterThan(22.7);
    expect(Math.max(...gaps)).toBeLessThan(24);
    expect(c.sent_ms[0]).toBeGreaterThanOrEqual(22.8);
  });

  test('what hands do leaves at once from a still stage, and one beat after the last where it moves', () => {
    const { c, frames } = still();
    c.tell({ do: 'flash', showId: 's', listId: 'a', on: true, solo: false });
    pass(1);
    expect(c.sent_ms).toHaveLength(frames + 1);
    c.state.leaves = true;
    pass(40);
    const moving = c.sent_ms.length;
    c.tell({ do: 'flash', showId: 's', listId: 'a', on: false, solo: false });
    pass(1);
    expect(c.sent_ms.length - moving).toBeLessThanOrEqual(1);
    pass(500);
    const gaps = c.sent_ms.slice(frames + 1).map((t, i, all) => (i ? t - (all[i - 1] ?? 0) : 30));
    expect(Math.min(...gaps)).toBeGreaterThan(22.7);
  });

  test('several that come together are in one frame', () => {
    const { c, frames } = still();
    for (let i = 0; i < 8; i++) c.tell({ do: 'master', showId: 's', level: 1, blackout: false });
    c.tell({ do: 'frame', showId: 's', id: 4 });
    pass(1);
    expect(c.sent_ms).toHaveLength(frames + 1);
    expect(c.of('framed')).toEqual([{ is: 'framed', id: 4 }]);
  });

  test('what is merely told hurries nothing', () => {
    const { c, frames } = still();
    c.tell({ do: 'routes', showId: 's', routes: [], priorities: new Map() });
    c.tell({ do: 'stats', id: 1 });
    pass(1);
    expect(c.sent_ms).toHaveLength(frames);
  });

  test('a follow is told when it comes, between frames, also where it was begun after the clock went to sleep', () => {
    const c = clock();
    c.onAir();
    c.begin();
    pass(100);
    const at = performance.now();
    c.tell({ ...GO, follow_s: 0.01 });
    pass(5);
    expect(c.of('due')).toEqual([]);
    while (c.of('due').length === 0 && performance.now() < at + 100) pass(1);
    expect(performance.now() - at).toBeLessThanOrEqual(12);
  });
});

describe('on air', () => {
  test('a show goes out with its routes, its priorities and its fade; another one that is open does not', () => {
    const c = clock();
    c.tell({ do: 'open', showId: 's', ...OPEN });
    c.tell({ do: 'open', showId: 'other', ...OPEN });
    c.tell({ do: 'air', showId: 's', fade_s: 2 });
    expect(c.did.splice(0)).toEqual(['priorities 1', 'take 1 in 2000']);
    for (const showId of ['other', 'nowhere']) {
      c.tell({ do: 'routes', showId, routes: [], priorities: new Map() });
      c.tell({ do: 'rig', showId, slots, version: 2 });
      c.tell({
        do: 'input',
        showId,
        universe: 1,
        source: 'x',
        levels: null,
        instead: true,
        fade_ms: 2000,
      });
    }
    expect(c.did).toEqual([]);
    c.tell({ do: 'air', showId: null, fade_s: 0 });
    expect([c.did, c.output.onAir]).toEqual([['priorities 0', 'take 0 in 0'], null]);
  });

  test('routes and another rig of the show on air are those of the output', () => {
    const c = clock();
    c.onAir();
    c.tell({ do: 'routes', showId: 's', routes: [...ROUTES, ...ROUTES], priorities: new Map() });
    expect(c.did.splice(0)).toEqual(['priorities 0', 'routes 2']);
    c.tell({ do: 'rig', showId: 's', slots, version: 2 });
    expect(c.did.splice(0)).toEqual(['replace 2']);
    expect(c.output.onAir).toBe(c.conductor.shows.get('s')?.engine);
    // It is still the one on air.
    c.tell({ do: 'routes', showId: 's', routes: ROUTES, priorities: new Map() });
    expect(c.did).toEqual(['priorities 0', 'routes 1']);
  });

  test('another desk’s universe fades over where a time is given, and is there at once where none is', () => {
    const c = clock();
    c.onAir();
    const input = {
      do: 'input',
      showId: 's',
      universe: 3,
      source: 'x',
      levels: new Uint8Array(512),
      instead: true,
    };
    c.tell({ ...input, fade_ms: 0 });
    expect(c.did).toEqual([]);
    c.tell({ ...input, fade_ms: 2000 });
    expect(c.did).toEqual(['fade 3 in 2000']);
  });

  test('cards and sequences are the output’s', () => {
    const c = clock();
    c.tell({ do: 'network', network: {} });
    c.tell({ do: 'sequences', from: { 'sacn/1': 4 } });
    expect(c.did).toEqual(['network', 'from {"sacn/1":4}']);
  });
});

describe('what it says', () => {
  test('what goes nowhere, once it has for two seconds, and at once that it leads somewhere again', () => {
    const c = clock();
    c.begin();
    c.output.nowhere = { lights: 2 };
    pass(1900);
    expect(c.of('output')).toEqual([]);
    pass(200);
    expect(c.of('output')).toEqual([{ is: 'output', problem: null, nowhere: { lights: 2 } }]);
    pass(5000);
    expect(c.of('output')).toHaveLength(1);
    c.output.nowhere = null;
    pass(30);
    expect(c.of('output').at(-1)).toEqual({ is: 'output', problem: null, nowhere: null });
  });

  test('what goes nowhere for a moment is not told; a problem is, at once', () => {
    const c = clock();
    c.begin();
    c.output.nowhere = { lights: 2 };
    pass(1000);
    c.output.nowhere = null;
    pass(100);
    c.output.nowhere = { lights: 3 };
    pass(1500);
    expect(c.of('output')).toEqual([]);
    c.output.problem = 'no route to host';
    pass(30);
    expect(c.of('output')).toEqual([{ is: 'output', problem: 'no route to host', nowhere: null }]);
  });

  test('how it goes, for whoever asks', () => {
    const c = clock();
    c.begin();
    pass(3000);
    c.tell({ do: 'stats', id: 5 });
    c.tell({ do: 'seconds', id: 6, after: -1 });
    const [{ id, stats } = { id: 0, stats: undefined }] = c.of('stats');
    expect(id).toBe(5);
    expect(stats).toMatchObject({
      frames: c.sent_ms.length,
      packets: c.output.packets,
      sendErrors: 3,
      sequences: { 'sacn/1': 200 },
      lines: [{ routeId: 'r', packets: 5 }],
    });
    expect([stats?.compute_ms.length, stats?.late_ms.length]).toEqual([
      stats?.frames,
      stats?.frames,
    ]);
    expect(Math.max(...(stats?.late_ms ?? []))).toBeLessThan(2);
    const [told] = c.of('seconds');
    expect(told?.id).toBe(6);
    expect(told?.seconds.length).toBeGreaterThanOrEqual(2);
    expect(told?.seconds.reduce((sum, s) => sum + s.packets, 0)).toBeLessThanOrEqual(
      c.output.packets,
    );
  });

  test('of very many frames the newest are kept', () => {
    const c = clock();
    c.begin();
    pass(100_000);
    c.tell({ do: 'stats', id: 1 });
    const [{ stats } = { stats: undefined }] = c.of('stats');
    expect(stats?.frames).toBeGreaterThan(4300);
    expect(stats?.late_ms).toHaveLength(4096);
  });

  test('told to stop it sends no more, and says its last word when streams have ended', () => {
    const c = clock();
    c.onAir();
    c.begin();
    pass(100);
    const frames = c.sent_ms.length;
    c.tell({ do: 'stop' });
    pass(1000);
    expect([c.did, c.said.at(-1), c.sent_ms.length]).toEqual([
      ['close', 'ended'],
      { is: 'stopped' },
      frames,
    ]);
  });
});
