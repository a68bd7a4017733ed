import { listed, numberRanges } from './words.ts';

test('numbers in a row are one run; of many runs the first five are said, and how many numbers the others have', () => {
  expect(numberRanges([4, 1, 2, 3, 9, 11, 12])).toBe('1–4, 9, 11–12');
  const tens = [0, 1, 2, 3, 4, 5, 6].flatMap((t) => [1, 2, 3].map((n) => t * 10 + n));
  expect(numberRanges(tens)).toBe('1–3, 11–13, 21–23, 31–33, 41–43 and 6 more');
  expect(numberRanges(tens.slice(0, 18))).toBe('1–3, 11–13, 21–23, 31–33, 41–43, 51–53');
  expect(numberRanges([])).toBe('');
});

test('of many names the first are said, and how many there are besides', () => {
  expect(listed(['Bow', 'Stern'], 2)).toBe('Bow, Stern');
  expect(listed(['Bow', 'Stern', 'Rail'], 2)).toBe('Bow, Stern and 1 more');
  expect(listed(['a; b', 'c', 'd'], 1, '; ')).toBe('a; b and 2 more');
  expect(listed([], 3)).toBe('');
});
