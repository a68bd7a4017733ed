/** Departments that are called besides light, and where in the script each is called. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { oneLine } from '../words.ts';
import { z } from 'zod';
import { placeAt } from './anchors.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { DepartmentRow, PromptRow } from './rows.ts';
import { RowId } from '../show/fields.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';

const DEPARTMENTS = 16;
const PROMPTS = 4000;

const Department = z.object({ id: RowId.optional(), set: DepartmentRow.omit({ id: true }) });
type Department = z.infer<typeof Department>;
/** Makes or changes a department that is called beside light. */
export const setDepartment = defineEdit({
  name: 'set-department',
  params: Department,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'departments', p.id);
    if (isRefusal(old)) return old;
    const name = p.set.name.trim();
    const twin = [...show.departments.values()].find(
      (d) => d.id !== old?.id && d.name.toLowerCase() === name.toLowerCase(),
    );
    if (twin || /^(lx|light|lights)$/i.test(name))
      return refuse(
        'clash',
        twin ? `There is “${twin.name}” already.` : 'Light is called by its cues already.',
        { name: 'Taken.' },
      );
    if (!old && show.departments.size >= DEPARTMENTS)
      return refuse('limit', `A show calls at most ${DEPARTMENTS} departments.`);
    const row: DepartmentRow = { id: old?.id ?? newId(), name };
    return {
      changes: [old ? replaceRow('departments', old, row) : insertRow('departments', row)],
      summary: old ? `“${old.name}” is “${name}” now` : `Calls for “${name}”`,
    };
  },
});

const Id = z.object({ id: RowId });
type Id = z.infer<typeof Id>;
/** Deletes a department with its calls. */
export const deleteDepartment = defineEdit({
  name: 'delete-department',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const department = rowFor(show, 'departments', id, 'already');
    if (isRefusal(department)) return department;
    const prompts = [...show.prompts.values()].filter((p) => p.department === id);
    return {
      changes: [
        ...prompts.map((p) => deleteRow('prompts', p)),
        deleteRow('departments', department),
      ],
      summary: `No more calls for “${department.name}”${prompts.length > 0 ? `; ${plural(prompts.length, 'call')} taken off the script` : ''}`,
    };
  },
});

const Prompt = z.object({
  id: RowId.optional(),
  set: PromptRow.pick({ scriptId: true, department: true, label: true, from: true, to: true }),
});
type Prompt = z.infer<typeof Prompt>;
/** A department is called on these words. */
export const setPrompt = defineEdit({
  name: 'set-prompt',
  params: Prompt,
  roles: EDITORS,
  plan: (show, { id, set }, { newId }) => {
    const script = show.scripts.get(set.scriptId);
    const department = show.departments.get(set.department);
    const old = id === undefined ? undefined : show.prompts.get(id);
    if (!script || !department || (id !== undefined && !old))
      return refuse(
        'not-found',
        'This script, department or call has been deleted meanwhile. Nothing was changed.',
      );
    if (set.to <= set.from || set.to > script.text.length)
      return refuse('invalid', 'A call is on words of the script.', {
        from: 'Outside the script.',
      });
    if (!old && show.prompts.size >= PROMPTS)
      return refuse('limit', `A show has at most ${PROMPTS} calls of other departments.`);
    const row: PromptRow = {
      id: old?.id ?? newId(),
      scriptId: script.id,
      department: department.id,
      label: set.label.trim(),
      ...placeAt(script.text, set.from, set.to),
    };
    return {
      changes: [old ? replaceRow('prompts', old, row) : insertRow('prompts', row)],
      summary: `${department.name}, ${row.label}: called on “${oneLine(row.quote)}”`,
    };
  },
});

/** Takes a department's call off the script. */
export const removePrompt = defineEdit({
  name: 'remove-prompt',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const prompt = show.prompts.get(id);
    if (!prompt) return refuse('not-found', 'This call has been taken off already.');
    return {
      changes: [deleteRow('prompts', prompt)],
      summary: `Took ${show.departments.get(prompt.department)?.name ?? '?'}, ${prompt.label}, off the script`,
    };
  },
});
