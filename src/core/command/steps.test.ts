/** What a line does, step by step. */
import { stepsOf } from './steps.ts';

const at = { command: 'set', level: 1 } as never;
const pan = { command: 'nudge' } as never;

test('a line selects, then sets, then does the rest, in its order', () => {
  expect(
    stepsOf({ kind: 'select-and-set', select: ['a', 'b'], command: at, then: [pan] }, ['a']),
  ).toEqual([
    { do: 'select', fixtures: ['a', 'b'] },
    { do: 'live', command: at },
    { do: 'live', command: pan },
  ]);
});

test('the same selection again does not end a step through it', () => {
  expect(stepsOf({ kind: 'select-and-set', select: ['a', 'b'], command: at }, ['a', 'b'])).toEqual([
    { do: 'live', command: at },
  ]);
  expect(stepsOf({ kind: 'select-and-set', select: ['a'], command: null }, ['a'])).toEqual([]);
  expect(
    stepsOf({ kind: 'select-and-set', select: ['b', 'a'], command: null }, ['a', 'b']),
  ).toEqual([{ do: 'select', fixtures: ['b', 'a'] }]);
});

test('a record takes what is not recorded; a palette all that is held; an update what has changed', () => {
  const record = {
    kind: 'record',
    listId: 'main',
    number: 1000,
    mode: 'track',
    existing: 'may',
  } as const;
  expect(stepsOf(record, [])).toEqual([
    {
      do: 'edit',
      edit: 'record-cue',
      params: { listId: 'main', number: 1000, mode: 'track', existing: 'may' },
      takes: 'unrecorded',
    },
  ]);
  const held = (edit: 'record-palette' | 'record-look' | 'update-source'): unknown =>
    stepsOf({ kind: 'record-held', edit, params: {} }, [])[0];
  expect(held('record-palette')).toMatchObject({ edit: 'record-palette', takes: 'held' });
  expect(held('record-look')).toMatchObject({ edit: 'record-look', takes: 'held' });
  expect(held('update-source')).toMatchObject({ edit: 'update-source', takes: 'unrecorded' });
});

test('other edits take nothing, and what is undone is no edit', () => {
  expect(stepsOf({ kind: 'edit', edit: 'delete-cue', params: { ids: ['x'] } }, [])).toEqual([
    { do: 'edit', edit: 'delete-cue', params: { ids: ['x'] } },
  ]);
  expect(stepsOf({ kind: 'undo' }, [])).toEqual([{ do: 'reverse', which: 'undo' }]);
});
