/** What somebody needs to see a few sheets and nothing else of a show: their rows, and names of what they point at. */
import type { CueRow } from '../cues/rows.ts';
import { changeOf } from '../show/fields-of.ts';
import type { RowChange, Show } from '../show/show.ts';
import type { AnyRow, TableName } from '../show/tables.ts';
import { piecesOf, pointedAt } from './pieces.ts';

/** A row with its name and number, and nothing of what it holds. */
function bare(show: Show, table: TableName, id: string): AnyRow | undefined {
  switch (table) {
    case 'palettes': {
      const row = show.palettes.get(id);
      if (!row) return undefined;
      const { any, groups, ...rest } = row;
      void [any, groups];
      return { ...rest, fixtures: {}, types: {} };
    }
    case 'looks': {
      const row = show.looks.get(id);
      return row && { ...row, items: [] };
    }
    case 'effects': {
      const row = show.effects.get(id);
      return row && { ...row, tracks: [] };
    }
    case 'groups': {
      const row = show.groups.get(id);
      return row && { ...row, fixtures: [] };
    }
    default:
      return show[table].get(id);
  }
}

const bareCue = ({ id, listId, number, name, up_s, down_s }: CueRow): CueRow =>
  ({ id, listId, number, name, up_s, down_s }) as CueRow;

/**
 * @param sheets ids of the sheets that somebody has; what lies on sheets within them is not theirs
 * @param cues ids that are asked for; of those, the ones of lists that the sheets play
 */
export function rowsShown(
  show: Show,
  sheets: readonly string[],
  lists: ReadonlySet<string>,
  cues: readonly string[],
): RowChange[] {
  const rows = new Map<string, RowChange>();
  const put = (table: TableName, row: AnyRow | undefined): void => {
    if (row) rows.set(`${table}/${row.id}`, changeOf(table, null, row));
  };
  for (const id of sheets) {
    put('sheets', show.sheets.get(id));
    for (const piece of piecesOf(show, id)) {
      put('sheetpieces', piece);
      const at = pointedAt(piece.is);
      if (!at || at.table === 'fixtures' || at.table === 'sheets') continue;
      if (at.table === 'cues') {
        const cue = show.cues.get(at.id);
        if (cue) put('cues', bareCue(cue));
      } else put(at.table, bare(show, at.table, at.id));
    }
  }
  for (const id of lists) put('lists', show.lists.get(id));
  for (const id of cues) {
    const cue = show.cues.get(id);
    if (cue && lists.has(cue.listId)) put('cues', bareCue(cue));
  }
  return [...rows.values()];
}
