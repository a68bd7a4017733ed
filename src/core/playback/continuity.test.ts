/** Nothing that can fade jumps: whoever plays, holds, lets go or goes blind, each slot begins from what is on stage. */
import fc from 'fast-check';
import { holds, moves } from '../testing/columns.ts';
import { exampleShow, idOf } from '../testing/example.ts';
import { slotKey } from '../cues/rows.ts';
import { Engine } from './engine.ts';
import type { Moves } from './list-moves.ts';
import { compileSlots, slotIndex } from './slots.ts';

const show = exampleShow();
const slots = compileSlots(show);
const index = slotIndex(slots);
const slot = (fixture: number, attribute = 'Dimmer'): number =>
  index.get(slotKey(idOf(show, fixture), attribute)) ?? -1;
const SLOTS = [
  slot(1),
  slot(2),
  slot(11),
  slot(11, 'ColorAdd_R'),
  slot(101, 'Pan'),
  slot(101, 'Zoom'),
];
const LISTS = ['a', 'b', 'c'] as const;
const FRAME_S = 1 / 44;

const tenths = fc.integer({ min: 0, max: 10 }).map((n) => n / 10);
const list = fc.nat(LISTS.length - 1).map((i) => LISTS[i] ?? 'a');
const who = fc.constantFrom('mara', 'tam');
const seconds = fc.constantFrom(1, 2, 3.5);
const some = fc.uniqueArray(fc.nat(SLOTS.length - 1), { minLength: 1, maxLength: 4 });

/** Slots that are guarded from now on; the others are let off. */
const guarding = fc.record({
  do: fc.constant('guard' as const),
  some: fc.uniqueArray(fc.nat(SLOTS.length - 1), { maxLength: 4 }),
  time: seconds,
});
/** What must be continuous. */
const smooth = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      do: fc.constant('go' as const),
      list,
      some,
      levels: fc.array(fc.option(tenths, { nil: NaN }), { minLength: 4, maxLength: 4 }),
      time: seconds,
      delay: fc.constantFrom(0, 0, 0.5),
      curve: fc.nat(3),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('goto' as const),
      list,
      levels: fc.array(fc.option(tenths, { nil: NaN }), { minLength: 6, maxLength: 6 }),
      time: seconds,
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('release' as const), list, time: seconds }) },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant('let-go' as const), who, some, time: seconds }),
  },
  fc.record({ do: fc.constant('blind' as const), who, on: fc.boolean() }),
  { weight: 2, arbitrary: guarding },
  fc.record({ do: fc.constant('pause' as const), list, on: fc.boolean() }),
  fc.record({ do: fc.constant('rate' as const), list, rate: fc.constantFrom(0.25, 1, 2) }),
  // A hand takes the fade where it is, and gives it back.
  fc.record({ do: fc.constant('grab' as const), list, on: fc.boolean() }),
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('set' as const),
      who,
      some,
      level: tenths,
      time: seconds,
    }),
  },
);
/** What may jump, since somebody moved it by hand. */
const abrupt = fc.oneof(
  fc.record({ do: fc.constant('master' as const), list, level: fc.constantFrom(0, 0.3, 0.5, 1) }),
  fc.record({ do: fc.constant('flash' as const), list, on: fc.boolean(), solo: fc.boolean() }),
  fc.record({
    do: fc.constant('configure' as const),
    list,
    ltp: fc.boolean(),
    priority: fc.constantFrom(10, 50, 90),
  }),
  fc.record({ do: fc.constant('set-now' as const), who, some, level: tenths }),
);
/** Something that may jump or not, something that must not, and how long it goes on in seconds. */
const stepThen = (...waits: number[]) =>
  fc.record({
    before: fc.option(abrupt, { nil: null }),
    step: smooth,
    wait: fc.constantFrom(...waits),
  });
type Smooth = typeof smooth extends fc.Arbitrary<infer T> ? T : never;
type Abrupt = typeof abrupt extends fc.Arbitrary<infer T> ? T : never;

function gone(
  at: readonly number[],
  levels: readonly number[],
  time: number,
  delay = 0,
  curve = 0,
): Moves {
  const made = moves(
    at.map((i) => SLOTS[i] ?? 0),
    { level: 0, up_s: time, delay_s: delay, curve },
  );
  at.forEach((_, i) => (made.level[i] = levels[i] ?? NaN));
  return made;
}

