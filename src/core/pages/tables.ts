/** What a table of control pages knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { PageRow } from './rows.ts';

export const pages = defineTable({
  name: 'pages',
  one: 'page',
  row: PageRow,
  section: 'playback',
  since: 2,
  number: {},
  says: { row: (p) => `page${quoted(p.name)}` },
});
