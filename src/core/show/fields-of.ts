/**
 * Rows as what any table's rows are: fields by name. Whoever asks what a row says, knowing no table, goes through here,
 * and what comes back is a row again by being checked against its schema before it is written (`planEdit`, `commit`).
 */
import type { AnyRow, TableName } from './tables.ts';
import type { RowChange } from './show.ts';

/** A row’s fields, whatever they are. */
export type Fields = Record<string, unknown>;

/** What a row says; of none, nothing. */
export const fieldsOf = (row: AnyRow | null | undefined): Readonly<Fields> => row ?? {};
/** Fields that were a row's and have been changed, as a row of the same table. */
export const asRow = <Row extends AnyRow>(fields: Fields): Row => fields as unknown as Row;

/** A change of a row of any table. @param before null: it comes. @param after null: it goes */
export const changeOf = (
  table: TableName,
  before: AnyRow | null,
  after: AnyRow | null,
): RowChange => ({ table, id: (after ?? before)?.id ?? '', before, after }) as unknown as RowChange;

/**
 * A row with fields written over it: undefined leaves a field as it is, null takes it away.
 * @param nullable fields of which null is a value
 */
export function withFields<Row extends AnyRow>(
  row: Row,
  set: Readonly<Fields>,
  nullable: readonly string[] = [],
): Row {
  const next: Fields = { ...row };
  for (const [field, value] of Object.entries(set)) {
    if (value === undefined) continue;
    if (value === null && !nullable.includes(field)) delete next[field];
    else next[field] = value;
  }
  return asRow<Row>(next);
}
