import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { apply, exampleShow, idOf } from '../testing/example.ts';
import { fanOffsets, fanThrough } from './fan.ts';
import {
  acrossStage,
  everyNth,
  half,
  inChance,
  inverted,
  mirroredPairs,
  ofType,
} from './select.ts';

const IDS = ['a', 'b', 'c', 'd', 'e'];

test('odd, even, every third from the second', () => {
  expect(everyNth(IDS, 2)).toEqual(['a', 'c', 'e']);
  expect(everyNth(IDS, 2, 2)).toEqual(['b', 'd']);
  expect(everyNth(IDS, 3, 2)).toEqual(['b', 'e']);
});

test('halves share everything, the middle one goes with the first', () => {
  expect([half(IDS, 'first'), half(IDS, 'second')]).toEqual([
    ['a', 'b', 'c'],
    ['d', 'e'],
  ]);
});

test('an order of chance has the same units, and is the same again for its seed', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 1e6 }),
      (seed) =>
        [...inChance(IDS, seed)].sort().join() === IDS.join() &&
        inChance(IDS, seed).join() === inChance(IDS, seed).join(),
    ),
  );
  expect(
    new Set(Array.from({ length: 40 }, (_, seed) => inChance(IDS, seed).join())).size,
  ).toBeGreaterThan(10);
});

describe('by place and kind', () => {
  const show = exampleShow();
  [1, 2, 3, 4, 5].forEach((n, i) =>
    apply(show, 'change-fixtures', {
      fixtures: [
        { id: idOf(show, n), set: { position: { x: [4, -4, 1.9, -2, 0][i] ?? 0, y: 2, z: 6 } } },
      ],
    }),
  );
  const ids = [1, 2, 3, 4, 5].map((n) => idOf(show, n));
  const numbers = (found: readonly string[]): (number | undefined)[] =>
    found.map((id) => show.fixtures.get(id)?.number);

  test('mirrored pairs go from the outside in, left one first; who is alone comes last', () => {
    expect(mirroredPairs(show, ids).map(numbers)).toEqual([[2, 1], [4, 3], [5]]);
  });
  test('across the stage is from the audience’s left', () =>
    expect(numbers(acrossStage(show, ids))).toEqual([2, 4, 5, 3, 1]));
  test('invert leaves out what is off the rig', () => {
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 6), set: { patch: [] } }] });
    expect(numbers(inverted(show, ids))).toEqual([11, 12, 13, 14, 101, 102]);
  });
  test('a type is found by its beginning, whatever spaces and case', () => {
    expect(numbers(ofType(show, 'Moving WASH'))).toEqual([101, 102]);
    expect(ofType(show, '')).toEqual([]);
  });
});

describe('fans', () => {
  test('worked by hand', () => {
    expect(fanThrough(4, [20, 80])).toEqual([20, 40, 60, 80]);
    expect(fanThrough(5, [0, 100, 0])).toEqual([0, 50, 100, 50, 0]);
    expect(fanThrough(5, [10, 50], { mirrored: true })).toEqual([50, 30, 10, 30, 50]);
    expect(fanThrough(3, [0, 100], { curve: 'in' })).toEqual([0, 25, 100]);
    expect(fanThrough(3, [0, 100], { curve: 'in', pivot: 'last' })).toEqual([0, 75, 100]);
    expect(fanThrough(5, [0, 100], { curve: 'in', pivot: 'middle' })).toEqual([
      0, 37.5, 50, 62.5, 100,
    ]);
    expect(fanThrough(5, [0, 100], { curve: 'in', pivot: 'mirrored' })).toEqual([
      100, 25, 0, 25, 100,
    ]);
    expect(fanThrough(5, [0, 80, 0], { pivot: 'middle' })).toEqual([0, 40, 80, 40, 0]);
    expect(fanThrough(1, [30, 90])).toEqual([30]);
    expect(fanOffsets(5, 20)).toEqual([-20, -10, 0, 10, 20]);
    expect(fanOffsets(3, 20, 'first')).toEqual([0, 10, 20]);
    expect(fanOffsets(3, 20, 'last')).toEqual([-20, -10, 0]);
    expect(fanOffsets(5, 20, 'mirrored')).toEqual([20, 10, 0, 10, 20]);
  });

  test('a fan stays between its ends and begins and ends on them', () => {
    const stop = evenly(-100, 100);
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 60 }),
        stop,
        stop,
        fc.constantFrom('even', 'in', 'out', 's'),
        (n, a, b, curve) => {
          const values = fanThrough(n, [a, b], { curve: curve as never });
          return (
            values.every((v) => v >= Math.min(a, b) - 1e-9 && v <= Math.max(a, b) + 1e-9) &&
            values[0] === a &&
            Math.abs((values.at(-1) ?? NaN) - b) < 1e-9
          );
        },
      ),
    );
  });

  test('a fan from the middle leaves the mean where it was', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 60 }),
        evenly(-50, 50),
        (n, by) => Math.abs(fanOffsets(n, by).reduce((s, v) => s + v, 0)) < 1e-6,
      ),
    );
  });
});

describe('fans in groups', () => {
  const through = (groups: object, n = 6): number[] =>
    fanThrough(n, [0, 100], { ...groups }).map(Math.round);
  test('neighbours together take the same', () => {
    expect(through({ together: 2 })).toEqual([0, 0, 50, 50, 100, 100]);
    expect(through({ together: 4 })).toEqual([0, 0, 0, 0, 100, 100]);
  });
  test('the same again after so many', () => {
    expect(through({ again: 3 })).toEqual([0, 50, 100, 0, 50, 100]);
    expect(through({ again: 4 })).toEqual([0, 33, 67, 100, 0, 33]);
  });
  test('both: pairs, the same again after four', () => {
    expect(through({ again: 4, together: 2 }, 8)).toEqual([0, 0, 100, 100, 0, 0, 100, 100]);
  });
  test('more than there are is all of them', () => {
    expect(through({ again: 40 }, 3)).toEqual([0, 50, 100]);
    expect(through({ together: 40 }, 3)).toEqual([0, 0, 0]);
  });
  test('what each is moved by goes by groups alike', () => {
    expect(fanOffsets(4, 10, 'middle', 'even', { together: 2 })).toEqual([-10, -10, 10, 10]);
    expect(fanOffsets(4, 10, 'first', 'even', { again: 2 })).toEqual([0, 10, 0, 10]);
  });
});
