/** What the show's own row knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { SettingsRow } from './rows.ts';

export const settings = defineTable({
  name: 'settings',
  one: 'show',
  row: SettingsRow,
  section: 'show',
  records: { aside: { deep: 1 }, faderPages: { deep: 1 } },
  // What a copy is called is its own affair.
  ownFields: ['name', 'venue'],
  says: { row: () => 'the show’s name and notes' },
  fields: {
    aside: { called: 'findings put aside' },
    faderPages: { called: 'names of fader pages' },
    newUniverses: { called: 'where new universes go' },
  },
});
