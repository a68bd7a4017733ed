/** Numbers and addresses are given once: told where they would be given twice. */
import { TABLES, tablesThat, type AnyRow, type TableName, type Tables } from './tables.ts';
import type { RowChange, Show } from './show.ts';
import { describeRow } from './words.ts';

/** A row of a table whose numbers are given once. */
export type NumberedRow = AnyRow & { number: number };
/** Tables whose numbers are given once. */
export const NUMBERED = tablesThat((t) => t.number);
/** Tables whose rows have something that only one row may have. */
export const CLAIMING = tablesThat((t) => t.claims);

/** The next number from the wish on that is free; it is taken then. */
export function takeNumber(taken: Set<number>, wish: number): number {
  let number = wish;
  while (taken.has(number)) number++;
  taken.add(number);
  return number;
}

/** Rows among which this one’s number is given once. */
export const numberedWithin = (table: TableName, row: NumberedRow): string =>
  TABLES[table].number?.within?.(row as never) ?? '';

/** Says in words which number or address two rows would have after `changes`; undefined when none. */
export function doublesAfter(show: Show, changes: readonly RowChange[]): string | undefined {
  const changed = new Set(changes.map((c) => `${c.table}/${c.id}`));
  const fresh = (table: TableName): AnyRow[] =>
    changes.flatMap((c) => (c.table === table && c.after ? [c.after] : []));
  const standing = (table: TableName): AnyRow[] =>
    [...show[table].values()].filter((row) => !changed.has(`${table}/${row.id}`));
  for (const table of NUMBERED) {
    const rows = fresh(table) as NumberedRow[];
    if (rows.length === 0) continue;
    const keyOf = (row: NumberedRow): string => `${numberedWithin(table, row)}/${row.number}`;
    const taken = new Set((standing(table) as NumberedRow[]).map(keyOf));
    for (const row of rows) {
      if (taken.has(keyOf(row))) return `there is another ${sayNumbered(show, table, row)} now`;
      taken.add(keyOf(row));
    }
  }
  for (const table of CLAIMING) {
    const { claims } = TABLES[table];
    const rows = fresh(table);
    if (!claims || rows.length === 0) continue;
    // What rows are of may come with the same changes.
    const claim = claims.begin(withRows(show, changes, claims.reads));
    for (const row of standing(table)) claim(row as never);
    for (const row of rows) {
      const other = claim(row as never);
      if (other) return `${claims.clash(row as never, other as never)} now`;
    }
  }
  return undefined;
}

/** `cue 2.5 of Sunday` where numbers are given within something, else `palette 3`. */
const sayNumbered = (show: Show, table: TableName, row: NumberedRow): string =>
  TABLES[table].number?.within
    ? describeRow(show, table, row)
    : `${TABLES[table].one} ${row.number}`;

/** These tables with what changes bring; what they take away is still there. */
function withRows(show: Show, changes: readonly RowChange[], tables: readonly TableName[]): Tables {
  const brought = new Map<TableName, Map<string, AnyRow>>();
  for (const c of changes) {
    if (!c.after || !tables.includes(c.table)) continue;
    const rows = brought.get(c.table) ?? new Map<string, AnyRow>(show[c.table]);
    rows.set(c.id, c.after);
    brought.set(c.table, rows);
  }
  return { ...show, ...Object.fromEntries(brought) };
}
