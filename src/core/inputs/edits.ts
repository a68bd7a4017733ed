/** Which universes of other desks are received, and what they do. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { z } from 'zod';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import { heardAs, InputRow } from './rows.ts';

/** More than a machine hears in time. */
const MOST = 64;

const DOES: Readonly<Record<InputRow['merge'], (universe: number) => string>> = {
  look: () => '',
  highest: (universe) => `, merged into universe ${universe}`,
  follow: (universe) => `, which universe ${universe} follows`,
};

/** Makes or changes a universe of another desk that is received: its port, card, and how it merges. */
export const setInput = defineEdit({
  name: 'set-input',
  params: z.object({ id: idOf('inputs').optional(), set: InputRow.omit({ id: true }) }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'inputs', p.id);
    if (isRefusal(old)) return old;
    const others = [...show.inputs.values()].filter((i) => i.id !== old?.id);
    const twin = others.find((i) => heardAs(i) === heardAs(p.set) && i.universe === p.set.universe);
    if (twin)
      return refuse('clash', `“${twin.name}” is that universe already.`, {
        port: 'There already.',
      });
    if (!old && others.length >= MOST)
      return refuse('limit', `At most ${MOST} universes of others are received.`);
    const row: InputRow = { ...p.set, id: old?.id ?? newId() };
    return {
      changes: [old ? replaceRow('inputs', old, row) : insertRow('inputs', row)],
      summary: `${old ? 'Changed' : 'Added'} input “${row.name}”${row.on ? DOES[row.merge](row.universe) : ''}`,
    };
  },
});

/** Deletes an input; what it gave goes from the stage. */
export const deleteInput = defineEdit({
  name: 'delete-input',
  params: z.object({ id: idOf('inputs') }),
  roles: EDITORS,
  plan: (show, { id }) => {
    const input = rowFor(show, 'inputs', id, 'already');
    return isRefusal(input)
      ? input
      : { changes: [deleteRow('inputs', input)], summary: `Deleted input “${input.name}”` };
  },
});
