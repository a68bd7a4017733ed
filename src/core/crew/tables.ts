/** What a table of parts knows of itself. */
import type { FixtureRow } from '../fixtures/rows.ts';
import { sayMembers } from '../groups/tables.ts';
import { defineTable, listOf } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { PartRow } from './rows.ts';

interface Needs {
  readonly fixtures: ReadonlyMap<string, FixtureRow>;
}
export const parts = defineTable({
  name: 'parts',
  one: 'part',
  row: PartRow,
  section: 'people',
  since: 2,
  members: [
    // What is gone from the rig may come back, and is theirs then.
    { ...listOf<PartRow, 'fixtures'>('fixtures', 'fixtures'), without: (part) => part },
  ],
  says: { row: (p) => `part${quoted(p.name)}` },
  fields: {
    userName: { called: 'given to' },
    userId: { called: 'given to' },
    fixtures: { say: (ids: readonly string[], show: Needs) => sayMembers(ids, show) },
  },
});
