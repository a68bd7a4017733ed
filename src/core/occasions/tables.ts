/** What the table of occasions knows of itself. */
import { defineTable, ownedBy, ref } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { OccasionRow } from './rows.ts';

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

const sign = (n: number): string => (n < 0 ? '−' : '+');
/** `19:30:00`, `sunset − 10 min`. */
export const sayAt = (at: OccasionRow['at']): string =>
  at.by === 'clock'
    ? at.time
    : at.plus_min === 0
      ? at.event
      : `${at.event} ${sign(at.plus_min)} ${Math.abs(at.plus_min)} min`;
