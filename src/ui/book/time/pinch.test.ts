import { Pinch } from './pinch';

test('two fingers apart zoom about their middle, side by side they move, one alone does nothing', () => {
  const pinch = new Pinch();
  expect(pinch.down(1, 100)).toBe(false);
  expect(pinch.move(1, 110)).toBeNull();
  expect(pinch.down(2, 210)).toBe(true);
  expect(pinch.move(2, 310)).toEqual({ by: 2, at: 210, across: 50 });
  expect(pinch.move(1, 210)).toMatchObject({ by: 0.5, at: 260 });
  pinch.up(1);
  expect(pinch.move(2, 400)).toBeNull();
  expect(pinch.isTwo).toBe(false);
});

test('a third finger is none, and fingers that all but touch do not leap', () => {
  const pinch = new Pinch();
  pinch.down(1, 100);
  pinch.down(2, 101);
  expect(pinch.down(3, 300)).toBe(true);
  expect(pinch.move(3, 500)).toBeNull();
  expect(pinch.move(2, 112)?.by).toBe(1);
  expect(pinch.move(2, 124)?.by).toBe(2);
});
