/** A list that goes through palettes or looks, made in one step: a cue for each. */
import { numberAfter } from '../show/numbered.ts';
import { z } from 'zod';
import { emptyCue } from '../cues/edits/arrange.ts';
import { valueId, type ValueRow } from '../cues/rows.ts';
import { defineEdit, insertRow } from '../edits/define-edit.ts';
import { contentsOfLook } from '../looks/resolve.ts';
import { contentsOfPalette } from '../palettes/resolve.ts';
import { refuse } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { Name, RowId, Time } from '../show/fields.ts';
import type { RowChange, Show } from '../show/show.ts';
import { plural } from '../words.ts';
import { freeListName } from './edits.ts';

const Things = z.object({
  /** Absent: after what they are. */
  name: Name.optional(),
  of: z
    .array(z.object({ kind: z.enum(['palette', 'look']), id: RowId }))
    .min(1, 'Say which palettes or looks.')
    .max(500, 'At most 500 cues are made at once.'),
  /** Of every cue. */
  fade_s: Time.default(2),
});

type Contents = Omit<ValueRow, 'id' | 'cueId'>[];

/** What a cue for it sets: values that follow it. */
function contentsOf(show: Show, kind: 'palette' | 'look', id: string): Contents | undefined {
  if (kind === 'look') return show.looks.has(id) ? contentsOfLook(show, id) : undefined;
  const palette = show.palettes.get(id);
  return palette && contentsOfPalette(show, palette);
}

/** Makes a list of which each cue is one of the given palettes, looks or effects. */
export const makeListOf = defineEdit({
  name: 'make-list-of',
  params: Things,
  roles: EDITORS,
  plan: (show, { name, of, fade_s }, { newId }) => {
    const listId = newId();
    const rows = of.map(({ kind, id }) => ({
      row: kind === 'look' ? show.looks.get(id) : show.palettes.get(id),
      contents: contentsOf(show, kind, id),
    }));
    const gone = rows.findIndex((r) => r.contents === undefined);
    if (gone >= 0)
      return refuse(
        'not-found',
        `The ${of[gone]?.kind} that was to be cue ${gone + 1} has been deleted meanwhile. No list was made.`,
      );
    const changes: RowChange[] = [];
    rows.forEach(({ row, contents = [] }, i) => {
      const cue = {
        ...emptyCue(newId(), listId, (i + 1) * 1000, row?.name),
        up_s: fade_s,
        down_s: fade_s,
      };
      changes.push(insertRow('cues', cue));
      for (const v of contents)
        changes.push(
          insertRow('values', {
            ...v,
            id: valueId(cue.id, v.fixtureId, v.attribute),
            cueId: cue.id,
          }),
        );
    });
    const called = freeListName(
      show,
      name ??
        rows
          .map((r) => r.row?.name)
          .slice(0, 3)
          .join(', '),
    );
    const number = numberAfter(show.lists.values());
    return {
      changes: [insertRow('lists', { id: listId, number, name: called, back_s: 2 }), ...changes],
      summary: `Made list ${number} “${called}” of ${plural(of.length, 'cue')}, each ${fade_s} s`,
    };
  },
});
