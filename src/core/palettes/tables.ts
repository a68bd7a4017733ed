/** What a table of palettes knows of itself. */
import { defineTable, keysOf, ref } from '../show/define-table.ts';
import { joined, numbered, percent } from '../show/plain-words.ts';
import { PaletteRow } from './rows.ts';

/** What a palette says for any unit. */
function sayAny({ level, kelvin, colour, point }: NonNullable<PaletteRow['any']>): string {
  return joined(
    level === undefined ? '' : percent(level),
    kelvin === undefined ? '' : `${kelvin} K`,
    colour === undefined ? '' : `colour x ${colour.x.toFixed(3)} y ${colour.y.toFixed(3)}`,
    point === undefined ? '' : `${point.x} ${point.y} ${point.z} m`,
  );
}

export const palettes = defineTable({
  name: 'palettes',
  one: 'palette',
  row: PaletteRow,
  section: 'palettes',
  refs: [ref('groups', (p: PaletteRow) => Object.keys(p.groups ?? {}))],
  members: [keysOf<PaletteRow, 'fixtures'>('fixtures', 'fixtures')],
  number: {},
  records: {
    fixtures: { deep: 2, by: 'fixtures' },
    groups: { deep: 2, by: 'groups' },
    types: { deep: 2 },
  },
  means: true,
  pictured: 'paletteId',
  says: { row: (p) => numbered('palette', p) },
  fields: {
    play_s: { called: 'time when played' },
    any: { called: 'for any unit', say: sayAny },
    types: { called: 'by type' },
  },
});
