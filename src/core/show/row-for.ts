/** The row that an edit is of, or that it was deleted by somebody in the meantime. */
import { refuse, type Refusal, type Result } from '../refusal.ts';
import type { IdOf } from './fields.ts';
import { rowsIn, TABLES, type RowOf, type TableName, type Tables } from './tables.ts';

/** For what is deleted twice, nothing is lost by the second: it says less. */
type Gone = 'meanwhile' | 'already';

/** Something has been deleted by somebody else. @param fields what is wrong with which field of the request */
export const wasDeleted = (
  table: TableName,
  when: Gone = 'meanwhile',
  fields?: Record<string, string>,
): Refusal =>
  refuse(
    'not-found',
    `This ${TABLES[table].one} has been deleted ${when}.${when === 'already' ? '' : ' Nothing was changed.'}`,
    fields,
  );

/** @param when `already` for an edit that deletes it @returns a refusal in words where it is there no more */
export function rowFor<T extends TableName>(
  show: Tables,
  table: T,
  id: IdOf<T>,
  when: Gone = 'meanwhile',
): Result<RowOf[T]> {
  const row = rowsIn(show, table).get(id) as RowOf[T] | undefined;
  return row ?? wasDeleted(table, when);
}

/** The same where an edit may be told of none: a row that it changes, or makes anew without an id. */
export const oldRowFor = <T extends TableName>(
  show: Tables,
  table: T,
  id: IdOf<T> | undefined,
): Result<RowOf[T]> | undefined => (id === undefined ? undefined : rowFor(show, table, id));
