/** Keys: the table in the document is the one that works, and nobody can take a key that types. */
import { readFileSync } from 'node:fs';
import { keyPressed, keyProblem, KEYS, sayKey } from './key-table';

test('the document has every key with what it does, and none besides', () => {
  const text = readFileSync('docs/command-line.md', 'utf8');
  const rows = [...text.matchAll(/^\| ([^|]+) \| ([^|]+) \| (?:everywhere|[^|]+) \|$/gm)].map(
    (m) => `${m[1]} ${m[2]}`,
  );
  for (const k of KEYS) expect(rows).toContain(`${sayKey(k.key)} ${k.label}`);
});

test('every key is there once, and what changes light is never a key that types', () => {
  expect(new Set(KEYS.map((k) => k.key)).size).toBe(KEYS.length);
  const typing = KEYS.filter((k) => 'light' in k && !/\$mod|Alt|F\d/.test(k.key));
  expect(typing).toEqual([]);
});

test.each<[Parameters<typeof keyPressed>[0], string | undefined]>([
  [
    { code: 'KeyB', ctrlKey: false, metaKey: false, altKey: true, shiftKey: true },
    'Alt+Shift+KeyB',
  ],
  [{ code: 'KeyZ', ctrlKey: true, metaKey: false, altKey: false, shiftKey: false }, '$mod+KeyZ'],
  [{ code: 'KeyZ', ctrlKey: false, metaKey: true, altKey: false, shiftKey: false }, '$mod+KeyZ'],
  [{ code: 'F2', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false }, 'F2'],
  [{ code: 'ShiftLeft', ctrlKey: false, metaKey: false, altKey: false, shiftKey: true }, undefined],
])('what is pressed is read: %o', (pressed, key) => expect(keyPressed(pressed)).toBe(key));

test.each([
  ['KeyB', 'types, or moves in a table'],
  ['Shift+KeyB', 'types, or moves in a table'],
  ['Digit1', 'types, or moves in a table'],
  ['ArrowDown', 'types, or moves in a table'],
  ['Escape', 'stays as it is'],
  ['Space', 'stays as it is'],
  ['$mod+KeyW', 'belongs to the browser'],
  ['F12', '“GO” already'],
])('%s cannot be highlight: %s', (key, why) =>
  expect(keyProblem('highlight', key, {})).toContain(why),
);

test.each(['Insert', 'Alt+KeyY', '$mod+Alt+Digit7', 'NumpadEnter'])('%s can be', (key) =>
  expect(keyProblem('highlight', key, {})).toBeUndefined(),
);

test('a key that was given away is free', () => {
  expect(keyProblem('highlight', 'F12', { go: 'Insert' })).toBeUndefined();
  expect(keyProblem('highlight', 'Insert', { go: 'Insert' })).toContain('“GO” already');
});
