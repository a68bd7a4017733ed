import fc from 'fast-check';
import { exampleShow } from '../testing/example.ts';
import { clashAt, nextFree, nextNumber, occupied } from './addresses.ts';
import { absolute, formatPoint, fromAbsolute, parsePoint } from '../fixtures/points.ts';

test('absolute addresses count through the universes', () => {
  expect(absolute({ universe: 2, address: 1 })).toBe(513);
  expect(fromAbsolute(131_072)).toEqual({ universe: 256, address: 512 });
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 131_072 }),
      (n) =>
        absolute(fromAbsolute(n)) === n &&
        absolute(parsePoint(formatPoint(fromAbsolute(n))) ?? { universe: 0, address: 0 }) === n,
    ),
  );
});

test.each(['0.1', '1.0', '1.513', '257.1', '131073', '0', 'x', '1.1.1', ''])(
  '“%s” is no address',
  (text) => {
    expect(parsePoint(text)).toBeUndefined();
  },
);

test('the next free run skips what is taken and does not cross a universe', () => {
  const show = exampleShow();
  expect(nextFree(show, 1)).toEqual({ universe: 1, address: 7 });
  expect(nextFree(show, 95)).toEqual({ universe: 1, address: 117 });
  expect(nextFree(show, 500)).toEqual({ universe: 3, address: 1 });
});

test('clashes are found whatever the overlap', () => {
  const ranges = occupied(exampleShow());
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 600 }),
      fc.integer({ min: 0, max: 40 }),
      (from, length) => {
        const found = clashAt(ranges, from, from + length);
        const expected = ranges.find((r) => r.from <= from + length && r.to >= from);
        return found === expected;
      },
    ),
  );
});

test('the next free number leaves room for all', () => {
  expect(nextNumber(exampleShow(), 4)).toBe(7);
  expect(nextNumber(exampleShow(), 5)).toBe(15);
});
