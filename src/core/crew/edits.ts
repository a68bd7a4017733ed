/** Parts of the rig and lists that are given to a person to program. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { PartRow } from './rows.ts';
import { idOf } from '../show/fields.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';

const Params = z.object({ id: idOf('parts').optional(), set: PartRow.omit({ id: true }) });
type Params = z.infer<typeof Params>;

/** Gives somebody a part of the show: fixtures and lists; refused where another has one of them. */
export const setPart = defineEdit({
  name: 'set-part',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const { set } = p;
    const old = p.id === undefined ? undefined : show.parts.get(p.id);
    if (p.id !== undefined && !old)
      return refuse('not-found', 'This part has been given back meanwhile. Nothing was changed.');
    if (set.fixtures.length + set.lists.length === 0)
      return refuse('invalid', 'A part has fixtures or lists: choose some first.', {
        fixtures: 'Nothing is in it.',
      });
    for (const other of show.parts.values()) {
      if (other.id === old?.id) continue;
      const fixture = set.fixtures.find((id) => other.fixtures.includes(id));
      const list = set.lists.find((id) => other.lists.includes(id));
      if (fixture !== undefined)
        return refuse(
          'clash',
          `Fixture ${show.fixtures.get(fixture)?.number ?? '?'} is in part “${other.name}” of ${other.userName} already. A fixture is in one part.`,
          { fixtures: 'Already given.' },
        );
      if (list !== undefined)
        return refuse(
          'clash',
          `List “${show.lists.get(list)?.name ?? '?'}” is in part “${other.name}” of ${other.userName} already. A list is in one part.`,
          { lists: 'Already given.' },
        );
    }
    const missing =
      set.fixtures.some((id) => !show.fixtures.has(id)) ||
      set.lists.some((id) => !show.lists.has(id));
    if (missing)
      return refuse(
        'not-found',
        'Something of this part has been deleted meanwhile. Nothing was changed.',
      );
    const row: PartRow = { ...set, id: old?.id ?? newId() };
    const of = [
      set.fixtures.length > 0 ? plural(set.fixtures.length, 'fixture') : '',
      set.lists.length > 0 ? plural(set.lists.length, 'list') : '',
    ]
      .filter(Boolean)
      .join(' and ');
    return {
      changes: [old ? replaceRow('parts', old, row) : insertRow('parts', row)],
      summary: `Gave part “${row.name}”, ${of}, to ${row.userName}`,
    };
  },
});

const Id = z.object({ id: idOf('parts') });
type Id = z.infer<typeof Id>;
/** Takes a part back; what is in it is everybody's again. */
export const deletePart = defineEdit({
  name: 'delete-part',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const part = show.parts.get(id);
    if (!part) return refuse('not-found', 'This part has been given back already.');
    return {
      changes: [deleteRow('parts', part)],
      summary: `Part “${part.name}” is everybody’s again (was ${part.userName}’s)`,
    };
  },
});
