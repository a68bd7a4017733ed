/** What is held becomes a list of its own, and comes under a fader with it: one step, and one undo. */
import { z } from 'zod';
import { faderHolding, firstFreeFader } from '../../faders/edits.ts';
import { refuse } from '../../refusal.ts';
import { EDITORS } from '../../roles.ts';
import { Name } from '../../show/fields.ts';
import type { RowChange } from '../../show/show.ts';
import { plural } from '../../words.ts';
import { defineEdit, insertRow } from '../../edits/define-edit.ts';
import { freeListName } from '../../lists/edits.ts';
import { numberAfter } from '../../show/numbered.ts';
import { valueId, CueRow, ValueRow } from '../rows.ts';
import { emptyCue } from './arrange.ts';
import { wrongValue } from './record.ts';

const Params = z.object({
  /** Of the list; taken already it is counted on. */
  name: Name,
  up_s: CueRow.shape.up_s.optional(),
  down_s: CueRow.shape.down_s.optional(),
  values: z.array(ValueRow.omit({ id: true, cueId: true })).max(100_000),
  /** Under the first fader that is free. */
  fader: z.boolean().default(false),
});

/** Makes a list with one cue of what is held, under a fader where that is wished. */
export const recordList = defineEdit({
  name: 'record-list',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    if (p.values.length === 0)
      return refuse('nothing', 'You hold nothing; a list begins with what you hold.', {
        values: 'Nothing held.',
      });
    const wrong = wrongValue(show, p.values);
    if (wrong) return wrong;
    const number = numberAfter(show.lists.values());
    const list = { id: newId(), number, name: freeListName(show, p.name), back_s: 2 };
    const up_s = p.up_s ?? 3;
    const cue = { ...emptyCue(newId(), list.id, 1000, p.name), up_s, down_s: p.down_s ?? up_s };
    const values = p.values.map((v): RowChange =>
      insertRow('values', {
        ...v,
        id: valueId(cue.id, v.fixtureId, v.attribute),
        cueId: cue.id,
      }),
    );
    const fader = p.fader
      ? faderHolding({ kind: 'list', id: list.id }, list.name, {
          id: newId(),
          number: firstFreeFader(show),
        })
      : undefined;
    return {
      changes: [
        insertRow('lists', list),
        insertRow('cues', cue),
        ...values,
        ...(fader ? [insertRow('faders', fader)] : []),
      ],
      summary: `Recorded list ${number} “${list.name}” with ${plural(values.length, 'value')}${fader ? `, on fader ${fader.number}` : ''}`,
    };
  },
});
