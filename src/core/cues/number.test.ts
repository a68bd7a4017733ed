import fc from 'fast-check';
import { formatCueNumber, freeCueNumber, numberAfter, parseCueNumber } from './number.ts';

test.each([
  ['2', 2000],
  ['2.5', 2500],
  ['10.125', 10125],
  ['0.5', 500],
  ['99999.999', 99999999],
])('%s is a cue number', (text, number) => {
  expect(parseCueNumber(text)).toBe(number);
  expect(formatCueNumber(number)).toBe(text);
});

test.each(['', '2.5.5', '2.', '.5', '-3', '2.1234', '0', '0.000', '100000', '1e3', '2,5', 'two'])(
  '“%s” is none',
  (text) => {
    expect(parseCueNumber(text)).toBeUndefined();
  },
);

test('every number survives being written and read', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 99_999_999 }),
      (n) => parseCueNumber(formatCueNumber(n)) === n,
    ),
  );
});

test('a cue at the end gets the next whole number', () => {
  expect(numberAfter(undefined)).toBe(1000);
  expect(numberAfter(2500)).toBe(3000);
  expect(numberAfter(3000)).toBe(4000);
});

test.each([
  [[], 5000, 5000],
  [[5000], 5000, 5100],
  [[5000, ...[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => 5000 + 100 * n)], 5000, 5010],
  [[5900], 5900, 5910],
  [[5999, 8500], 5999, 9000],
])('where %j are taken, %d comes in as %d', (taken, wish, number) => {
  expect(freeCueNumber(new Set(taken), wish)).toBe(number);
});
