/** What a table of areas knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { AreaRow } from './rows.ts';

export const areas = defineTable({
  name: 'areas',
  one: 'area',
  row: AreaRow,
  section: 'plan',
  since: 4,
  number: {},
  says: { row: (a) => `area${quoted(a.name)}` },
});
