/** Delete fixtures with all that cues and groups say about them; the summary names it, undo brings it back. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { RowId } from '../show/fields.ts';
import type { LookItem } from '../looks/rows.ts';
import type { RowChange } from '../show/show.ts';
import { defineEdit, deleteRow, EDITORS, updateRow } from './edit.ts';
import { numberRanges } from '../words.ts';
import { plural } from '../words.ts';

const Params = z.object({ ids: z.array(RowId).min(1).max(10_000) });
type Params = z.infer<typeof Params>;

export const deleteFixtures = defineEdit<Params>({
  name: 'delete-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const ids = new Set(p.ids);
    const rows = [...ids].map((id) => show.fixtures.get(id));
    const changes: RowChange[] = [];
    const numbers: number[] = [];
    const cues = new Set<string>();
    for (const value of show.values.values()) {
      if (!ids.has(value.fixtureId)) continue;
      cues.add(value.cueId);
      changes.push(deleteRow('values', value));
    }
    for (const group of show.groups.values()) {
      if (group.fixtures.some((id) => ids.has(id)))
        changes.push(
          updateRow('groups', group, { fixtures: group.fixtures.filter((id) => !ids.has(id)) }),
        );
    }
    for (const palette of show.palettes.values()) {
      if (Object.keys(palette.fixtures).some((id) => ids.has(id)))
        changes.push(
          updateRow('palettes', palette, {
            fixtures: Object.fromEntries(
              Object.entries(palette.fixtures).filter(([id]) => !ids.has(id)),
            ),
          }),
        );
    }
    for (const look of show.looks.values()) {
      const names = (i: LookItem): boolean =>
        i.kind === 'level'
          ? ids.has(i.fixtureId)
          : 'members' in i && i.members.some((m) => ids.has(m));
      if (!look.items.some(names)) continue;
      const items = look.items
        .map((i) => ('members' in i ? { ...i, members: i.members.filter((m) => !ids.has(m)) } : i))
        .filter((i) =>
          i.kind === 'level' ? !ids.has(i.fixtureId) : !('members' in i) || i.members.length > 0,
        );
      changes.push(updateRow('looks', look, { items }));
    }
    for (const layout of show.layouts.values()) {
      if (layout.places && Object.keys(layout.places).some((id) => ids.has(id)))
        changes.push(
          updateRow('layouts', layout, {
            places: Object.fromEntries(
              Object.entries(layout.places).filter(([id]) => !ids.has(id)),
            ),
          }),
        );
    }
    for (const row of rows) {
      if (!row)
        return refuse(
          'not-found',
          'One of these fixtures has been deleted already. Nothing was changed.',
        );
      changes.push(deleteRow('fixtures', row));
      numbers.push(row.number);
    }
    const uses =
      cues.size > 0
        ? `, and what ${plural(cues.size, 'cue')} said about ${numbers.length === 1 ? 'it' : 'them'}`
        : '';
    return { changes, summary: `Deleted fixture ${numberRanges(numbers)}${uses}` };
  },
});
