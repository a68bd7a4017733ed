/** Steps that are dragged, split and taken out: the round stays whole, and nothing else moves than what was meant. */
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import type { EffectStep } from './rows.ts';
import {
  LEAST,
  placesOfSteps,
  stepsOfWave,
  withArrival,
  withEnd,
  withoutStep,
  withStepAt,
  withTakes,
} from './shape.ts';
import { waveAt } from './wave.ts';

const step = (level: number, takes: number, share = 1): EffectStep => ({ level, takes, share });
/** Up in 62 % moving all the time, down in 38 % moving for half of that. */
const LIFT = [step(1, 0.62), step(0, 0.38, 0.5)];
const shown = (steps: readonly EffectStep[]): number[][] =>
  placesOfSteps(steps).map((p) =>
    [p.from, p.arrives, p.to].map((v) => Math.round(v * 1000) / 1000),
  );

test('where steps lie', () => {
  expect(shown(LIFT)).toEqual([
    [0, 0.62, 0.62],
    [0.62, 0.81, 1],
  ]);
  expect(
    shown([
      { level: 1, share: 0.5 },
      { level: 0, share: 0 },
    ]),
  ).toEqual([
    [0, 0.25, 0.5],
    [0.5, 0.5, 1],
  ]);
});

test('a step that moves all the time takes its end along', () => {
  expect(shown(withArrival(LIFT, 0, 0.4))).toEqual([
    [0, 0.4, 0.4],
    [0.4, 0.7, 1],
  ]);
});

test('a step that stands for a while keeps its end, and pushed over it takes it along', () => {
  const standing = [step(1, 0.6, 0.5), step(0, 0.4)];
  expect(shown(withArrival(standing, 0, 0.45))[0]).toEqual([0, 0.45, 0.6]);
  expect(shown(withArrival(standing, 0, 0.8))).toEqual([
    [0, 0.8, 0.8],
    [0.8, 1, 1],
  ]);
});

test('the last step arrives within the round, however far it is pushed', () => {
  expect(shown(withArrival(LIFT, 1, 0.9))[1]).toEqual([0.62, 0.9, 1]);
  expect(shown(withArrival(LIFT, 1, 3))[1]).toEqual([0.62, 1, 1]);
  expect(shown(withArrival(LIFT, 1, 0))[1]).toEqual([0.62, 0.62, 1]);
});

test('ends push no neighbour away', () => {
  expect(shown(withEnd(LIFT, 0, 2))[0]?.[2]).toBeCloseTo(1 - LEAST, 3);
  expect(shown(withEnd(LIFT, 0, -1))[0]?.[2]).toBeCloseTo(LEAST, 3);
  expect(withEnd(LIFT, 1, 0.7)).toEqual(LIFT);
});

test('a step put in between splits the one that lies there; the others stay', () => {
  const more = withStepAt(LIFT, 0.3, { level: 0.8 });
  expect(shown(more)).toEqual([
    [0, 0.3, 0.3],
    [0.3, 0.62, 0.62],
    [0.62, 0.81, 1],
  ]);
  expect(more.map((s) => s.level)).toEqual([0.8, 1, 0]);
});

test('without a step the one before has its time; two stay', () => {
  const three = [step(1, 0.2), step(0.5, 0.3), step(0, 0.5)];
  expect(shown(withoutStep(three, 1)).map((p) => p[2])).toEqual([0.5, 1]);
  expect(shown(withoutStep(three, 0)).map((p) => p[2])).toEqual([0.5, 1]);
  expect(withoutStep(LIFT, 0)).toEqual(LIFT);
});

test('what a step takes is typed, and the others share the rest as they did', () => {
  const three = [step(1, 0.2), step(0.5, 0.2), step(0, 0.6)];
  expect(withTakes(three, 0, 0.6).map((s) => s.takes)).toEqual([0.6, 0.1, 0.3]);
});

test('the others keep at least their least, and the one that is typed what is left', () => {
  const steps = withTakes([step(1, 0.01), step(0.5, 0.05), step(0, 0.94)], 2, 0.97);
  expect(steps.map((s) => s.takes)).toEqual([0.01, 0.02, 0.97]);
  expect(withTakes(steps, 2, 5).map((s) => s.takes)).toEqual([0.01, 0.01, 0.98]);
});

test.each(['sine', 'triangle', 'rise', 'fall', 'square'] as const)(
  'a %s wave as steps has its ends where the wave has them',
  (wave) => {
    const steps = stepsOfWave(wave);
    const lane = { wave: 'steps' as const, steps, width: 1, offset: 0 };
    const top = { sine: 0.5, triangle: 0.5, rise: 0.98, fall: 0.02, square: 0.25 };
    expect(waveAt(lane, top[wave])).toBeGreaterThan(0.95);
  },
);

test('whatever is done, the steps take the whole round and each its least', () => {
  const change = fc.oneof(
    fc.record({
      do: fc.constant('arrive'),
      i: fc.nat(5),
      at: evenly(-1, 2),
    }),
    fc.record({
      do: fc.constant('end'),
      i: fc.nat(5),
      at: evenly(-1, 2),
    }),
    fc.record({
      do: fc.constant('put'),
      i: fc.nat(5),
      at: evenly(0, 0.999),
    }),
    fc.record({ do: fc.constant('out'), i: fc.nat(5), at: fc.constant(0) }),
    fc.record({
      do: fc.constant('takes'),
      i: fc.nat(5),
      at: evenly(-1, 2),
    }),
  );
  fc.assert(
    fc.property(fc.array(change, { maxLength: 30 }), (changes) => {
      let steps: EffectStep[] = LIFT;
      for (const { do: what, i, at } of changes) {
        if (what === 'arrive') steps = withArrival(steps, i, at);
        else if (what === 'end') steps = withEnd(steps, i, at);
        else if (what === 'put') steps = withStepAt(steps, at, { level: at });
        else if (what === 'out') steps = withoutStep(steps, i);
        else if (i < steps.length) steps = withTakes(steps, i, at);
        const takes = steps.map((s) => s.takes ?? 1);
        expect(takes.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 2);
        expect(Math.min(...takes)).toBeGreaterThan(LEAST - 0.0002);
        expect(steps.every((s) => s.share >= 0 && s.share <= 1)).toBe(true);
      }
    }),
  );
});
