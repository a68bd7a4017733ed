/** Groups: an ordered set of fixtures under a name. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { FixtureNumber, Name, RowId } from '../show/rows.ts';
import { defineEdit, deleteRow, EDITORS, insertRow, plural, updateRow } from './edit.ts';

const Record = z.object({ number: FixtureNumber.optional(), name: Name, fixtures: z.array(RowId).min(1, 'Select fixtures first.').max(10_000) });
type Record = z.infer<typeof Record>;

export const recordGroup = defineEdit<Record>({
  name: 'record-group',
  params: Record,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    if (p.fixtures.some((id) => !show.fixtures.has(id))) return refuse('not-found', 'A selected fixture has been deleted meanwhile. Nothing was recorded.');
    const groups = [...show.groups.values()];
    const number = p.number ?? Math.max(0, ...groups.map((g) => g.number)) + 1;
    const fixtures = [...new Set(p.fixtures)];
    const old = groups.find((g) => g.number === number);
    const change = old ? updateRow('groups', old, { name: p.name, fixtures }) : insertRow('groups', { id: newId(), number, name: p.name, fixtures });
    return { changes: [change], summary: `${old ? 'Changed' : 'Made'} group ${number} “${p.name}” of ${plural(fixtures.length, 'fixture')}` };
  },
});

const Delete = z.object({ id: RowId });
type Delete = z.infer<typeof Delete>;

export const deleteGroup = defineEdit<Delete>({
  name: 'delete-group',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const group = show.groups.get(p.id);
    if (!group) return refuse('not-found', 'This group has been deleted already.');
    return { changes: [deleteRow('groups', group)], summary: `Deleted group ${group.number} “${group.name}”` };
  },
});
