/** Cue lists: make one, change how it plays, delete it with its cues. */
import { rowFor } from '../show/row-for.ts';
import { numberAfter } from '../show/numbered.ts';
import { withFields } from '../show/fields-of.ts';
import { deletionOf } from '../show/deletion.ts';
import { z } from 'zod';
import { isRefusal, refuse } from '../refusal.ts';
import { ListRow } from './rows.ts';
import { LIMITS, Name, idOf } from '../show/fields.ts';
import type { CueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';
import { standsStill } from '../cues/edits/rules.ts';
import { defineEdit, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';

const listNamed = (show: Show, name: string): ListRow | undefined =>
  [...show.lists.values()].find((l) => l.name.toLowerCase() === name.toLowerCase());

/** The name, or where a list has it, with the first number after it that none has. */
export function freeListName(show: Show, name: string): string {
  const wanted = name.slice(0, LIMITS.nameLength - 4);
  let free = wanted;
  for (let n = 2; listNamed(show, free); n++) free = `${wanted} ${n}`;
  return free;
}

const Make = z.object({
  name: Name,
  set: ListRow.omit({ id: true, number: true, name: true }).partial().default({}),
});
type Make = z.input<typeof Make>;

/** Makes an empty list, with the next number. */
export const makeList = defineEdit({
  name: 'make-list',
  params: Make,
  roles: EDITORS,
  plan: (show, { name, set }, { newId }) => {
    const same = listNamed(show, name);
    if (same)
      return refuse('clash', `There is a list “${same.name}” already.`, {
        name: 'This name is taken.',
      });
    const number = numberAfter(show.lists.values());
    return {
      changes: [insertRow('lists', { id: newId(), number, name, back_s: 2, ...set })],
      summary: `Made list ${number} “${name}”`,
    };
  },
});

const { shape } = ListRow;
const Change = z.object({
  id: idOf('lists'),
  set: ListRow.omit({ id: true, number: true }).partial().extend({
    tracking: shape.tracking.nullable(),
    intensity: shape.intensity.nullable(),
    priority: shape.priority.nullable(),
    release_s: shape.release_s.nullable(),
    keepsThroughRelease: shape.keepsThroughRelease.nullable(),
    prePosition: shape.prePosition.nullable(),
    atEnd: shape.atEnd.nullable(),
    chase: shape.chase.nullable(),
    time: shape.time.nullable(),
  }),
});
type Change = z.infer<typeof Change>;

/** Changes how a list plays: name, priority, what it masters, its times or steps. */
export const changeList = defineEdit({
  name: 'change-list',
  params: Change,
  roles: EDITORS,
  plan: (show, p) => {
    const list = rowFor(show, 'lists', p.id);
    if (isRefusal(list)) return list;
    const changes = [replaceRow('lists', list, withFields(list, p.set))];
    return (
      standsStill(show, list.id, changes) ?? {
        changes,
        summary: `Changed list “${p.set.name ?? list.name}”`,
      }
    );
  },
});

/** Cues whose actions name this list, fader or sound. */
const actingOn = (show: Show, id: string): CueRow[] =>
  [...show.cues.values()].filter((c) =>
    c.actions?.some(
      (a) =>
        ('list' in a && a.list === id) ||
        ('fader' in a && a.fader === id) ||
        ('sound' in a && a.sound === id),
    ),
  );

/** What a deletion leaves pointing at nothing, for its summary. */
export const pointAtNothing = (show: Show, id: string): string => {
  const cues = actingOn(show, id).length;
  return cues > 0 ? `; actions of ${plural(cues, 'cue')} point at nothing now` : '';
};

const Delete = z.object({ id: idOf('lists') });
type Delete = z.infer<typeof Delete>;

/** Deletes a list with its cues; the last one of a show stays. */
export const deleteList = defineEdit({
  name: 'delete-list',
  params: Delete,
  roles: EDITORS,
  plan: (show, { id }) => {
    const list = rowFor(show, 'lists', id, 'already');
    if (isRefusal(list)) return list;
    if (show.lists.size === 1)
      return refuse('last', 'A show has at least one cue list: make another one first.');
    const cues = show.cuesOf(id);
    const faders = [...show.faders.values()].filter((f) => f.holds.id === id);
    const acting = actingOn(show, id).filter((c) => c.listId !== id);
    return {
      changes: deletionOf(show, 'lists', new Set([id])),
      summary: `Deleted list “${list.name}” with ${plural(cues.length, 'cue')}${faders.length > 0 ? ` and ${plural(faders.length, 'fader')}` : ''}${acting.length > 0 ? `; actions of ${plural(acting.length, 'cue')} point at nothing now` : ''}`,
    };
  },
});
