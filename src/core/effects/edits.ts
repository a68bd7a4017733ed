/** Effects of the show: made, changed under the cues that run them, deleted with their levels kept. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { numberAfter, numberTaken } from '../show/numbered.ts';
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { isFamilyLane } from './lanes.ts';
import { EFFECT_LIBRARY } from './library.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { baseOf, KNOWN_ATTRIBUTES } from '../rig/attributes.ts';
import { EffectRow } from './rows.ts';
import { idOf } from '../show/fields.ts';
import type { ValueRow } from '../cues/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';
import { followed } from '../edits/follow.ts';

const SetEffect = z.object({
  id: idOf('effects').optional(),
  /** The id that a new one gets: that under which it was tried. */
  as: idOf('effects').optional(),
  set: EffectRow.omit({ id: true, number: true }).extend({
    number: EffectRow.shape.number.optional(),
  }),
});
type SetEffect = z.infer<typeof SetEffect>;

/** Makes or changes an effect: its lanes, units and how it runs. */
export const setEffect = defineEdit({
  name: 'set-effect',
  params: SetEffect,
  roles: EDITORS,
  plan: (show, { id, as, set }, { newId }) => {
    const old = oldRowFor(show, 'effects', id);
    if (isRefusal(old)) return old;
    if (as !== undefined && show.effects.has(as))
      return refuse('clash', 'This effect has been kept already.');
    const number = set.number ?? old?.number ?? numberAfter(show.effects.values());
    const taken = numberTaken('Effect', show.effects.values(), number, id);
    if (taken) return taken;
    const unknown = set.tracks.find(
      (t) =>
        !isFamilyLane(t) &&
        !KNOWN_ATTRIBUTES.includes(baseOf(t.attribute)) &&
        ![...show.types.values()].some((type) =>
          type.modes.some((m) => m.channels.some((c) => c.attribute === t.attribute)),
        ),
    );
    if (unknown)
      return refuse('invalid', `No unit has “${unknown.attribute}”.`, {
        tracks: 'Unknown attribute.',
      });
    const twice = set.tracks.find(
      (t, i) => set.tracks.findIndex((o) => o.attribute === t.attribute) !== i,
    );
    if (twice)
      return refuse(
        'invalid',
        `“${twice.attribute}” is in this effect twice: one track for each attribute.`,
        { tracks: 'Twice.' },
      );
    const waving = set.tracks.find((t) => isFamilyLane(t) && t.wave !== 'steps');
    if (waving)
      return refuse(
        'invalid',
        `The lane of the whole ${waving.attribute} goes from palette to palette: it needs steps.`,
        { tracks: 'Steps are needed.' },
      );
    const gone = set.tracks
      .flatMap((t) => t.steps ?? [])
      .find((s) => s.palette !== undefined && !show.palettes.has(s.palette));
    if (gone)
      return refuse('not-found', 'A palette that a step goes to has been deleted meanwhile.', {
        tracks: 'A palette is gone.',
      });
    if (set.tracks.some((t) => t.wave === 'steps' && !t.steps))
      return refuse('invalid', 'A track of steps needs its steps.', { tracks: 'No steps.' });
    const row: EffectRow = { ...set, number, id: old?.id ?? as ?? newId() };
    const uses = old ? effectUses_(show, old.id).length : 0;
    return {
      changes: followed(show, [old ? replaceRow('effects', old, row) : insertRow('effects', row)]),
      summary: `${old ? 'Changed' : 'Made'} effect ${number} “${row.name}”${uses > 0 ? `, in ${plural(uses, 'cue')}` : ''}`,
    };
  },
});

/** Cues and looks that run an effect. */
function effectUses_(show: Show, id: string): { label: string; values: number }[] {
  const counts = new Map<string, number>();
  for (const v of show.values.values())
    if (v.effect?.id === id) counts.set(v.cueId, (counts.get(v.cueId) ?? 0) + 1);
  return [...counts]
    .flatMap(([cueId, values]) => {
      const cue = show.cues.get(cueId);
      return cue
        ? [
            {
              number: cue.number,
              label: `${formatCueNumber(cue.number)}${cue.name ? ` ${cue.name}` : ''}`,
              values,
            },
          ]
        : [];
    })
    .sort((a, b) => a.number - b.number);
}
/** Where an effect is used, in words: cues and looks. */
export const effectUses = (show: Show, id: string): string[] => [
  ...effectUses_(show, id).map((u) => u.label),
  ...[...show.looks.values()]
    .filter((l) => l.items.some((i) => i.kind === 'effect' && i.effect === id))
    .map((l) => `look ${l.number} ${l.name}`),
];

const Delete = z.object({ id: idOf('effects') });
type Delete = z.infer<typeof Delete>;

/** Deletes an effect; cues that run it keep their levels. */
export const deleteEffect = defineEdit({
  name: 'delete-effect',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const effect = rowFor(show, 'effects', p.id, 'already');
    if (isRefusal(effect)) return effect;
    const uses = effectUses_(show, p.id).length;
    const changes: RowChange[] = [];
    for (const v of show.values.values()) {
      if (v.effect?.id !== p.id) continue;
      const next: ValueRow = { ...v };
      delete next.effect;
      changes.push(replaceRow('values', v, next));
    }
    for (const look of show.looks.values())
      if (look.items.some((i) => i.kind === 'effect' && i.effect === p.id))
        changes.push(
          updateRow('looks', look, {
            items: look.items.filter((i) => i.kind !== 'effect' || i.effect !== p.id),
          }),
        );
    changes.push(deleteRow('effects', effect));
    return {
      changes,
      summary: `Deleted effect ${effect.number} “${effect.name}”${uses > 0 ? `; ${plural(uses, 'cue')} keep the levels without it` : ''}`,
    };
  },
});

const Start = z.object({});
type Start = z.infer<typeof Start>;

/** The effects that ship with Wingman, where the show has none of the name. */
export const addStandardEffects = defineEdit({
  name: 'add-standard-effects',
  params: Start,
  roles: EDITORS,
  plan: (show, _, { newId }) => {
    const known = new Set([...show.effects.values()].map((e) => e.name.toLowerCase()));
    const fresh = EFFECT_LIBRARY.filter((e) => !known.has(e.name.toLowerCase()));
    if (fresh.length === 0) return refuse('nothing', 'All of them are in this show already.');
    const first = numberAfter(show.effects.values());
    return {
      changes: fresh.map((e, i) => insertRow('effects', { ...e, id: newId(), number: first + i })),
      summary: `Added ${plural(fresh.length, 'effect')}: ${fresh.map((e) => e.name).join(', ')}`,
    };
  },
});