function play(engine: Engine, s: Smooth, now: number): void {
  const at = 'some' in s ? s.some.map((i) => SLOTS[i] ?? 0) : [];
  switch (s.do) {
    case 'go':
      return engine.move(s.list, gone(s.some, s.levels, s.time, s.delay, s.curve), now);
    case 'goto':
      return engine.move(
        s.list,
        gone(
          SLOTS.map((_, i) => i),
          s.levels,
          s.time,
        ),
        now,
      );
    case 'release':
      return engine.release(s.list, s.time, now);
    case 'let-go':
      return engine.letGo(s.who, at, s.time, now);
    case 'pause':
      return engine.setPaused(s.list, s.on);
    case 'rate':
      return engine.setRate(s.list, s.rate);
    case 'grab': {
      const { elapsed_s, total_s, hand } = engine.status(s.list);
      return engine.lead(
        s.list,
        s.on ? (hand ?? (total_s > 0 ? Math.max(0, elapsed_s) / total_s : 1)) : null,
      );
    }
    case 'guard':
      return engine.guard(Uint32Array.from(at), s.time, now);
    case 'blind':
      return engine.setBlind(s.who, s.on);
    case 'set':
      return engine.hold(s.who, holds(at, { level: s.level, fade_s: s.time }), now);
  }
}

function act(
  engine: Engine,
  s: Abrupt,
  configs: Map<string, { id: string; ltp: boolean; priority: number }>,
  now: number,
): void {
  switch (s.do) {
    case 'master':
      return engine.setListMaster(s.list, s.level, 0, now);
    case 'flash':
      return engine.setFlash(s.list, s.on, s.solo, now);
    case 'configure':
      configs.set(s.list, { id: s.list, ltp: s.ltp, priority: s.priority });
      return engine.configure([...configs.values()]);
    case 'set-now':
      return engine.hold(
        s.who,
        holds(
          s.some.map((i) => SLOTS[i] ?? 0),
          { level: s.level },
        ),
        now,
      );
  }
}

const levels = (engine: Engine): number[] => SLOTS.map((s) => engine.shared.out[s] ?? NaN);
/** Blind comes and goes in half a second; up to five things fade at once, on curves half as steep again, at twice their rate. */
const MOST_A_FRAME = FRAME_S * 2 + 5 * FRAME_S * 2 * 2;

test('what begins between two frames takes no time from what is under way: fades, effects and follows come when they are due', () => {
  const alone = new Engine(slots);
  const busy = new Engine(slots);
  for (const engine of [alone, busy]) {
    engine.tick(0);
    engine.move('a', moves(slot(1), { level: 1, up_s: 10 }), 0);
    engine.follow('a', 4);
  }
  let follows = 0;
  for (let frame = 1; frame * FRAME_S < 5; frame++) {
    const now = frame * FRAME_S;
    // Between the frames somebody is busy with another list: a GO, a release, a jump.
    const between = now - FRAME_S / 3;
    if (frame % 3 === 0) busy.move('b', moves(slot(2), { level: (frame % 10) / 10 }), between);
    if (frame % 3 === 1) busy.release('b', 1, between);
    if (frame % 3 === 2) busy.move('c', moves(slot(11), { level: 0.5 }), between, true);
    for (const engine of [alone, busy]) engine.tick(now);
    if (busy.takeDue().includes('a')) follows = now;
    expect(busy.shared.out[slot(1)]).toBeCloseTo(alone.shared.out[slot(1)] ?? -1, 5);
  }
  expect(follows).toBeGreaterThanOrEqual(4);
  expect(follows).toBeLessThan(4 + FRAME_S * 1.5);
});

/** An engine at its beginning, and how its lists are set up. */
function begun() {
  const engine = new Engine(slots);
  engine.tick(0);
  return { engine, configs: new Map<string, { id: string; ltp: boolean; priority: number }>() };
}

