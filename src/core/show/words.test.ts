/** Which fields of rows are said, and which stand above which. */
import { OWNED, OWNERS } from './references.ts';
import { sayRow } from './say.ts';
import { changeOf } from './fields-of.ts';
import { exampleShow } from '../testing/example.ts';
import { TABLE_NAMES, TABLES } from './tables.ts';
import { fieldName, isHidden, isTime } from './words.ts';

test('what is kept for the machine is not said; what people read is', () => {
  expect(isHidden('sheetpieces', 'x')).toBe(true);
  expect(isHidden('sheetpieces', 'label')).toBe(false);
  expect(isHidden('cues', 'name')).toBe(false);
  const show = exampleShow();
  const [fixture] = show.fixtures.values();
  if (!fixture) throw new Error('no fixture');
  const moved = { ...fixture, label: 'Bow', plan: { x: 1, y: 2 } };
  const said = sayRow(show, changeOf('fixtures', fixture, moved as never));
  expect(said).toContain('Bow');
  expect(said).not.toContain('plan');
});

test('a time is said as one, a name as it is called', () => {
  expect([isTime('cues', 'up_s'), isTime('cues', 'name')]).toEqual([true, false]);
  expect(fieldName('cues', 'up_s')).not.toContain('_');
});

test('each table whose rows belong to others’ is owned, and comes after its owner', () => {
  const owned = TABLE_NAMES.filter((t) => TABLES[t].refs?.some((ref) => ref.owner));
  expect([...OWNED].sort()).toEqual([...owned].sort());
  for (const table of owned)
    for (const ref of TABLES[table].refs ?? []) {
      if (!ref.owner) continue;
      expect(OWNERS).toContain(ref.to[0]);
      if (OWNED.includes(ref.to[0]))
        expect(OWNED.indexOf(ref.to[0])).toBeLessThan(OWNED.indexOf(table));
    }
});
