/** Refusals of schemas are sentences, with no path of a field and no word of a program in them. */
import { z } from 'zod';
import { exampleShow } from './testing/example';
import { EDITS } from './edits/list';
import { planEdit } from './edits/plan-edit';
import { LiveCommand } from './live/commands';
import { isRefusal } from './refusal';
import { sayFirst, sayIssue } from './said-wrong';

const row = z.object({
  name: z.string().min(1).max(5),
  up_s: z.number().min(0).max(10).optional(),
  kind: z.enum(['a', 'b']).optional(),
  list: z
    .array(z.object({ address: z.number().int() }))
    .max(2)
    .optional(),
  own: z.number().max(3, 'At most three of these.').optional(),
});
test.each<[unknown, string]>([
  [{}, 'The name is missing.'],
  [{ name: '' }, 'The name is empty.'],
  [{ name: 'too long' }, 'The name has at most 5 characters; this has 8.'],
  [{ name: 7 }, 'The name has to be text.'],
  [{ name: 'a', up_s: -1 }, 'The up time is at least 0.'],
  [{ name: 'a', up_s: 11 }, 'The up time is at most 10.'],
  [{ name: 'a', kind: 'c' }, 'The kind is one of a, b.'],
  [
    { name: 'a', list: [{ address: 1 }, { address: 1.5 }] },
    'The address, in place 2, has to be a whole number.',
  ],
  [
    { name: 'a', list: [1, 2, 3].map((address) => ({ address })) },
    'The list has at most 2 entries; this has 3.',
  ],
  [{ name: 'a', own: 4 }, 'At most three of these.'],
  ['nothing', 'What was sent has to be a group of fields.'],
])('%j: %s', (input, says) => {
  const parsed = row.safeParse(input);
  expect(parsed.success ? undefined : sayFirst(parsed.error)).toBe(says);
});

/** Begins as a sentence does, ends as one, and speaks of no field, type or schema. */
const SENTENCE = /^[A-Z“0-9].*[.?!]$/su;
const PROGRAM =
  /_s\b|\w+\.\d+\.|Too (small|big)|Invalid|expected|undefined|\bZod|[a-z][A-Z][a-z]+Id\b|NaN/;
const junk: unknown[] = [
  undefined,
  null,
  7,
  'text',
  [],
  {},
  { id: 7, set: {} },
  { ids: [], set: null },
  { ids: ['x'.repeat(300)] },
  { name: 'n'.repeat(121), listId: 5 },
  { listId: 'a', number: -1, values: [{}] },
  { fixtures: [{ id: 'a', set: { number: 0, label: 'x'.repeat(200) } }] },
];

test.each([...EDITS.keys()])('every refusal of %s is a sentence', (name) => {
  const show = exampleShow();
  for (const params of junk) {
    const planned = planEdit(show, 'owner', name, params, 'e');
    if (!isRefusal(planned)) continue;
    expect(planned.message).toMatch(SENTENCE);
    expect(planned.message).not.toMatch(PROGRAM);
    for (const text of Object.values(planned.fields ?? {})) expect(text).not.toMatch(PROGRAM);
  }
});

test('so is every refusal of a live command', () => {
  const commands = [
    'set',
    'go',
    'goto',
    'fader',
    'master',
    'fan',
    'colour',
    'aim',
    'palette',
    'look',
    'effect',
    'park',
    'focus',
    'macro',
    'check',
    'board',
    'arm',
    'rate',
    'release',
    'nothing at all',
  ];
  for (const command of commands)
    for (const more of [
      {},
      { level: 9 },
      { fixtures: 'all' },
      { fixtures: [-1], attribute: 7, level: 'x' },
      { list: 5, cue: 7, time: -1 },
    ]) {
      const parsed = LiveCommand.safeParse({ command, ...more });
      if (parsed.success) continue;
      for (const issue of parsed.error.issues) {
        expect(sayIssue(issue)).toMatch(SENTENCE);
        expect(sayIssue(issue)).not.toMatch(PROGRAM);
      }
    }
});
