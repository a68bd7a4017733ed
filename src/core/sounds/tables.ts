/** What a table of sounds knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { SoundRow } from './rows.ts';

export const sounds = defineTable({
  name: 'sounds',
  one: 'sound',
  row: SoundRow,
  section: 'playback',
  asset: { field: 'data', kind: 'audio' },
  says: { row: (s) => `sound${quoted(s.name)}` },
});
