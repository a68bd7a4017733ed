/** What a table of inputs knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { InputRow } from './rows.ts';

export const inputs = defineTable({
  name: 'inputs',
  one: 'input',
  row: InputRow,
  section: 'patch',
  since: 8,
  says: { row: (i) => `input${quoted(i.name)}` },
});
