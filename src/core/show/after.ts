/** The tables that decide what values stand for, as they will be after changes. The show itself is not copied. */
import type { RowChange, Show } from './show.ts';
import { TABLES, tablesThat, type MeaningTable } from './tables.ts';

/** As much of a show as says what is on stage. */
export type Meaning = Pick<Show, MeaningTable | 'version'>;

const MEANING = tablesThat((t) => t.means);
/** True where a table decides what values stand for. */
export const means = (table: RowChange['table']): boolean => TABLES[table].means === true;

/** The show itself when none of these tables changes. */
export function meaningAfter(show: Show, changes: readonly RowChange[]): Meaning {
  const touched = changes.filter((c) => means(c.table));
  if (touched.length === 0) return show;
  const copied = new Map<string, Map<string, unknown>>();
  for (const c of touched) {
    const table = copied.get(c.table) ?? new Map<string, unknown>(show[c.table]);
    copied.set(c.table, table);
    if (c.after) table.set(c.id, c.after);
    else table.delete(c.id);
  }
  // A fresh object each time: what is kept for one state of the show is never taken for another.
  const unchanged = Object.fromEntries(MEANING.map((table) => [table, show[table]]));
  return { ...unchanged, ...Object.fromEntries(copied), version: () => 0 } as unknown as Meaning;
}
