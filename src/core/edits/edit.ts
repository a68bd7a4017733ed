/**
 * What an edit is: a pure function from a show and parameters to row changes. It reads the clock, the database and
 * chance from nowhere, so that the browser, the server and a test get the same answer.
 */
import type { z } from 'zod';
import type { Refusal } from '../refusal.ts';
import type { RowOf, TableName } from '../show/tables.ts';
import type { RowChange, Show } from '../show/show.ts';

/** Owner and programmer may edit; a viewer (a designer in the house) leaves notes; a volunteer has the pages given to them. */
export type Role = 'owner' | 'programmer' | 'operator' | 'viewer' | 'volunteer';
export const ROLES = ['owner', 'programmer', 'operator', 'viewer', 'volunteer'] as const;

/** Who edits, and when: what goes into rows that say so. */
export interface EditedBy {
  userId: string;
  name: string;
  /** ISO 8601, UTC. */
  at: string;
}
export const NOBODY: EditedBy = { userId: '', name: 'somebody', at: '1970-01-01T00:00:00.000Z' };

export interface EditContext {
  /** Ids for new rows, unique and repeatable for one edit id. */
  newId: () => string;
  by: EditedBy;
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
/** Everybody who sees the whole show. */
/** Those who play a show and set levels in it. */
export const PLAYERS: readonly Role[] = ['owner', 'programmer', 'operator'];
export const LOOKERS: readonly Role[] = ['owner', 'programmer', 'operator', 'viewer'];

export const defineEdit = <Params>(edit: Edit<Params>): Edit<Params> => edit;

export const insertRow = <T extends TableName>(table: T, row: RowOf[T]): RowChange =>
  ({ table, id: row.id, before: null, after: row }) as unknown as RowChange;
export const updateRow = <T extends TableName>(
  table: T,
  before: RowOf[T],
  fields: Partial<RowOf[T]>,
): RowChange =>
  ({ table, id: before.id, before, after: { ...before, ...fields } }) as unknown as RowChange;
/** The row as a whole, for when fields go as well as come. */
export const replaceRow = <T extends TableName>(
  table: T,
  before: RowOf[T],
  after: RowOf[T],
): RowChange => ({ table, id: before.id, before, after }) as unknown as RowChange;
export const deleteRow = <T extends TableName>(table: T, row: RowOf[T]): RowChange =>
  ({ table, id: row.id, before: row, after: null }) as unknown as RowChange;

/** Ids from an edit id: the same on every machine that plans the edit. */
export function idsFrom(editId: string, by: EditedBy = NOBODY): EditContext {
  let n = 0;
  return { newId: () => `${editId}-${(n++).toString(36)}`, by };
}
