/** Which rows lean on which: a deletion or an undo must not leave a row leaning on nothing. */
import { formatCueNumber } from '../cues/number.ts';
import type { RowOf, TableName } from './rows.ts';
import type { RowChange, Show } from './show.ts';

/** Foreign keys, as a function from a row to the rows it leans on. */
function leansOn<T extends TableName>(table: T, row: RowOf[T]): { table: TableName; id: string }[] {
  switch (table) {
    case 'fixtures':
      return fixtureLeansOn(row as RowOf['fixtures']);
    case 'groups':
      return (row as RowOf['groups']).fixtures.map((id) => ({ table: 'fixtures', id }));
    case 'cues':
      return [{ table: 'lists', id: (row as RowOf['cues']).listId }];
    case 'values': {
      const value = row as RowOf['values'];
      return [{ table: 'cues', id: value.cueId }, { table: 'fixtures', id: value.fixtureId }, ...(value.palette === undefined ? [] : [{ table: 'palettes' as const, id: value.palette }])];
    }
    default:
      return [];
  }
}

function fixtureLeansOn(row: RowOf['fixtures']): { table: TableName; id: string }[] {
  const type = { table: 'types', id: row.typeId } as const;
  return row.circuitId === undefined ? [type] : [type, { table: 'circuits', id: row.circuitId }];
}

/** Says in words which row would lean on nothing after `changes`; undefined when none would. */
export function danglingAfter(show: Show, changes: readonly RowChange[]): string | undefined {
  const after = new Map(changes.map((c) => [`${c.table}/${c.id}`, c.after]));
  const exists = (table: TableName, id: string): boolean => {
    const changed = after.get(`${table}/${id}`);
    return changed === undefined ? show[table].has(id) : changed !== null;
  };
  for (const c of changes) {
    if (!c.after) continue;
    for (const target of leansOn(c.table, c.after as never)) {
      if (!exists(target.table, target.id)) return `what it leans on (${target.table}) has been deleted since`;
    }
  }
  const gone = new Map<TableName, Set<string>>();
  for (const c of changes) {
    if (c.after !== null) continue;
    const ids = gone.get(c.table) ?? new Set<string>();
    ids.add(c.id);
    gone.set(c.table, ids);
  }
  const leaning = (Object.keys(LEANERS) as TableName[]).flatMap((target) => (gone.has(target) ? LEANERS[target] ?? [] : []));
  for (const table of new Set(leaning)) {
    for (const row of show[table].values()) {
      if (after.has(`${table}/${row.id}`)) continue;
      const broken = leansOn(table, row as never).some((t) => gone.get(t.table)?.has(t.id));
      if (broken) return `${whatUses(show, table, row)} uses it now`;
    }
  }
  return undefined;
}

/** Tables whose rows may lean on rows of the key's table. */
const LEANERS: Partial<Record<TableName, TableName[]>> = { types: ['fixtures'], circuits: ['fixtures'], fixtures: ['groups', 'values'], lists: ['cues'], cues: ['values'], palettes: ['values'] };

function whatUses(show: Show, table: TableName, row: RowOf[TableName]): string {
  if (table === 'values') {
    const cue = show.cues.get((row as RowOf['values']).cueId);
    return `cue ${cue ? formatCueNumber(cue.number) : '?'}`;
  }
  if (table === 'groups') return `group “${(row as RowOf['groups']).name}”`;
  if (table === 'fixtures') return `fixture ${(row as RowOf['fixtures']).number}`;
  return `cue ${formatCueNumber((row as RowOf['cues']).number)}`;
}
