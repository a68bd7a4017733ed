/** The tables that decide what values stand for, as they will be after changes. The show itself is not copied. */
import type { RowChange, Show } from './show.ts';

const MEANING = ['fixtures', 'types', 'palettes', 'groups', 'looks', 'effects'] as const;
export type Meaning = Pick<Show, (typeof MEANING)[number] | 'version'>;

/** True where a table decides what values stand for. */
export const means = (table: RowChange['table']): boolean =>
  (MEANING as readonly string[]).includes(table);

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
  const table = <T extends (typeof MEANING)[number]>(name: T): Show[T] =>
    (copied.get(name) as Show[T] | undefined) ?? show[name];
  // A fresh object each time: what is kept for one state of the show is never taken for another.
  return {
    fixtures: table('fixtures'),
    types: table('types'),
    palettes: table('palettes'),
    groups: table('groups'),
    looks: table('looks'),
    effects: table('effects'),
    version: () => 0,
  };
}
