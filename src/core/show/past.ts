/** A show as it was, and the way from one state of it to another. */
import { changeOf } from './fields-of.ts';
import { TABLE_NAMES, rowsIn } from './tables.ts';
import type { MutableShow, RowChange, Show } from './show.ts';
import { reverse, type Change } from './undo.ts';
import { same } from '../same.ts';

/**
 * The show before these changes were made.
 * @param since what has happened since then, oldest first, up to the state of `show`
 */
export function showBefore(show: MutableShow, since: readonly Pick<Change, 'rows'>[]): MutableShow {
  const past = show.clone();
  for (let i = since.length - 1; i >= 0; i--) past.apply(reverse(since[i]?.rows ?? []));
  return past;
}

/** Row changes that make `from` into `to`. */
export function differences(from: Show, to: Show): RowChange[] {
  const changes: RowChange[] = [];
  for (const table of TABLE_NAMES) {
    const before = rowsIn(from, table);
    const after = rowsIn(to, table);
    for (const [id, row] of before) {
      const now = after.get(id);
      if (now === row || (now && same(row, now))) continue;
      changes.push(changeOf(table, row, now ?? null));
    }
    for (const [id, row] of after) if (!before.has(id)) changes.push(changeOf(table, null, row));
  }
  return changes;
}
