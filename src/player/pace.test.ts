import fc from 'fast-check';
import { nextFrame, PERIOD_MS } from './pace.ts';

/** Plays so many frames, each made so many milliseconds after it was due. */
function frames(lateness: readonly number[]): number[] {
  let due = 0;
  let now = 0;
  return lateness.map((late) => {
    now = Math.max(now, due) + late;
    due = nextFrame(due, now);
    return now;
  });
}

test('however late frames are made, no second has a 45th', () => {
  const late = fc.oneof(
    { weight: 8, arbitrary: fc.double({ min: 0, max: 3, noNaN: true }) },
    { weight: 1, arbitrary: fc.double({ min: 10, max: 3000, noNaN: true }) },
  );
  fc.assert(
    fc.property(fc.array(late, { minLength: 60, maxLength: 200 }), (lateness) => {
      const at = frames(lateness);
      for (let i = 0; i + 44 < at.length; i++)
        expect((at[i + 44] ?? 0) - (at[i] ?? 0)).toBeGreaterThan(1000 + 1);
    }),
  );
});

test('what is a little late is made up for', () => {
  const at = frames(Array.from({ length: 441 }, (_, i) => (i % 100 === 0 ? 0.4 : 0)));
  expect(((at.at(-1) ?? 0) - (at[0] ?? 0)) / 440).toBeCloseTo(PERIOD_MS, 2);
});

test('after two seconds of nothing the clock goes on from there, without a burst', () => {
  const at = frames([0, 0, 2000, 0, 0, 0]);
  const steps = at.slice(1).map((t, i) => Math.round(t - (at[i] ?? 0)));
  expect(steps).toEqual([23, 2023, 23, 23, 23]);
});
