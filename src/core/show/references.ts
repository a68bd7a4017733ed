/** Which rows lean on which: a deletion or an undo must not leave a row leaning on nothing. */
import { TABLE_NAMES, TABLES, tablesThat, type AnyRow, type TableName } from './tables.ts';
import type { RowChange, Show } from './show.ts';
import { describeUse } from './words.ts';

/** What a row leans on: a row of a table, or of one of two. */
export interface Lean {
  table: TableName;
  or?: TableName;
  id: string;
}

const present = (ids: readonly (string | undefined)[]): string[] =>
  ids.filter((id) => id !== undefined);

const onGone = (table: TableName): string => `what it leans on (${table}) has been deleted since`;

/** Foreign keys, as a function from a row to the rows it leans on. */
export const leansOn = (table: TableName, row: AnyRow): Lean[] =>
  (TABLES[table].refs ?? []).flatMap(({ to: [first, second], ids }) =>
    present(ids(row as never)).map((id) =>
      second === undefined ? { table: first, id } : { table: first, or: second, id },
    ),
  );

/** The rows that a row goes and comes with. */
export const ownersOf = (table: TableName, row: AnyRow): { table: TableName; id: string }[] =>
  (TABLES[table].refs ?? []).flatMap((ref) =>
    ref.owner ? present(ref.ids(row as never)).map((id) => ({ table: ref.to[0], id })) : [],
  );

/** Tables whose rows may lean on rows of this one. */
export const leanersOn = (target: TableName): readonly TableName[] =>
  tablesThat((t) => t.refs?.some((ref) => ref.to.some((to) => to === target)));

const ownersAbove = (table: TableName): readonly TableName[] =>
  (TABLES[table].refs ?? []).flatMap((ref) =>
    ref.owner ? [ref.to[0], ...ownersAbove(ref.to[0])] : [],
  );
/** Tables whose rows own others; what owns others' owners stands first. */
export const OWNERS: readonly TableName[] = TABLE_NAMES.filter((name) =>
  TABLE_NAMES.some((t) => ownersAbove(t).includes(name)),
).sort((a, b) => Number(ownersAbove(a).includes(b)) - Number(ownersAbove(b).includes(a)));
/** Tables of rows that are owned, owners of others before those. */
export const OWNED: readonly TableName[] = TABLE_NAMES.filter(
  (name) => ownersAbove(name).length > 0,
).sort((a, b) => ownersAbove(a).length - ownersAbove(b).length);

/** The same of all rows of a show: which leans on one that is not there (show-file.test.ts). */
export function danglingIn(show: Show): string | undefined {
  const isGone = (to: readonly TableName[], id: string | undefined): boolean =>
    id !== undefined && !to.some((name) => show[name].has(id));
  for (const table of TABLE_NAMES)
    for (const ref of TABLES[table].refs ?? [])
      for (const row of show[table].values())
        if (ref.ids(row as never).some((id) => isGone(ref.to, id))) return onGone(ref.to[0]);
  return undefined;
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
    for (const target of leansOn(c.table, c.after)) {
      if (!exists(target.table, target.id) && !(target.or && exists(target.or, target.id)))
        return onGone(target.table);
    }
  }
  const gone = new Map<TableName, Set<string>>();
  for (const c of changes) {
    if (c.after !== null) continue;
    const ids = gone.get(c.table) ?? new Set<string>();
    ids.add(c.id);
    gone.set(c.table, ids);
  }
  for (const table of new Set([...gone.keys()].flatMap(leanersOn))) {
    // A show has hundreds of thousands of values: only what may name something that is gone is asked.
    const naming = (TABLES[table].refs ?? []).flatMap(({ to, ids }) =>
      to.flatMap((name) => {
        const ofTable = gone.get(name);
        return ofTable ? [{ ids, gone: ofTable }] : [];
      }),
    );
    for (const row of show[table].values()) {
      const leans = naming.some((n) =>
        n.ids(row as never).some((id) => id !== undefined && n.gone.has(id)),
      );
      if (leans && !after.has(`${table}/${row.id}`))
        return `${describeUse(show, table, row)} uses it now`;
    }
  }
  return undefined;
}

/** A row without members that are not there; the same row where all are. */
export const withoutMembers = (
  table: TableName,
  row: AnyRow,
  has: (table: TableName, id: string) => boolean,
): AnyRow =>
  (TABLES[table].members ?? []).reduce<AnyRow>(
    (left, members) => members.without(left as never, (id) => members.to.some((to) => has(to, id))),
    row,
  );
