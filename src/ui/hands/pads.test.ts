/** Gamepads as parts of a hand. */
import { padMoved } from './pads';

const pad = (buttons: number[], axes: number[]) => ({
  buttons: buttons.map((value) => ({ value, pressed: value > 0.5, touched: false })),
  axes,
});
const fresh = () => ({ keys: [], axes: [] });

test('a key is pressed and lifted once, whatever it trembles', () => {
  const known = fresh();
  expect(padMoved(known, pad([1, 0], []))).toEqual([
    { control: 'pad.key.0', value: 1, on: true, isKey: true },
  ]);
  expect(padMoved(known, pad([0.995, 0.005], []))).toEqual([]);
  expect(padMoved(known, pad([0, 0], []))).toMatchObject([{ control: 'pad.key.0', on: false }]);
});

test('a stick goes from 0 to 1, and says nothing of where it lay first', () => {
  const known = fresh();
  expect(padMoved(known, pad([], [0, -1]))).toEqual([]);
  expect(padMoved(known, pad([], [0.001, 1]))).toEqual([
    { control: 'pad.axis.1', value: 1, on: true, isKey: false },
  ]);
});
