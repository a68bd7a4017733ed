/** What a table of hands knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { HandRow } from './rows.ts';

export const hands = defineTable({
  name: 'hands',
  one: 'hand',
  row: HandRow,
  section: 'playback',
  since: 4,
  number: {},
  records: { bindings: { deep: 1 } },
  says: { row: (h) => `hand${quoted(h.name)}` },
  fields: { bindings: { hidden: true } },
});
