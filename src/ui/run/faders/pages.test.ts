/** Pages of faders side by side: never cut where they fit whole. */
import fc from 'fast-check';
import { sayPages, screensOf } from './pages';

const faders = (...numbers: number[]) => numbers.map((number) => ({ number }));
const numbers = (list: ReturnType<typeof screensOf>): number[][] =>
  list.map((s) => s.faders.map((f) => f.number));

test('whole pages side by side while there is room', () => {
  const two = faders(1, 2, 3, 9, 10, 17);
  expect(numbers(screensOf(two, 6))).toEqual([[1, 2, 3, 9, 10, 17]]);
  expect(numbers(screensOf(two, 5))).toEqual([[1, 2, 3, 9, 10], [17]]);
  expect(numbers(screensOf(two, 4))).toEqual([
    [1, 2, 3],
    [9, 10, 17],
  ]);
  expect(screensOf(two, 4).map((s) => s.pages)).toEqual([[1], [2, 3]]);
});

test('a page that is wider than the room is cut', () => {
  expect(numbers(screensOf(faders(1, 2, 3, 4, 5, 9), 2))).toEqual([
    [1, 2],
    [3, 4],
    [5, 9],
  ]);
});

test('each fader is on one screen, in its order, and no screen is wider than the room', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { maxLength: 40 }),
      fc.integer({ min: 1, max: 20 }),
      (list, room) => {
        const sorted = [...list].sort((a, b) => a - b);
        const screens = screensOf(faders(...sorted), room);
        expect(numbers(screens).flat()).toEqual(sorted);
        for (const s of screens) expect(s.faders.length).toBeLessThanOrEqual(room);
      },
    ),
  );
});

test('their names, or their numbers', () => {
  expect(sayPages([1, 3], { '3': 'Practicals' })).toBe('1–8 · Practicals');
});
