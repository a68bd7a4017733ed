/** What tables of sheets know of themselves. */
import { defineTable, ownedBy } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { PieceRow, SheetRow } from './rows.ts';

export const sheets = defineTable({
  name: 'sheets',
  one: 'sheet',
  row: SheetRow,
  section: 'playback',
  since: 4,
  number: {},
  says: { row: (s) => `sheet${quoted(s.name)}` },
});

interface Needs {
  readonly sheets: ReadonlyMap<string, { name: string }>;
}

export const sheetpieces = defineTable({
  name: 'sheetpieces',
  one: 'piece of a sheet',
  row: PieceRow,
  section: 'playback',
  since: 4,
  refs: [ownedBy('sheets', (p: PieceRow) => [p.sheet])],
  says: {
    row: (p: PieceRow, show: Needs) =>
      `a ${p.is.kind}${p.label ? quoted(p.label) : ''} on sheet${quoted(show.sheets.get(p.sheet)?.name ?? '')}`,
  },
  fields: {
    x: { hidden: true },
    y: { hidden: true },
    w: { hidden: true },
    h: { hidden: true },
    z: { hidden: true },
    together: { hidden: true },
  },
});
