import fc from 'fast-check';
import { slotKey } from './rows.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';
import type { MutableShow } from '../show/show.ts';
import { consequences } from './consequences.ts';
import { carriesTo, cueAfter, cueBefore, stateAt, trackedAt, trackedThere } from './tracking.ts';

const level = (show: MutableShow, at: number, fixture: number): number | undefined =>
  trackedAt(show, 'main', Math.round(at * 1000), slotKey(idOf(show, fixture), 'Dimmer'))?.value
    .level ?? undefined;

test('a value carries until the next cue sets the slot', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 30 });
  cue(show, 2, { 2: 80 });
  cue(show, 3, { 1: 0 });
  expect([1, 2, 3].map((at) => level(show, at, 1))).toEqual([0.5, 0.5, 0]);
  expect([1, 2, 3].map((at) => level(show, at, 2))).toEqual([0.3, 0.8, 0.8]);
});

test('a release ends what tracks', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  cue(show, 2, { 1: null });
  expect(level(show, 1, 1)).toBe(0.5);
  expect(level(show, 2, 1)).toBeUndefined();
  expect(stateAt(show, 'main', 2000).size).toBe(0);
});

test('a point cue goes in its place and tracks on from there', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 20 });
  cue(show, 2, { 2: 50 });
  cue(show, 3, { 2: 10 });
  cue(show, 2.5, { 1: 90 });
  expect(show.cuesOf('main').map((c) => c.number)).toEqual([1000, 2000, 2500, 3000]);
  expect([1, 2, 2.5, 3].map((at) => level(show, at, 1))).toEqual([0.2, 0.2, 0.9, 0.9]);
});

test('what is recorded equal to what tracks is not stored', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 20 });
  const second = cue(show, 2, { 1: 50, 2: 60 });
  expect(show.valuesOf(second).size).toBe(1);
});

test('“this cue only” gives the next cue back what it showed', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  cue(show, 2, { 3: 10 });
  cue(show, 3, { 3: 20 });
  cue(show, 2, { 1: 90, 2: 40 }, { mode: 'only' });
  expect([1, 2, 3].map((at) => level(show, at, 1))).toEqual([0.5, 0.9, 0.5]);
  expect([1, 2, 3].map((at) => level(show, at, 2))).toEqual([undefined, 0.4, undefined]);
});

test('deleting a cue does not change how the others look', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 10 });
  const second = cue(show, 2, { 1: 80, 3: 40 });
  cue(show, 3, { 3: 70 });
  cue(show, 4, { 2: 0 });
  const look = (): unknown => [1, 3, 4].map((at) => [1, 2, 3].map((f) => level(show, at, f)));
  const before = look();
  apply(show, 'delete-cue', { id: second });
  expect(look()).toEqual(before);
});

test('dropping on purpose lets later cues change', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  const second = cue(show, 2, { 1: 80 });
  cue(show, 3, { 2: 5 });
  apply(show, 'delete-cue', { id: second, tracked: 'drop' });
  expect(level(show, 3, 1)).toBe(0.5);
});

test('neighbours and reach of a value', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  cue(show, 2, { 2: 5 });
  cue(show, 3, { 1: 5 });
  expect(cueBefore(show, 'main', 2000)?.number).toBe(1000);
  expect(cueAfter(show, 'main', 2000)?.number).toBe(3000);
  expect(cueBefore(show, 'main', 1000)).toBeUndefined();
  const row = show.cues.get(first);
  expect(row && carriesTo(show, row, slotKey(idOf(show, 1), 'Dimmer'))?.number).toBe(2000);
});

