/** A later draft is told from a passage, and never stands beside the one before it. */
import { apply, exampleShow, refused } from '../testing/example.ts';
import { isDraftOf, standsTwice } from './drafts.ts';

const line = (n: number): string => `Line ${n} of the keeper’s song`;
const draft = (from: number, to: number): string =>
  Array.from({ length: to - from + 1 }, (_, i) => `KEEPER\n${line(from + i)}\n`).join('\n');

test.each<[string, string, boolean]>([
  ['itself', draft(1, 20), true],
  ['with its first half cut', draft(11, 20), true],
  ['with much that is new', `${draft(1, 10)}\n${draft(30, 60)}`, true],
  ['a passage of it', draft(4, 6), false],
  ['another play', draft(50, 70), false],
])('%s', (_what, text, expected) => expect(isDraftOf(text, draft(1, 20))).toBe(expected));

test('a short one is a draft of what it holds whole', () => {
  expect(isDraftOf('Who goes there?\nNobody.', 'Who goes there?')).toBe(true);
  expect(isDraftOf('Nobody.', 'Who goes there?')).toBe(false);
  expect(isDraftOf('Nobody.', '')).toBe(false);
});

test('what stands once in a draft does not stand twice in the next', () => {
  expect(standsTwice(draft(1, 20) + draft(1, 20), draft(1, 20))).toBe(true);
  expect(standsTwice(draft(1, 20) + draft(3, 24), draft(1, 20))).toBe(true);
  expect(standsTwice(draft(1, 24), draft(1, 20))).toBe(false);
  // A chorus that comes again is no second draft.
  const chorus = `${draft(1, 20)}\n${line(3)}\n${line(4)}\n`;
  expect(standsTwice(chorus, draft(1, 20))).toBe(false);
  expect(standsTwice(chorus + line(3), chorus)).toBe(false);
});

test('the edit refuses it in words, and takes the draft alone', () => {
  const show = exampleShow();
  const script = { title: 'The Keeper', format: 'plain' };
  apply(show, 'import-script', { ...script, text: draft(1, 20) });
  const id = [...show.scripts.keys()][0];
  const both = { ...script, id, text: draft(1, 20) + draft(1, 22) };
  expect(refused(show, 'import-script', both).message).toContain('stands in this text twice');
  apply(show, 'import-script', { ...script, id, text: draft(1, 22) });
  expect(show.scripts.get(id ?? '')?.draft).toBe(2);
});
