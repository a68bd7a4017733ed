/** Occasions are made, changed, skipped once and deleted. */
import { oldRowFor, rowFor, wasDeleted } from '../show/row-for.ts';
import { numberAfter } from '../show/numbered.ts';
import { z } from 'zod';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import { Day, OccasionRow } from './rows.ts';

const Set = OccasionRow.omit({ id: true, number: true, skipped: true });

export const setOccasion = defineEdit({
  name: 'set-occasion',
  params: z.object({ id: idOf('occasions').optional(), set: Set }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'occasions', p.id);
    if (isRefusal(old)) return old;
    if (!show.lists.has(p.set.list)) return wasDeleted('lists');
    const cue = show.cues.get(p.set.cue ?? '');
    if (p.set.does === 'goto' && cue?.listId !== p.set.list)
      return refuse('invalid', 'Say which cue of the list it goes to.', { cue: 'Which?' });
    if (p.set.from !== undefined && p.set.to !== undefined && p.set.to < p.set.from)
      return refuse('invalid', 'It ends before it begins.', { to: 'Before the first day.' });
    const row: OccasionRow = {
      ...p.set,
      id: old?.id ?? newId(),
      number: old?.number ?? numberAfter(show.occasions.values()),
      skipped: old?.skipped ?? [],
    };
    return {
      changes: [old ? replaceRow('occasions', old, row) : insertRow('occasions', row)],
      summary: `${old ? 'Changed' : 'Made'} occasion “${row.name}”`,
    };
  },
});

export const skipOccasion = defineEdit({
  name: 'skip-occasion',
  params: z.object({ id: idOf('occasions'), day: Day, skip: z.boolean() }),
  roles: EDITORS,
  plan: (show, { id, day, skip }) => {
    const row = rowFor(show, 'occasions', id);
    if (isRefusal(row)) return row;
    const is = row.skipped.includes(day);
    if (is === skip)
      return refuse(
        'nothing',
        skip ? 'It is skipped on that day already.' : 'It is not skipped on that day.',
      );
    // Days that are over need not be remembered.
    const others = row.skipped.filter((d) => d !== day).slice(-59);
    return {
      changes: [updateRow('occasions', row, { skipped: skip ? [...others, day].sort() : others })],
      summary: skip ? `Skips “${row.name}” on ${day}` : `“${row.name}” happens on ${day} after all`,
    };
  },
});

/** Deletes an occasion of the calendar. */
export const deleteOccasion = defineEdit({
  name: 'delete-occasion',
  params: z.object({ id: idOf('occasions') }),
  roles: EDITORS,
  plan: (show, { id }) => {
    const row = rowFor(show, 'occasions', id, 'already');
    return isRefusal(row)
      ? row
      : { changes: [deleteRow('occasions', row)], summary: `Deleted occasion “${row.name}”` };
  },
});
