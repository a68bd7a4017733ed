/** Block: all that a cue shows becomes set in it, and nothing upstream reaches past it. Unblock takes back what would track anyway. */
import { z } from 'zod';
import { saysTheSame, valueIn } from '../keep-looks.ts';
import { cueBefore, stateAt } from '../tracking.ts';
import { isRefusal, refuse } from '../../refusal.ts';
import { idOf } from '../../show/fields.ts';
import { slotKey, type CueRow } from '../rows.ts';
import type { RowChange } from '../../show/show.ts';
import { cuesById, sayCues } from './rules.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { plural } from '../../words.ts';

const Params = z.object({
  ids: z.array(idOf('cues')).min(1, 'Choose cues first.').max(2000),
  on: z.boolean(),
});
type Params = z.infer<typeof Params>;

/** Makes cues complete (all that tracks into them is set there), or takes what only repeats it out again. */
export const blockCue = defineEdit({
  name: 'block-cue',
  params: Params,
  roles: EDITORS,
  plan: (show, { ids, on }) => {
    const cues = cuesById(show, ids);
    if (isRefusal(cues)) return cues;
    const concerned = cues.filter((c) => (c.block === true) !== on);
    if (concerned.length === 0)
      return refuse(
        'nothing',
        `${sayCues(cues, show)} ${cues.length === 1 ? 'is' : 'are'} ${on ? 'blocked already' : 'not blocked'}.`.replace(
          /^c/,
          'C',
        ),
      );
    let values = 0;
    const changes = concerned.flatMap((cue): RowChange[] => {
      const next: CueRow = { ...cue };
      if (on) next.block = true;
      else delete next.block;
      const set = show.valuesOf(cue.id);
      const rows: RowChange[] = [];
      if (on) {
        for (const [key, { value }] of stateAt(show, cue.listId, cue.number))
          if (!set.has(key)) rows.push(insertRow('values', valueIn(cue, value)));
      } else {
        const before = cueBefore(show, cue.listId, cue.number);
        const upstream = before
          ? stateAt(show, cue.listId, before.number)
          : new Map<string, never>();
        // What tracks here from above and was let go of by the block is let go in so many words now.
        for (const [key, { value }] of upstream)
          if (!set.has(key))
            rows.push(insertRow('values', { ...valueIn(cue, value), level: null }));
        for (const [, v] of set) {
          const own = v.fade_s !== undefined || v.delay_s !== undefined || v.part !== undefined;
          const tracks = upstream.get(slotKey(v.fixtureId, v.attribute))?.value;
          if (!own && (v.level === null ? tracks === undefined : saysTheSame(tracks, v)))
            rows.push(deleteRow('values', v));
        }
      }
      values += rows.length;
      return [replaceRow('cues', cue, next), ...rows];
    });
    return {
      changes,
      summary: on
        ? `Blocked ${sayCues(concerned, show)}: ${plural(values, 'value')} that tracked ${values === 1 ? 'is' : 'are'} set there now, and nothing upstream reaches past`
        : `Unblocked ${sayCues(concerned, show)}: ${plural(values, 'value')} track again`,
    };
  },
});
