/** What goes alongside the light of a track: actions put at a moment of it, and led along it. */
import { wasDeleted } from '../show/row-for.ts';
import { z } from 'zod';
import { actionWords } from '../cues/action-words.ts';
import { emptyCue } from '../cues/edits/arrange.ts';
import { formatCueNumber, numbersBetween } from '../cues/number.ts';
import { CueAction, type CueRow } from '../cues/rows.ts';
import { capital } from '../words.ts';
import { defineEdit, deleteRow, insertRow, updateRow } from '../edits/define-edit.ts';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import type { RowChange, Show } from '../show/show.ts';
import { formatMoment, toMillisecond } from './moment.ts';
import { Moment } from './rows.ts';
import { timedCues, type TimedCue } from './timed.ts';

/** Nearer than this two moments are one. */
const NEAR_S = 0.0005;
const MOST_ACTIONS = 32;
const NAME_LETTERS = 60;

const isAt =
  (at_s: number) =>
  (cue: TimedCue): boolean =>
    Math.abs(cue.at_s - at_s) < NEAR_S;

/** The number of a cue that comes at a moment: right after the one that comes before it. */
function numberAt(show: Show, list: string, at_s: number): number | Refusal {
  const timed = timedCues(show, list);
  const before = timed.filter((c) => c.at_s <= at_s).at(-1);
  const all = show.cuesOf(list);
  const first = timed[0]?.number ?? Infinity;
  const low = before?.number ?? all.filter((c) => c.number < first).at(-1)?.number ?? 0;
  const high = all.find((c) => c.number > low)?.number;
  const [number] = numbersBetween(low, high, 1) ?? [];
  return (
    number ??
    refuse(
      'limit',
      `There is no number left between ${formatCueNumber(low)} and ${formatCueNumber(high ?? 0)}: renumber there first. Nothing was changed.`,
    )
  );
}

/** An action at a moment: with the cue that is there, or with one of its own that sets no light. */
function putAt(
  show: Show,
  list: string,
  at_s: number,
  action: CueAction,
  newId: () => string,
): RowChange | Refusal {
  const there = timedCues(show, list).find(isAt(at_s));
  if (there) {
    if ((there.actions?.length ?? 0) >= MOST_ACTIONS)
      return refuse('limit', `A cue has at most ${MOST_ACTIONS} actions. Nothing was changed.`);
    return updateRow('cues', there, { actions: [...(there.actions ?? []), action] });
  }
  if (show.lists.get(list)?.tracking === false)
    return refuse(
      'invalid',
      'The cues of this list do not track: one without light would put out what is lit. Put the action with a cue that is there.',
    );
  const number = numberAt(show, list, at_s);
  if (isRefusal(number)) return number;
  const name = capital(actionWords(show, action)).slice(0, NAME_LETTERS);
  return insertRow('cues', {
    ...emptyCue(newId(), list, number, name),
    up_s: 0,
    down_s: 0,
    at_s,
    actions: [action],
  });
}

export const putAction = defineEdit({
  name: 'put-action',
  params: z.object({ list: idOf('lists'), at_s: Moment, action: CueAction }),
  roles: EDITORS,
  plan: (show, { list, at_s: at, action }, { newId }) => {
    if (!show.lists.has(list)) return wasDeleted('lists');
    const at_s = toMillisecond(at);
    const change = putAt(show, list, at_s, action, newId);
    return isRefusal(change)
      ? change
      : {
          changes: [change],
          summary: `At ${formatMoment(at_s)}: ${actionWords(show, action)}`,
        };
  },
});

/** A cue of its own for one action, as they are made here: it goes along. */
const isForIt = (show: Show, cue: CueRow): boolean =>
  cue.actions?.length === 1 && show.valuesOf(cue.id).size === 0 && cue.call === '';

export const moveAction = defineEdit({
  name: 'move-action',
  params: z.object({
    cue: idOf('cues'),
    /** Which of the cue's actions, from 0. */
    index: z
      .number()
      .int()
      .min(0)
      .max(MOST_ACTIONS - 1),
    at_s: Moment,
  }),
  roles: EDITORS,
  plan: (show, { cue: id, index, at_s: to }, { newId }) => {
    const cue = show.cues.get(id);
    const action = cue?.actions?.[index];
    if (!cue || !action)
      return refuse('not-found', 'This action has been taken off meanwhile. Nothing was changed.');
    const at_s = toMillisecond(to);
    if (cue.at_s !== undefined && isAt(at_s)({ ...cue, at_s: cue.at_s }))
      return refuse('nothing', 'It comes there already.');
    const summary = `At ${formatMoment(at_s)}, and not ${cue.at_s === undefined ? `with LX ${formatCueNumber(cue.number)}` : `at ${formatMoment(cue.at_s)}`}: ${actionWords(show, action)}`;
    const there = timedCues(show, cue.listId).find(isAt(at_s));
    if (isForIt(show, cue) && !there)
      return { changes: [updateRow('cues', cue, { at_s })], summary };
    const put = putAt(show, cue.listId, at_s, action, newId);
    if (isRefusal(put)) return put;
    const rest = cue.actions?.filter((_, i) => i !== index) ?? [];
    const left = isForIt(show, cue)
      ? deleteRow('cues', cue)
      : updateRow('cues', cue, { actions: rest });
    return { changes: [left, put], summary };
  },
});
