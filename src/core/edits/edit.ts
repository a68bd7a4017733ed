/**
 * What an edit is: a pure function from a show and parameters to row changes. It reads the clock, the database and
 * chance from nowhere, so that the browser, the server and a test get the same answer.
 */
import type { z } from 'zod';
import type { Refusal } from '../refusal.ts';
import type { RowOf, TableName } from '../show/rows.ts';
import type { RowChange, Show } from '../show/show.ts';

/** Owner and programmer may edit; some edits are the owner's alone. */
export type Role = 'owner' | 'programmer' | 'operator' | 'viewer';
export const ROLES = ['owner', 'programmer', 'operator', 'viewer'] as const;

export interface EditContext {
  /** Ids for new rows, unique and repeatable for one edit id. */
  newId: () => string;
}

export interface Planned {
  changes: RowChange[];
  /** What was done, in words, for the log and for undo: `Patched 6 fixtures, 201–206, at 2.101`. */
  summary: string;
}

export interface Edit<Params> {
  name: string;
  params: z.ZodType<Params>;
  roles: readonly Role[];
  plan: (show: Show, params: Params, context: EditContext) => Planned | Refusal;
}

/** `an owner`, `a viewer`: for sentences that begin with it, in capitals. */
export const aRole = (role: Role): string => (/^[aeiou]/.test(role) ? `An ${role}` : `A ${role}`);

export const EDITORS: readonly Role[] = ['owner', 'programmer'];

export const defineEdit = <Params>(edit: Edit<Params>): Edit<Params> => edit;

export const insertRow = <T extends TableName>(table: T, row: RowOf[T]): RowChange => ({ table, id: row.id, before: null, after: row }) as unknown as RowChange;
export const updateRow = <T extends TableName>(table: T, before: RowOf[T], fields: Partial<RowOf[T]>): RowChange =>
  ({ table, id: before.id, before, after: { ...before, ...fields } }) as unknown as RowChange;
/** The row as a whole, for when fields go as well as come. */
export const replaceRow = <T extends TableName>(table: T, before: RowOf[T], after: RowOf[T]): RowChange => ({ table, id: before.id, before, after }) as unknown as RowChange;
export const deleteRow = <T extends TableName>(table: T, row: RowOf[T]): RowChange => ({ table, id: row.id, before: row, after: null }) as unknown as RowChange;

/** Ids from an edit id: the same on every machine that plans the edit. */
export function idsFrom(editId: string): EditContext {
  let n = 0;
  return { newId: () => `${editId}-${(n++).toString(36)}` };
}

export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** `1–4, 7` for numbers in any order. */
export function numberRanges(numbers: readonly number[]): string {
  const sorted = [...numbers].sort((a, b) => a - b);
  const parts: string[] = [];
  for (let i = 0; i < sorted.length; ) {
    let j = i;
    while (j + 1 < sorted.length && (sorted[j + 1] ?? 0) === (sorted[j] ?? 0) + 1) j++;
    parts.push(i === j ? `${sorted[i]}` : `${sorted[i]}–${sorted[j]}`);
    i = j + 1;
  }
  return parts.length > 6 ? `${parts.slice(0, 5).join(', ')} and ${sorted.length - 5} more` : parts.join(', ');
}
