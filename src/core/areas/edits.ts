/** Drawing, naming and deleting areas of the stage floor. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { numberAfter } from '../show/numbered.ts';
import { z } from 'zod';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import { AreaRow } from './rows.ts';

const set = AreaRow.omit({ id: true, number: true });

/** Makes or changes an area of the stage; its corners in metres. */
export const setArea = defineEdit({
  name: 'set-area',
  params: z.object({ id: idOf('areas').optional(), set }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'areas', p.id);
    if (isRefusal(old)) return old;
    const others = [...show.areas.values()].filter((a) => a.id !== old?.id);
    const same = others.find((a) => a.name.toLowerCase() === p.set.name.toLowerCase());
    if (same)
      return refuse('clash', `There is an area “${same.name}” already.`, {
        name: 'This name is taken.',
      });
    const number = old?.number ?? numberAfter(others);
    const row: AreaRow = { ...p.set, id: old?.id ?? newId(), number };
    return {
      changes: [old ? replaceRow('areas', old, row) : insertRow('areas', row)],
      summary: `${old ? 'Changed' : 'Drew'} area “${row.name}”`,
    };
  },
});

/** Deletes an area of the stage. */
export const deleteArea = defineEdit({
  name: 'delete-area',
  params: z.object({ id: idOf('areas') }),
  roles: EDITORS,
  plan: (show, { id }) => {
    const area = rowFor(show, 'areas', id, 'already');
    return isRefusal(area)
      ? area
      : { changes: [deleteRow('areas', area)], summary: `Deleted area “${area.name}”` };
  },
});
