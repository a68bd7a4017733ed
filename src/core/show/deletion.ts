/** What goes along with rows that are deleted: what they own, their places among members, and links that lead to them. */
import { changeOf } from './fields-of.ts';
import { TABLE_NAMES, TABLES, tablesThat, type TableName } from './tables.ts';
import { withoutMembers } from './references.ts';
import type { RowChange, Show } from './show.ts';

/** Tables whose rows name others without needing them. */
const NAMING = tablesThat((t) => t.members ?? t.loosened);

/**
 * Deletes rows with all that is theirs, takes them out of where they are members, and loosens what leads to them. What
 * leans on them besides is left to whoever asks: an edit that would leave something leaning on nothing is refused (`danglingAfter`).
 * @returns the rows themselves last
 */
export function deletionOf(show: Show, table: TableName, ids: ReadonlySet<string>): RowChange[] {
  const gone = new Map<TableName, ReadonlySet<string>>([[table, ids]]);
  const owned = ownedBy(show, table, ids, gone);
  const there = (of: TableName, id: string): boolean => show[of].has(id) && !gone.get(of)?.has(id);
  const left = NAMING.flatMap((of) =>
    [...show[of].values()].flatMap((row): RowChange[] => {
      if (gone.get(of)?.has(row.id)) return [];
      const members = withoutMembers(of, row, there);
      const after = TABLES[of].loosened?.(members as never, there) ?? members;
      return after === row ? [] : [changeOf(of, row, after)];
    }),
  );
  const own = [...ids].flatMap((id) => show[table].get(id) ?? []);
  return [...owned, ...left, ...own.map((row) => changeOf(table, row, null))];
}

function ownedBy(
  show: Show,
  table: TableName,
  ids: ReadonlySet<string>,
  gone: Map<TableName, ReadonlySet<string>>,
): RowChange[] {
  return TABLE_NAMES.flatMap((of) => {
    const refs = (TABLES[of].refs ?? []).filter((ref) => ref.owner && ref.to[0] === table);
    if (refs.length === 0) return [];
    const rows = [...show[of].values()].filter((row) =>
      refs.some((ref) => ref.ids(row as never).some((id) => id !== undefined && ids.has(id))),
    );
    const theirs = new Set(rows.map((row) => row.id));
    gone.set(of, new Set([...(gone.get(of) ?? []), ...theirs]));
    const below = rows.length === 0 ? [] : ownedBy(show, of, theirs, gone);
    return [...below, ...rows.map((row) => changeOf(of, row, null))];
  });
}
