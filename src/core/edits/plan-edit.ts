/** The one way to plan an edit. */
import { fieldsOf, type Fields } from '../show/fields-of.ts';
import type { z } from 'zod';
import { inOthersParts } from '../crew/parts.ts';
import { refuse, type Refusal, type Result } from '../refusal.ts';
import { aRole, type Role } from '../roles.ts';
import { sayIssue } from '../said-wrong.ts';
import { same } from '../same.ts';
import { danglingAfter } from '../show/references.ts';
import type { RowChange, Show } from '../show/show.ts';
import { TABLES } from '../show/tables.ts';
import { fieldName, isHidden, sayField } from '../show/words.ts';
import { idsFrom, NOBODY, type EditedBy, type Planned } from './define-edit.ts';
import { EDITS } from './list.ts';

/** What somebody of this role is told who tries to change the show. */
export const mayNot = (role: Role): string =>
  `${aRole(role)} cannot change this show. Ask its owner for the programmer’s role.`;

/** Zod issues as messages by field path, in words. */
export function invalid(error: z.ZodError): Refusal {
  const fields: Record<string, string> = {};
  for (const issue of error.issues) {
    const path = issue.path.filter((p) => p !== 'set').join('.') || 'request';
    fields[path] ??= sayIssue(issue);
  }
  const first = Object.entries(fields)[0];
  return refuse('invalid', first?.[1] ?? 'What was sent is not valid.', fields);
}

const MOST_FIELDS = 4;

const MOST_CHARACTERS = 200;

/** Which field of a row went from what to what: `loops: no → yes`. Empty where more than a row or more than a few fields changed. */
function fieldsChanged(show: Show, changes: readonly RowChange[]): string {
  const rows = changes.filter((c) => !TABLES[c.table].cells);
  const [row] = rows;
  if (rows.length !== 1 || !row?.before || !row.after) return '';
  const [before, after] = [fieldsOf(row.before), fieldsOf(row.after)];
  const fields = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (f) => f !== 'id' && !isHidden(row.table, f) && !same(before[f], after[f]),
  );
  if (fields.length === 0 || fields.length > MOST_FIELDS) return '';
  // A switch that is not there yet, or no longer, stands where the change does not.
  const value = (f: string, own: Readonly<Fields>, other: Readonly<Fields>): string =>
    sayField(
      show,
      row.table,
      f,
      own[f] === undefined && typeof other[f] === 'boolean' ? !other[f] : own[f],
    );
  const said = fields
    .map(
      (f) => `${fieldName(row.table, f)}: ${value(f, before, after)} → ${value(f, after, before)}`,
    )
    .join(', ');
  return said.length > MOST_CHARACTERS ? '' : said;
}

/**
 * Plans an edit: knows it, checks the role and the parameters, plans, and checks every row it would write.
 * @param editId becomes the stem of new rows' ids
 */
export function planEdit(
  show: Show,
  role: Role,
  name: string,
  params: unknown,
  editId: string,
  by: EditedBy = NOBODY,
): Result<Planned> {
  const edit = EDITS.get(name);
  if (!edit)
    return refuse('unknown-edit', `There is no edit called “${String(name).slice(0, 60)}”.`, {
      edit: 'Unknown.',
    });
  if (!edit.roles.includes(role)) return refuse('forbidden', mayNot(role));
  const parsed = edit.params.safeParse(params);
  if (!parsed.success) return invalid(parsed.error);
  const planned = edit.plan(show, parsed.data, idsFrom(editId, by));
  if ('refused' in planned) return planned;
  const others = inOthersParts(show, planned.changes, by.userId, role);
  if (others) return refuse('part', others);
  for (const change of planned.changes) {
    if (!change.after) continue;
    const row = TABLES[change.table].row.safeParse(change.after);
    if (!row.success) return invalid(row.error);
  }
  const dangling = danglingAfter(show, planned.changes);
  if (dangling) return refuse('conflict', `This cannot be done: ${dangling}. Nothing was changed.`);
  // The log says what was changed, not only that something was.
  const fields = planned.summary.startsWith('Changed ') ? fieldsChanged(show, planned.changes) : '';
  return fields === '' ? planned : { ...planned, summary: `${planned.summary}: ${fields}` };
}
