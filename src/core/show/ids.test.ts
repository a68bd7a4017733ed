/** Ids of different tables are different things to the type checker; it is what runs these rules. */
import type { IdOf } from './fields.ts';
import { exampleShow } from '../testing/example.ts';

const cueId: IdOf<'cues'> = 'a plain string may become an id';

test('an id of one table does not stand where one of another is wanted', () => {
  const show = exampleShow();
  // @ts-expect-error A cue's id is no list's.
  expect(show.cuesOf(cueId)).toEqual([]);
  // @ts-expect-error Nor is it a key of another table.
  expect(show.palettes.get(cueId)).toBeUndefined();
  // @ts-expect-error Nor a fixture's.
  const fixtureId: IdOf<'fixtures'> = cueId;
  expect(fixtureId).toBe(cueId);
});

test('it stands where its own is wanted, and where any row is', () => {
  const show = exampleShow();
  expect(show.cues.get(cueId)).toBeUndefined();
  expect(show.valuesOf(cueId).size).toBe(0);
});