test('no slot steps at a GO, go to, release, let go, blind, pause, grab or set with a time, nor in any frame after it', () => {
  fc.assert(
    fc.property(
      fc.array(stepThen(0, 0.1, 0.4, 1.3, 4), { minLength: 2, maxLength: 14 }),
      (script) => {
        const { engine, configs } = begun();
        let now = 0;
        for (const { before, step, wait } of script) {
          if (before) act(engine, before, configs, now);
          engine.tick(now);
          const was = levels(engine);
          play(engine, step, now);
          engine.tick(now);
          levels(engine).forEach((level, i) => {
            if (!(Math.abs(level - (was[i] ?? 0)) < 1e-4))
              throw new Error(`${step.do} steps slot ${i} from ${was[i]} to ${level}`);
          });
          for (const end = now + wait; now < end;) {
            const last = levels(engine);
            now += FRAME_S;
            engine.tick(now);
            levels(engine).forEach((level, i) => {
              if (!(Math.abs(level - (last[i] ?? 0)) < MOST_A_FRAME))
                throw new Error(`after ${step.do} slot ${i} steps from ${last[i]} to ${level}`);
            });
          }
        }
      },
    ),
    { numRuns: Number(process.env.RUNS ?? 300) },
  );
});

test('saved at any moment and given back to another engine, every slot goes on as it would have', () => {
  fc.assert(
    fc.property(fc.array(stepThen(0, 0.1, 0.4, 1.3), { minLength: 1, maxLength: 10 }), (script) => {
      const { engine, configs } = begun();
      let now = 0;
      for (const { before, step, wait } of script) {
        if (before) act(engine, before, configs, now);
        play(engine, step, now);
        for (const end = now + wait; now < end;) engine.tick((now += FRAME_S));
        engine.tick(now);
      }
      // A finger on a flash is not there any more after a restart.
      for (const l of LISTS) engine.setFlash(l, false, false, now);
      const other = new Engine(slots);
      other.configure([...configs.values()]);
      other.restore(JSON.parse(JSON.stringify(engine.save())) as ReturnType<Engine['save']>, now);
      for (let frame = 0; frame < 150; frame++) {
        const [was, is] = [engine, other].map((e) => {
          e.tick(now + frame * FRAME_S);
          return levels(e);
        });
        is?.forEach((level, i) => {
          if (!(Math.abs(level - (was?.[i] ?? NaN)) < 2e-3))
            throw new Error(`slot ${i} is at ${level} instead of ${was?.[i]}, frame ${frame}`);
        });
      }
    }),
    { numRuns: Number(process.env.RUNS ?? 100) },
  );
});

