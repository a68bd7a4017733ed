/** What an edit is of, or that somebody has deleted it. */
import { newShowRows } from '../rig/defaults.ts';
import { rowFor, wasDeleted } from './row-for.ts';
import { MutableShow } from './show.ts';
import { TABLE_NAMES } from './tables.ts';

test('a row that is there is given; one that is not is said to be gone, by what it is called', () => {
  const show = new MutableShow();
  show.apply(newShowRows('Harbour lights'));
  expect(rowFor(show, 'lists', 'main')).toMatchObject({ id: 'main' });
  expect(rowFor(show, 'lists', 'other')).toEqual(wasDeleted('lists'));
  expect(rowFor(show, 'lists', 'other', 'already')).toMatchObject({
    code: 'not-found',
    message: 'This cue list has been deleted already.',
  });
  expect(wasDeleted('cues', 'meanwhile', { id: 'No such cue.' })).toMatchObject({
    message: 'This cue has been deleted meanwhile. Nothing was changed.',
    fields: { id: 'No such cue.' },
  });
});

test.each(TABLE_NAMES)('%s has a word of its own for one of it', (table) => {
  const others = TABLE_NAMES.filter((t) => t !== table).map((t) => wasDeleted(t).message);
  expect(others).not.toContain(wasDeleted(table).message);
});
