/** Numbers of rows that people count. */
import { numberAfter, numberTaken, rowsByNumber } from './numbered.ts';

const LOOKS = [
  { id: 'a', number: 7, name: 'Dusk' },
  { id: 'b', number: 2, name: 'Fog' },
];

test('the next is the one after the highest, whatever is free below it; the first is 1', () => {
  expect([numberAfter(LOOKS), numberAfter([])]).toEqual([8, 1]);
  expect(rowsByNumber(new Map(LOOKS.map((l) => [l.id, l]))).map((l) => l.id)).toEqual(['b', 'a']);
});

test('a number is taken by whoever has it, not by the row itself; where none is asked for none is taken', () => {
  expect(numberTaken('Look', LOOKS, 2, 'a')).toMatchObject({
    code: 'clash',
    message: 'Look 2 is “Fog” already.',
    fields: { number: 'Taken.' },
  });
  expect(numberTaken('Look', LOOKS, 2, undefined)).toMatchObject({ code: 'clash' });
  expect(numberTaken('Look', LOOKS, 2, 'b')).toBeUndefined();
  expect(numberTaken('Look', LOOKS, 3, 'a')).toBeUndefined();
  expect(numberTaken('Look', LOOKS, undefined, 'a')).toBeUndefined();
});
