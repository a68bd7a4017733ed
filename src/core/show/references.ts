/** Which rows lean on which: a deletion or an undo must not leave a row leaning on nothing. */
import { formatCueNumber } from '../cues/number.ts';
import type { LookItem } from '../looks/rows.ts';
import type { RowOf, TableName } from './tables.ts';
import type { RowChange, Show } from './show.ts';

/** What a row leans on: a row of a table, or of one of two. */
export interface Lean {
  table: TableName;
  or?: TableName;
  id: string;
}

/** Foreign keys, as a function from a row to the rows it leans on. */
export function leansOn<T extends TableName>(table: T, row: RowOf[T]): Lean[] {
  switch (table) {
    case 'fixtures':
      return fixtureLeansOn(row as RowOf['fixtures']);
    case 'groups':
      return (row as RowOf['groups']).fixtures.map((id) => ({
        table: 'fixtures',
        or: 'groups',
        id,
      }));
    case 'cues':
      return cueLeansOn(row as RowOf['cues']);
    case 'calls':
      return [
        { table: 'scripts', id: (row as RowOf['calls']).scriptId },
        { table: 'cues', id: (row as RowOf['calls']).cueId },
      ];
    case 'prompts':
      return [
        { table: 'scripts', id: (row as RowOf['prompts']).scriptId },
        { table: 'departments', id: (row as RowOf['prompts']).department },
      ];
    case 'likes':
      return [{ table: 'cues', id: (row as RowOf['likes']).cueId }];
    case 'notes':
      return [(row as RowOf['notes']).photo, (row as RowOf['notes']).drawing?.picture].flatMap(
        (id) => (id === undefined ? [] : [{ table: 'photos' as const, id }]),
      );
    case 'faders': {
      const { holds } = row as RowOf['faders'];
      return [{ table: `${holds.kind}s`, id: holds.id }];
    }
    case 'values': {
      const value = row as RowOf['values'];
      return [
        { table: 'cues', id: value.cueId },
        { table: 'fixtures', id: value.fixtureId },
        ...(value.palette === undefined ? [] : [{ table: 'palettes' as const, id: value.palette }]),
        ...(value.look === undefined ? [] : [{ table: 'looks' as const, id: value.look }]),
        ...(value.effect === undefined ? [] : [{ table: 'effects' as const, id: value.effect.id }]),
      ];
    }
    case 'looks':
      return (row as RowOf['looks']).items.flatMap(itemLeansOn);
    case 'palettes':
      return Object.keys((row as RowOf['palettes']).groups ?? {}).map((id) => ({
        table: 'groups',
        id,
      }));
    case 'layouts': {
      const { background } = row as RowOf['layouts'];
      return background ? [{ table: 'pictures', id: background.picture }] : [];
    }
    default:
      return [];
  }
}

function cueLeansOn(row: RowOf['cues']): Lean[] {
  const list = { table: 'lists', id: row.listId } as const;
  return row.link ? [list, { table: 'cues', id: row.link.to }] : [list];
}

function itemLeansOn(item: LookItem): Lean[] {
  const members = (ids: readonly string[]): Lean[] =>
    ids.map((id) => ({ table: 'fixtures', or: 'groups', id }));
  switch (item.kind) {
    case 'level':
      return [{ table: 'fixtures', id: item.fixtureId }];
    case 'palette':
      return [{ table: 'palettes', id: item.palette }, ...members(item.members)];
    case 'effect':
      return [{ table: 'effects', id: item.effect }, ...members(item.members)];
    case 'look':
      return [{ table: 'looks', id: item.look }];
  }
}

function fixtureLeansOn(row: RowOf['fixtures']): Lean[] {
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
      if (!exists(target.table, target.id) && !(target.or && exists(target.or, target.id)))
        return `what it leans on (${target.table}) has been deleted since`;
    }
  }
  const gone = new Map<TableName, Set<string>>();
  for (const c of changes) {
    if (c.after !== null) continue;
    const ids = gone.get(c.table) ?? new Set<string>();
    ids.add(c.id);
    gone.set(c.table, ids);
  }
  const leaning = (Object.keys(LEANERS) as TableName[]).flatMap((target) =>
    gone.has(target) ? (LEANERS[target] ?? []) : [],
  );
  for (const table of new Set(leaning)) {
    for (const row of show[table].values()) {
      if (after.has(`${table}/${row.id}`)) continue;
      const broken = leansOn(table, row as never).some(
        (t) => gone.get(t.table)?.has(t.id) || (t.or !== undefined && gone.get(t.or)?.has(t.id)),
      );
      if (broken) return `${whatUses(show, table, row)} uses it now`;
    }
  }
  return undefined;
}

/** Tables whose rows may lean on rows of the key's table. */
export const LEANERS: Partial<Record<TableName, TableName[]>> = {
  types: ['fixtures'],
  circuits: ['fixtures'],
  fixtures: ['groups', 'values', 'looks'],
  groups: ['groups', 'looks', 'palettes', 'faders'],
  lists: ['cues', 'faders'],
  cues: ['values', 'calls', 'cues', 'likes'],
  scripts: ['calls', 'prompts'],
  departments: ['prompts'],
  photos: ['notes'],
  palettes: ['values', 'looks'],
  looks: ['values', 'looks', 'faders'],
  effects: ['values', 'looks', 'faders'],
  pictures: ['layouts'],
};

function whatUses(show: Show, table: TableName, row: RowOf[TableName]): string {
  if (table === 'values') {
    const cue = show.cues.get((row as RowOf['values']).cueId);
    return `cue ${cue ? formatCueNumber(cue.number) : '?'}`;
  }
  if (table === 'calls') return `a call on “${(row as RowOf['calls']).quote}”`;
  if (table === 'prompts') return `“${(row as RowOf['prompts']).label}” in the script`;
  if (table === 'likes') return `the word of ${(row as RowOf['likes']).by.name}`;
  if (table === 'notes') return `a note of ${(row as RowOf['notes']).by.name}`;
  if (table === 'faders')
    return `fader ${(row as RowOf['faders']).number} “${(row as RowOf['faders']).name}”`;
  if (table === 'looks') return `look “${(row as RowOf['looks']).name}”`;
  if (table === 'palettes') return `palette “${(row as RowOf['palettes']).name}”`;
  if (table === 'layouts') return `layout “${(row as RowOf['layouts']).name}”`;
  if (table === 'groups') return `group “${(row as RowOf['groups']).name}”`;
  if (table === 'fixtures') return `fixture ${(row as RowOf['fixtures']).number}`;
  return `cue ${formatCueNumber((row as RowOf['cues']).number)}`;
}