describe('one by one', () => {
  const at = slot(1);
  const level = (engine: Engine, s = at): number => engine.shared.out[s] ?? NaN;
  const fresh = (): Engine => {
    const engine = new Engine(slots);
    engine.tick(0);
    return engine;
  };

  test.each([
    [0.5, 0.75],
    [0, 0.4],
    [1, 0.9],
  ])(
    'a list whose master is at %d takes over a light at 80: half way it is at %d',
    (master, half) => {
      const engine = fresh();
      engine.configure([
        { id: 'a', ltp: true, priority: 50 },
        { id: 'b', ltp: true, priority: 50 },
      ]);
      engine.move('b', moves(at, { level: 0.8 }), 0);
      engine.setListMaster('a', master, 0, 0);
      engine.move('a', moves(at, { level: 1, up_s: 4, down_s: 4 }), 0);
      engine.tick(0);
      expect(level(engine)).toBeCloseTo(0.8, 5);
      engine.tick(2);
      expect(level(engine)).toBeCloseTo(master === 0.5 ? 0.65 : half, 5);
      engine.tick(4);
      expect(level(engine)).toBeCloseTo(master, 5);
    },
  );

  test('a list that holds a pan unseen beneath another begins where the head looks', () => {
    const engine = fresh();
    const pan = slot(101, 'Pan');
    engine.move('a', moves(pan, { level: 0.1 }), 0);
    engine.move('b', moves(pan, { level: 0.9 }), 0);
    engine.tick(0);
    engine.move('a', moves(pan, { level: 0.3, up_s: 3 }), 1);
    engine.tick(1);
    expect(level(engine, pan)).toBeCloseTo(0.9, 5);
    engine.tick(2.5);
    expect(level(engine, pan)).toBeCloseTo(0.6, 5);
  });

  test('what lies beneath a list that lets go comes through as it moves, and no step is at the end', () => {
    const engine = fresh();
    const pan = slot(101, 'Pan');
    engine.move('a', moves(pan, { level: 0.1 }), 0);
    engine.move('b', moves(pan, { level: 0.9 }), 0);
    engine.tick(0);
    engine.release('b', 2, 0);
    engine.move('a', moves(slot(2), { level: 1, up_s: 2 }), 0);
    engine.tick(1);
    expect(level(engine, pan)).toBeCloseTo(0.5, 5);
    engine.tick(2);
    expect(level(engine, pan)).toBeCloseTo(0.1, 5);
    expect(engine.shared.winner[pan]).toBe(0);
  });

  test('a list that begins beneath a stronger one, while a third lets go of less light, does not lift it', () => {
    const engine = fresh();
    engine.configure([
      { id: 'b', ltp: true, priority: 10 },
      { id: 'c', ltp: true, priority: 10 },
      { id: 'd', ltp: true, priority: 5 },
    ]);
    engine.move('b', moves(at, { level: 0.8 }), 0);
    engine.move('c', moves(at, { level: 0.2 }), 0);
    engine.release('c', 2, 0);
    engine.tick(1);
    expect(level(engine)).toBeCloseTo(0.5, 5);
    // By the highest, and by the latest of a lower priority: neither shows more than was there.
    engine.move('a', moves(at, { level: 0, down_s: 2 }), 1);
    engine.move('d', moves(at, { level: 0.1, down_s: 2 }), 1);
    engine.tick(1);
    expect(level(engine)).toBeCloseTo(0.5, 5);
    engine.tick(1.5);
    expect(level(engine)).toBeCloseTo(0.65, 5);
    engine.tick(2);
    expect(level(engine)).toBeCloseTo(0.8, 5);
    expect(engine.shared.winner[at]).toBe(engine.listIds.indexOf('b'));
  });

  test('a hand that takes a short fade after it has ended leaves a long one of an earlier GO where it is', () => {
    const engine = fresh();
    engine.move('a', moves(at, { level: 1, up_s: 10 }), 0);
    engine.move('a', moves(slot(2), { level: 1, up_s: 1 }), 0);
    engine.tick(4);
    engine.lead('a', 1);
    engine.tick(4 + FRAME_S);
    expect([level(engine), level(engine, slot(2))]).toEqual([expect.closeTo(0.4, 5), 1]);
    engine.lead('a', 0.5);
    engine.tick(4 + 2 * FRAME_S);
    expect(level(engine, slot(2))).toBeCloseTo(0.5, 5);
    // Given back, both go on in their time.
    engine.lead('a', 1);
    engine.lead('a', null);
    engine.tick(10 + 2 * FRAME_S);
    expect(level(engine)).toBeCloseTo(1, 2);
  });

  test('saved in the middle of letting go, and of taking over past its master, it goes on', () => {
    const engine = fresh();
    engine.configure([
      { id: 'a', ltp: true, priority: 50 },
      { id: 'b', ltp: true, priority: 50 },
    ]);
    engine.move('b', moves([at, slot(2)], { level: 0.8 }), 0);
    engine.setListMaster('a', 0.5, 0, 0);
    engine.move('a', moves(at, { level: 1, up_s: 4, down_s: 4 }), 0);
    engine.release('b', 4, 0);
    engine.tick(1);
    const other = new Engine(slots);
    other.configure([
      { id: 'a', ltp: true, priority: 50 },
      { id: 'b', ltp: true, priority: 50 },
    ]);
    other.restore(JSON.parse(JSON.stringify(engine.save())) as ReturnType<Engine['save']>, 100);
    for (const [one, two] of [
      [1, 100],
      [2, 101],
      [3.9, 102.9],
      [5, 104],
    ] as const) {
      engine.tick(one);
      other.tick(two);
      for (const s of [at, slot(2)]) expect(level(other, s)).toBeCloseTo(level(engine, s), 4);
    }
    expect([level(engine), level(engine, slot(2))]).toEqual([expect.closeTo(0.5, 5), 0]);
  });
});
