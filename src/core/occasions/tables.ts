/** What the table of occasions knows of itself. */
import { defineTable, ownedBy, ref } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { OccasionRow } from './rows.ts';
import { sayAt } from './words.ts';

export const occasions = defineTable({
  name: 'occasions',
  one: 'occasion',
  row: OccasionRow,
  section: 'playback',
  since: 5,
  number: {},
  refs: [ownedBy('lists', (o: OccasionRow) => [o.list]), ref('cues', (o: OccasionRow) => [o.cue])],
  says: { row: (o) => `occasion${quoted(o.name)}` },
  fields: {
    at: { say: (at: OccasionRow['at']) => sayAt(at) },
    skipped: { called: 'skipped days' },
  },
});
