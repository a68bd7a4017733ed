import { isPlainText, oddTextIn } from './text.ts';

test.each<[string, string, boolean]>([
  ['letters', 'Tide’s out', true],
  ['a character of two halves', 'a \u{1F4A1} b', true],
  ['a zero byte', 'a\u0000b', false],
  ['a first half alone', 'a\uD83D', false],
  ['a second half alone', '\uDCA1a', false],
  ['halves the wrong way round', '\uDCA1\uD83D', false],
])('%s', (_what, text, plain) => expect(isPlainText(text)).toBe(plain));

test('the place of odd text is told, in values and in keys', () => {
  expect(oddTextIn({ set: { names: ['a', 'b\u0000'] } })).toBe('set.names.1');
  expect(oddTextIn({ 'a\uD800': 1 })).toBe('a name');
  expect(oddTextIn({ a: [1, null, true, 'x', { b: 'y' }] })).toBeUndefined();
  expect(oddTextIn('\u0000')).toBe('text');
});
