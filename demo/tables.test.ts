/** What every table must stand, whichever it is: its rows go and come back, come together from two sides, travel in a file. */
import fc from 'fast-check';
import { nightFerryRows } from './night-ferry.ts';
import { readShowFile } from '../src/core/formats/read-show-file.ts';
import { writeShowFile } from '../src/core/formats/write-show-file.ts';
import { isRefusal } from '../src/core/refusal.ts';
import { deletionOf } from '../src/core/show/deletion.ts';
import { mergeShows } from '../src/core/show/merge.ts';
import { differences } from '../src/core/show/past.ts';
import { danglingAfter, leansOn } from '../src/core/show/references.ts';
import { MutableShow } from '../src/core/show/show.ts';
import { TABLE_NAMES, TABLES, type AnyRow, type TableName } from '../src/core/show/tables.ts';
import { planReverse, reverse } from '../src/core/show/undo.ts';
import { describeRow } from '../src/core/show/words.ts';

const demo = new MutableShow();
demo.apply(nightFerryRows());
const filled = TABLE_NAMES.filter((t) => demo[t].size > 0);
const rowsOf = (show: MutableShow, table: TableName): AnyRow[] => [...show[table].values()];
const oneOf = (table: TableName) => fc.constantFrom(...rowsOf(demo, table));
const RUNS = { numRuns: 12 };

test('the demo has rows of most tables, so that what follows says something', () =>
  expect(filled.length).toBeGreaterThan(18));

describe.each(filled)('rows of %s', (table) => {
  test('lean on rows that are there, and are valid', () => {
    for (const row of rowsOf(demo, table)) {
      expect(TABLES[table].row.safeParse(row).success).toBe(true);
      for (const { table: to, or, id } of leansOn(table, row))
        expect(demo[to].has(id) || (or !== undefined && demo[or].has(id))).toBe(true);
      expect(TABLES[table].idOf?.(row as never) ?? row.id).toBe(row.id);
      expect(describeRow(demo, table, row)).not.toContain('undefined');
    }
  });

  test('go with all that is theirs, and an undo brings all of it back', () =>
    fc.assert(
      fc.property(oneOf(table), (row) => {
        const show = demo.clone();
        const changes = deletionOf(show, table, new Set([row.id]));
        expect(changes.at(-1)).toMatchObject({ table, id: row.id, after: null });
        // What something else leans on is not deleted, and that is said.
        if (danglingAfter(show, changes) !== undefined) return;
        show.apply(changes);
        const back = planReverse(show, { rows: changes, summary: 'Deleted it' }, []);
        if (isRefusal(back)) throw new Error(back.message);
        show.apply(back);
        expect(differences(demo, show)).toEqual([]);
      }),
      RUNS,
    ));

  test('what one side deleted and the other left alone is gone after a merge, whichever side it was', () =>
    fc.assert(
      fc.property(oneOf(table), fc.boolean(), (row, byUs) => {
        const less = demo.clone();
        const changes = deletionOf(less, table, new Set([row.id]));
        if (danglingAfter(less, changes) !== undefined) return;
        less.apply(changes);
        const [ours, theirs] = byUs ? [less, demo] : [demo, less];
        const merged = mergeShows(demo, ours.clone(), theirs, { rules: [], choices: {} });
        expect(merged.conflicts).toEqual([]);
        expect(differences(less, merged.after)).toEqual([]);
      }),
      RUNS,
    ));

  test('changes and their reverse leave nothing behind', () =>
    fc.assert(
      fc.property(oneOf(table), (row) => {
        const show = demo.clone();
        const changes = deletionOf(show, table, new Set([row.id]));
        show.apply(changes);
        show.apply(reverse(changes));
        const id: string = row.id;
        expect(differences(demo, show)).toEqual([]);
        expect(show.valuesOf(id)).toEqual(demo.valuesOf(id));
      }),
      RUNS,
    ));
});

test.each(['lists', 'cues', 'fixtures', 'scripts'] as const)(
  'of %s every one can be deleted: what is theirs goes along, and nothing is left leaning on it',
  (table) => {
    for (const row of rowsOf(demo, table))
      expect([row.id, danglingAfter(demo, deletionOf(demo, table, new Set([row.id])))]).toEqual([
        row.id,
        undefined,
      ]);
  },
);

test('a show file gives back every row of every table', async () => {
  const bytes = await writeShowFile(demo, [], {
    id: 'demo',
    name: 'The Night Ferry',
    venue: '',
    seq: 1,
    origin: null,
    by: 'Mara Kell',
    made: '2026-01-01T00:00:00.000Z',
  });
  const read = await readShowFile(bytes);
  if (isRefusal(read)) throw new Error(read.message);
  expect(differences(demo, read.show)).toEqual([]);
});
