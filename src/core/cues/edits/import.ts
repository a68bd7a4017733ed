/** Cues from a file: missing ones are made, those that are there get what the file says of them. */
import { wasDeleted } from '../../show/row-for.ts';
import { z } from 'zod';
import { CUE_NUMBER } from '../number.ts';
import { refuse } from '../../refusal.ts';
import { CueRow } from '../rows.ts';
import { idOf } from '../../show/fields.ts';
import type { RowChange } from '../../show/show.ts';
import { emptyCue } from './arrange.ts';
import { cueWith } from './change.ts';
import { standsStill } from './rules.ts';
import { defineEdit, insertRow, replaceRow } from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { plural } from '../../words.ts';
import { same } from '../../same.ts';

const { shape } = CueRow;
const Line = CueRow.pick({
  name: true,
  up_s: true,
  down_s: true,
  delay_s: true,
  follow_s: true,
  call: true,
  note: true,
})
  .partial()
  .extend({
    number: CUE_NUMBER,
    after_s: shape.after_s.nullable(),
    clock: shape.clock.nullable(),
    operatorNote: shape.operatorNote.nullable(),
    designerNote: shape.designerNote.nullable(),
  });
const Params = z.object({
  listId: idOf('lists'),
  cues: z.array(Line).min(1, 'There is nothing to take in.').max(10_000),
});
type Params = z.infer<typeof Params>;

/** Cues of a table into a list, with their calls. */
export const importCues = defineEdit({
  name: 'import-cues',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    if (!show.lists.has(p.listId)) return wasDeleted('lists');
    const known = new Map(show.cuesOf(p.listId).map((c) => [c.number, c]));
    const changes: RowChange[] = [];
    const counts = { made: 0, changed: 0 };
    for (const { number, ...set } of p.cues) {
      const old = known.get(number);
      const next = cueWith(old ?? emptyCue(newId(), p.listId, number), set);
      if (!old) {
        changes.push(insertRow('cues', next));
        counts.made++;
        known.set(number, next);
      } else if (!same(old, next)) {
        changes.push(replaceRow('cues', old, next));
        counts.changed++;
      }
    }
    if (changes.length === 0)
      return refuse('nothing', 'The list says all of this already; nothing was changed.');
    return (
      standsStill(show, p.listId, changes) ?? {
        changes,
        summary: `Took in a cue list: ${plural(counts.made, 'new cue')}, ${plural(counts.changed, 'cue')} changed`,
      }
    );
  },
});
