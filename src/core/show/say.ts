/** A changed row in its words: `cue 12: up 3 s → 5 s`. */
import { listed } from '../words.ts';
import { fieldsOf } from './fields-of.ts';
import type { RowChange, Show } from './show.ts';
import { TABLES } from './tables.ts';
import { altered } from './undo.ts';
import { describeRow, fieldName, isHidden, sayField } from './words.ts';

/** @param most fields that are said; the rest is counted */
export function sayRow(show: Show, row: RowChange, most = 3): string {
  const what = describeRow(show, row.table, row.after ?? row.before);
  const { cells } = TABLES[row.table];
  if (cells)
    return `${what}: ${cells.say(row.before as never, show)} → ${cells.say(row.after as never, show)}`;
  if (!row.before) return `${what} is new`;
  if (!row.after) return `${what} is deleted`;
  const [before, after] = [fieldsOf(row.before), fieldsOf(row.after)];
  const fields = altered(row).filter((f) => !isHidden(row.table, f));
  const said = fields.map(
    (f) =>
      `${fieldName(row.table, f)} ${sayField(show, row.table, f, before[f])} → ${sayField(show, row.table, f, after[f])}`,
  );
  return `${what}: ${listed(said, most)}`;
}
