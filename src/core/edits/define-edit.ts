/**
 * What an edit is: a pure function from a show and parameters to row changes. It reads the clock, the database and
 * chance from nowhere, so that the browser, the server and a test get the same answer.
 */
import { changeOf } from '../show/fields-of.ts';
import type { Role } from '../roles.ts';
import type { z } from 'zod';
import type { Result } from '../refusal.ts';
import type { RowOf, TableName } from '../show/tables.ts';
import type { RowChange, Show } from '../show/show.ts';

/** Who edits, and when: what goes into rows that say so. */
export interface EditedBy {
  userId: string;
  name: string;
  /** ISO 8601, UTC. */
  at: string;
}
/** Whoever made what was made without a person. */
export const NOBODY: EditedBy = { userId: '', name: 'somebody', at: '1970-01-01T00:00:00.000Z' };

/** What an edit’s plan may ask for. */
export interface EditContext {
  /** Ids for new rows, unique and repeatable for one edit id. */
  newId: () => string;
  by: EditedBy;
}

/** What an edit would do, before it is done. */
export interface Planned {
  changes: RowChange[];
  /** What was done, in words, for the log and for undo: `Patched 6 fixtures, 201–206, at 2.101`. */
  summary: string;
}

/** @template Params as they are planned with: checked, with what was left out filled in */
export interface Edit<Params, Input = Params> {
  name: string;
  params: z.ZodType<Params, Input>;
  roles: readonly Role[];
  plan: (show: Show, params: Params, context: EditContext) => Result<Planned>;
}

/** An edit. What its plan is given is what its schema makes of what was sent, so that nothing is parsed twice. */
export const defineEdit = <Params, Input>(edit: Edit<Params, Input>): Edit<Params, Input> => edit;

/** Plans an edit as part of another, from parameters as somebody would send them. @throws where they are not valid */
export const planAs = <Params, Input>(
  edit: Edit<Params, Input>,
  show: Show,
  input: Input,
  context: EditContext,
): Result<Planned> => edit.plan(show, edit.params.parse(input), context);

/** A row that comes. */
export const insertRow = <T extends TableName>(table: T, row: RowOf[T]): RowChange =>
  changeOf(table, null, row);
/** A row of which some fields change. */
export const updateRow = <T extends TableName>(
  table: T,
  before: RowOf[T],
  fields: Partial<RowOf[T]>,
): RowChange => changeOf(table, before, { ...before, ...fields });
/** The row as a whole, for when fields go as well as come. */
export const replaceRow = <T extends TableName>(
  table: T,
  before: RowOf[T],
  after: RowOf[T],
): RowChange => changeOf(table, before, after);
/** A row that goes. */
export const deleteRow = <T extends TableName>(table: T, row: RowOf[T]): RowChange =>
  changeOf(table, row, null);

/** Ids from an edit id: the same on every machine that plans the edit. */
export function idsFrom(editId: string, by: EditedBy = NOBODY): EditContext {
  let n = 0;
  return { newId: () => `${editId}-${(n++).toString(36)}`, by };
}
