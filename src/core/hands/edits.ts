/** Hands are made, named, bound and deleted. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { numberAfter } from '../show/numbered.ts';
import { z } from 'zod';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import {
  AT_PLAYER,
  bindingKey,
  ControlId,
  DESK_PORT_PATTERN,
  HandAct,
  HandRow,
  MOST_BINDINGS,
  MOST_PAGES,
} from './rows.ts';
import { sayAct, sayControl } from './words.ts';

const Set = HandRow.omit({ id: true, number: true, bindings: true });

/** Why there is no such hand: a kind that its machine cannot hear, or a universe that is none. */
function whyNot(set: z.infer<typeof Set>): Refusal | undefined {
  if (set.at === 'player' && !AT_PLAYER.includes(set.kind))
    return refuse(
      'invalid',
      'The player’s machine hears MIDI and other desks; keys and gamepads are at a screen.',
      {
        kind: 'Not there.',
      },
    );
  if (set.kind !== 'desk') return undefined;
  if (set.at !== 'player')
    return refuse('invalid', 'Another desk is heard by the player’s machine, not by a screen.', {
      kind: 'Not here.',
    });
  return DESK_PORT_PATTERN.test(set.port)
    ? undefined
    : refuse('invalid', 'Say which universe is the desk: sacn/5, or artnet/0.0.4.', {
        port: 'Like sacn/5 or artnet/0.0.4.',
      });
}

export const setHand = defineEdit({
  name: 'set-hand',
  params: z.object({
    id: idOf('hands').optional(),
    set: Set,
    /** What the parts of a new hand do. */
    bindings: HandRow.shape.bindings
      .refine(
        (b) => Object.keys(b).length <= MOST_BINDINGS,
        `A hand does at most ${MOST_BINDINGS} things.`,
      )
      .optional(),
  }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'hands', p.id);
    if (isRefusal(old)) return old;
    const others = [...show.hands.values()].filter((h) => h.id !== old?.id);
    const same = others.find((h) => h.name.toLowerCase() === p.set.name.toLowerCase());
    if (same)
      return refuse('clash', `There is a hand “${same.name}” already.`, {
        name: 'This name is taken.',
      });
    const no = whyNot(p.set);
    if (no) return no;
    const row: HandRow = {
      ...p.set,
      id: old?.id ?? newId(),
      number: old?.number ?? numberAfter(others),
      bindings: old?.bindings ?? p.bindings ?? {},
    };
    return {
      changes: [old ? replaceRow('hands', old, row) : insertRow('hands', row)],
      summary: `${old ? 'Changed' : 'Made'} hand “${row.name}”`,
    };
  },
});

/** A control of a hand does something from now on, or nothing any more. */
export const bind = defineEdit({
  name: 'bind',
  params: z.object({
    hand: idOf('hands'),
    /** 0: on every page. */
    page: z.number().int().min(0).max(MOST_PAGES),
    control: ControlId,
    act: HandAct.nullable(),
  }),
  roles: EDITORS,
  plan: (show, { hand: id, page, control, act }) => {
    const hand = rowFor(show, 'hands', id);
    if (isRefusal(hand)) return hand;
    if (page > hand.pages.length)
      return refuse('invalid', `“${hand.name}” has no page ${page}.`, { page: 'No such page.' });
    const key = bindingKey(page, control);
    const old = hand.bindings[key];
    const { [key]: own, ...rest } = hand.bindings;
    void own;
    if (act === null)
      return old
        ? {
            changes: [updateRow('hands', hand, { bindings: rest })],
            summary: `Took ${sayControl(control)} of “${hand.name}” from ${sayAct(show, old) ?? 'what is gone'}`,
          }
        : refuse('nothing', 'It does nothing already.');
    const says = sayAct(show, act);
    if (says === undefined)
      return refuse('not-found', 'What it would do has been deleted meanwhile. Nothing was bound.');
    if (!old && Object.keys(rest).length >= MOST_BINDINGS)
      return refuse('limit', `A hand does at most ${MOST_BINDINGS} things.`);
    const before = old ? `, instead of ${sayAct(show, old) ?? 'what is gone'}` : '';
    return {
      changes: [updateRow('hands', hand, { bindings: { ...rest, [key]: act } })],
      summary: `Bound ${sayControl(control)} of “${hand.name}” to ${says}${before}`,
    };
  },
});

/** Deletes a hand with what its controls do. */
export const deleteHand = defineEdit({
  name: 'delete-hand',
  params: z.object({ id: idOf('hands') }),
  roles: EDITORS,
  plan: (show, { id }) => {
    const hand = rowFor(show, 'hands', id, 'already');
    return isRefusal(hand)
      ? hand
      : { changes: [deleteRow('hands', hand)], summary: `Deleted hand “${hand.name}”` };
  },
});
