/** Change a cue's name, number, times, note or call; delete a cue without changing how the others look. */
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { cueAfter } from '../cues/tracking.ts';
import { refuse } from '../refusal.ts';
import { CueRow, RowId, valueId } from '../show/rows.ts';
import type { RowChange } from '../show/show.ts';
import { defineEdit, deleteRow, EDITORS, insertRow, plural, updateRow } from './edit.ts';

const Fields = CueRow.omit({ id: true, listId: true }).partial();
const Params = z.object({ id: RowId, set: Fields });
type Params = z.infer<typeof Params>;

const WORDS: Record<string, string> = { name: 'name', number: 'number', up_s: 'up time', down_s: 'down time', delay_s: 'delay', family_s: 'family times', note: 'note', call: 'call', follow_s: 'follow' };
const GONE = 'This cue has been deleted meanwhile. Nothing was changed.';

export const changeCue = defineEdit<Params>({
  name: 'change-cue',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const cue = show.cues.get(p.id);
    if (!cue) return refuse('not-found', GONE, { id: 'No such cue.' });
    const { number } = p.set;
    const clash = number === undefined ? undefined : show.cuesOf(cue.listId).find((c) => c.number === number && c.id !== cue.id);
    if (clash) return refuse('clash', `Cue ${formatCueNumber(clash.number)} exists already${clash.name ? ` (${clash.name})` : ''}.`, { number: 'This number is taken.' });
    const fields = Object.keys(p.set).map((k) => WORDS[k] ?? k);
    if (fields.length === 0) return refuse('invalid', 'Nothing to change was given.');
    return { changes: [updateRow('cues', cue, p.set)], summary: `Changed ${fields.join(' and ')} of cue ${formatCueNumber(cue.number)}` };
  },
});

const Delete = z.object({
  id: RowId,
  /** `keep`: what later cues tracked from it is written into the next cue. `drop`: it is let go on purpose. */
  tracked: z.enum(['keep', 'drop']).default('keep'),
});
type Delete = z.input<typeof Delete>;

export const deleteCue = defineEdit<Delete>({
  name: 'delete-cue',
  params: Delete,
  roles: EDITORS,
  plan: (show, params) => {
    const p = Delete.parse(params);
    const cue = show.cues.get(p.id);
    if (!cue) return refuse('not-found', 'This cue has been deleted already.', { id: 'No such cue.' });
    const next = cueAfter(show, cue.listId, cue.number);
    const changes: RowChange[] = [];
    let moved = 0;
    for (const [key, value] of show.valuesOf(cue.id)) {
      changes.push(deleteRow('values', value));
      if (p.tracked === 'drop' || !next || show.valuesOf(next.id).has(key)) continue;
      changes.push(insertRow('values', { ...value, id: valueId(next.id, value.fixtureId, value.attribute), cueId: next.id }));
      moved++;
    }
    changes.push(deleteRow('cues', cue));
    const kept = moved > 0 && next ? `; ${plural(moved, 'value')} that tracked on went into cue ${formatCueNumber(next.number)}` : '';
    return { changes, summary: `Deleted cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}${kept}` };
  },
});