test('the state at a cue equals a replay of all cues up to it', () => {
  const edits = fc.array(
    fc.record({
      at: fc.integer({ min: 1, max: 8 }),
      fixture: fc.integer({ min: 1, max: 6 }),
      percent: fc.option(fc.integer({ min: 0, max: 100 }), { nil: null }),
    }),
    { maxLength: 40 },
  );
  fc.assert(
    fc.property(edits, fc.integer({ min: 1, max: 8 }), (list, at) => {
      const show = exampleShow();
      const model = new Map<number, Map<number, number | null>>();
      for (const e of list) {
        const trackedLevel = (): number | null => {
          let now: number | null = null;
          for (const [, set] of [...model].sort(([a], [b]) => a - b).filter(([n]) => n <= e.at))
            if (set.has(e.fixture)) now = set.get(e.fixture) ?? null;
          return now;
        };
        const wanted = e.percent === null ? null : e.percent / 100;
        const cueModel = model.get(e.at);
        const unchanged = trackedLevel() === wanted;
        if (unchanged && cueModel) {
          const value = { fixtureId: idOf(show, e.fixture), attribute: 'Dimmer', level: wanted };
          const again = { listId: 'main', number: e.at * 1000, values: [value] };
          expect(refused(show, 'record-cue', again).code).toBe('nothing');
          continue;
        }
        cue(show, e.at, { [e.fixture]: e.percent });
        const set = cueModel ?? new Map<number, number | null>();
        if (!unchanged) set.set(e.fixture, wanted);
        model.set(e.at, set);
      }
      for (let fixture = 1; fixture <= 6; fixture++) {
        let expected: number | null = null;
        for (const [, set] of [...model].sort(([a], [b]) => a - b).filter(([n]) => n <= at))
          if (set.has(fixture)) expected = set.get(fixture) ?? null;
        expect(level(show, at, fixture) ?? null).toBe(expected);
      }
    }),
    { numRuns: 60 },
  );
});

test('consequences name the cues that look different, and only those', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  cue(show, 2, { 2: 5 });
  cue(show, 3, { 1: 5 });
  cue(show, 4, { 2: 9 });
  const row = [...show.valuesOf(first).values()][0];
  if (!row) throw new Error('nothing recorded');
  const changed = consequences(
    show,
    [{ table: 'values', id: row.id, before: row, after: { ...row, level: 0.9 } }],
    new Set([first]),
  );
  expect(changed.map((c) => c.number)).toEqual([2000]);
});

test('a long list gives the same states as a short one, at every number, also after an edit', () => {
  const show = exampleShow();
  for (let n = 1; n <= 150; n++) cue(show, n, { [1 + (n % 6)]: n % 100 });
  const walked = (number: number): Map<string, number | null> => {
    const state = new Map<string, number | null>();
    for (const c of show.cuesOf('main'))
      if (c.number <= number)
        for (const [key, value] of show.valuesOf(c.id)) state.set(key, value.level);
    return state;
  };
  const check = (): void => {
    for (const number of [
      500, 1000, 31_000, 32_000, 33_000, 63_999, 64_000, 96_500, 150_000, 999_000,
    ]) {
      expect(
        new Map([...stateAt(show, 'main', number)].map(([key, t]) => [key, t.value.level])),
      ).toEqual(walked(number));
    }
  };
  check();
  cue(show, 31.5, { 1: 99, 2: 98 });
  check();
});

test('some slots found backwards are what the whole state says of them', () => {
  const Cue = fc.record({
    levels: fc.dictionary(
      fc.constantFrom('1', '2', '3', '4'),
      fc.option(fc.integer({ min: 0, max: 100 }), { nil: null, freq: 4 }),
    ),
    block: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(Cue, { maxLength: 12 }), fc.nat(13), (cues, at) => {
      const show = exampleShow();
      cues.forEach(({ levels, block }, i) => {
        if (Object.keys(levels).length > 0) cue(show, i + 1, levels, block ? { block } : {});
      });
      const keys = [1, 2, 3, 4].map((n) => slotKey(idOf(show, n), 'Dimmer'));
      const whole = stateAt(show, 'main', at * 1000);
      const found = trackedThere(show, 'main', at * 1000, keys);
      expect(new Map(keys.flatMap((k) => (whole.has(k) ? [[k, whole.get(k)]] : [])))).toEqual(
        found,
      );
    }),
  );
});

test('a value carries no further than the cue before one that is complete as it stands', () => {
  const show = exampleShow();
  for (const n of [1, 2, 3, 4]) cue(show, n, n === 1 ? { 1: 50 } : { [n]: 20 });
  const [first, , third] = show.cuesOf('main');
  const key = slotKey(idOf(show, 1), 'Dimmer');
  expect(first && carriesTo(show, first, key)?.number).toBe(4000);
  show.apply([
    {
      table: 'cues',
      id: third?.id ?? '',
      before: third ?? null,
      after: { ...third, block: true },
    } as never,
  ]);
  expect(first && carriesTo(show, first, key)?.number).toBe(2000);
  expect([2, 3, 4].map((n) => level(show, n, 1))).toEqual([0.5, undefined, undefined]);
  expect([2, 3, 4].map((n) => stateAt(show, 'main', n * 1000).has(key))).toEqual([
    true,
    false,
    false,
  ]);
});
