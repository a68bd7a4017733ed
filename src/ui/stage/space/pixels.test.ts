/** How many pixels the stage in space is drawn with. */
import { Pixels } from './pixels';

/** Draws pictures so far apart. */
function draws(pixels: Pixels, from_ms: number, apart_ms: number, count: number): number {
  let now = from_ms;
  for (let i = 0; i < count; i++) {
    now += apart_ms;
    pixels.begins(now, true);
    pixels.ended(now);
  }
  return now;
}

test('where pictures come in time, they have every pixel', () => {
  const pixels = new Pixels(2, false);
  draws(pixels, 1000, 17, 300);
  expect(pixels.now).toBe(2);
});

test('where they do not, fewer are drawn, down to a third; single slow ones count for nothing', () => {
  const some = new Pixels(1, false);
  let now = 1000;
  for (let i = 0; i < 40; i++) now = draws(some, draws(some, now, 60, 1), 17, 2);
  expect(some.now).toBe(1);
  const pixels = new Pixels(1, false);
  now = draws(pixels, 1000, 60, 7);
  expect(pixels.ratio).toBeCloseTo(0.8);
  draws(pixels, now, 60, 200);
  expect(pixels.now).toBe(0.33);
});

test('a pause is no slow picture', () => {
  const pixels = new Pixels(1, false);
  draws(pixels, 1000, 500, 50);
  expect(pixels.now).toBe(1);
});

test('without a graphics card half of them, and all of them a quarter of a second after it stands still, once', () => {
  const pixels = new Pixels(1, true);
  expect(pixels.now).toBe(0.5);
  const now = draws(pixels, 1000, 30, 3);
  expect(pixels.rests(now + 100)).toBe(false);
  expect(pixels.rests(now + 251)).toBe(true);
  expect(pixels.now).toBe(1);
  expect(pixels.rests(now + 600)).toBe(false);
  // One picture of something else than light, after a pause, is sharp at once; what goes on moving is not.
  expect(pixels.begins(now + 2000, false)).toBe(false);
  pixels.ended(now + 2000);
  expect(pixels.begins(now + 2017, false)).toBe(true);
  expect(pixels.now).toBe(0.5);
});
