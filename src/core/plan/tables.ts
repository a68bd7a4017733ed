/** What tables of the drawn stage know of themselves. */
import { defineTable, keysOf, ref } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { LayoutRow, PictureRow, PieceRow } from './rows.ts';

export const pieces = defineTable({
  name: 'pieces',
  one: 'piece',
  row: PieceRow,
  section: 'plan',
  says: { row: (p) => `“${p.name || p.kind}” of the plan` },
  fields: {
    z: { called: 'height over the floor', unit: ' m' },
    height: { called: 'how tall', unit: ' m' },
    uuid: { hidden: true },
  },
});

export const layouts = defineTable({
  name: 'layouts',
  one: 'layout',
  row: LayoutRow,
  section: 'plan',
  refs: [ref('pictures', (l: LayoutRow) => [l.background?.picture])],
  members: [keysOf<LayoutRow, 'fixtures'>('fixtures', 'places')],
  number: {},
  records: { places: { deep: 1, by: 'fixtures' } },
  says: { row: (l) => `layout${quoted(l.name)}` },
});

export const pictures = defineTable({
  name: 'pictures',
  one: 'picture',
  row: PictureRow,
  section: 'plan',
  asset: { field: 'data', kind: 'image' },
  says: { row: (p) => `picture${quoted(p.name)}` },
});
