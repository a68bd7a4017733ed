/** Looks: recorded from what is held, tweaked, flattened, broken away for one cue, deleted with what they say kept. */
import { rowFor } from '../show/row-for.ts';
import { numberAfter, numberTaken } from '../show/numbered.ts';
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { groupOf, lookHolds, lookSlots } from './resolve.ts';
import { effectOf, levelOf } from './value.ts';
import { reachOf } from '../palettes/resolve.ts';
import { withFields } from '../show/fields-of.ts';
import { PLAY_S } from '../palettes/rows.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { LookRow } from './rows.ts';
import { FixtureNumber, Name, idOf } from '../show/fields.ts';
import { LookItem } from './rows.ts';
import type { ValueRow } from '../cues/rows.ts';
import { RecordedValue, slotKey } from '../cues/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';
import { faderHolding, firstFreeFader } from '../faders/edits.ts';
import { followed } from '../edits/follow.ts';

const RecordLook = z.object({
  /** An existing look is added to, or written anew. */
  id: idOf('looks').optional(),
  number: FixtureNumber.optional(),
  name: Name.optional(),
  /** What an operator holds … */
  values: z.array(RecordedValue).max(20_000).default([]),
  /** … or the parts themselves, instead. */
  items: z.array(LookItem).max(20_000).optional(),
  how: z.enum(['merge', 'replace']).default('merge'),
  /** A new one comes under the first fader that is free. */
  fader: z.boolean().default(false),
});
type RecordLook = z.input<typeof RecordLook>;

/**
 * Held values as the parts of a look: whole looks first, then palettes with all the units that follow them, then levels,
 * then effects; a selection that is a group stays that group, so that the look grows with it.
 */
export function itemsFrom(show: Show, values: readonly RecordedValue[]): LookItem[] {
  const looks = new Set<string>();
  const palettes = new Map<string, string[]>();
  const effects = new Map<string, string[]>();
  const levels: LookItem[] = [];
  const add = (map: Map<string, string[]>, id: string, member: string): void => {
    const list = map.get(id) ?? [];
    if (!list.includes(member)) list.push(member);
    map.set(id, list);
  };
  for (const v of values) {
    const inLook =
      v.look === undefined
        ? undefined
        : lookSlots(show, v.look).get(slotKey(v.fixtureId, v.attribute));
    if (v.look !== undefined && inLook) {
      looks.add(v.look);
      continue;
    }
    const palette = v.palette === undefined ? undefined : show.palettes.get(v.palette);
    const fixture = show.fixtures.get(v.fixtureId);
    if (palette && fixture && reachOf(show, palette, fixture).has(v.attribute))
      add(palettes, palette.id, v.fixtureId);
    else
      levels.push({
        kind: 'level',
        fixtureId: v.fixtureId,
        attribute: v.attribute,
        level: v.level,
        ...(v.fade_s === undefined ? {} : { fade_s: v.fade_s }),
        ...(v.delay_s === undefined ? {} : { delay_s: v.delay_s }),
      });
    if (v.effect) add(effects, v.effect.id, v.effect.group ?? v.fixtureId);
  }
  const members = (ids: string[]): string[] => {
    const group = groupOf(show, ids);
    return group === undefined ? ids : [group];
  };
  return [
    ...[...looks].map((look): LookItem => ({ kind: 'look', look })),
    ...[...palettes].map(([palette, ids]): LookItem => ({
      kind: 'palette',
      palette,
      members: members(ids),
    })),
    ...levels,
    ...[...effects].map(([effect, ids]): LookItem => ({
      kind: 'effect',
      effect,
      members: members(ids),
    })),
  ];
}

/** The old parts with the new ones over them: levels replace levels of their slot, the rest comes after. */
function merged(old: readonly LookItem[], items: readonly LookItem[]): LookItem[] {
  const levels = new Set(
    items.flatMap((i) => (i.kind === 'level' ? [slotKey(i.fixtureId, i.attribute)] : [])),
  );
  const same = (a: LookItem): boolean =>
    items.some(
      (b) =>
        (a.kind === 'look' && b.kind === 'look' && a.look === b.look) ||
        (a.kind === 'palette' &&
          b.kind === 'palette' &&
          a.palette === b.palette &&
          a.members.join() === b.members.join()) ||
        (a.kind === 'effect' &&
          b.kind === 'effect' &&
          a.effect === b.effect &&
          a.members.join() === b.members.join()),
    );
  return [
    ...old.filter((i) =>
      i.kind === 'level' ? !levels.has(slotKey(i.fixtureId, i.attribute)) : !same(i),
    ),
    ...items,
  ];
}

/** Keeps what is held as a look; an old number is written over. */
export const recordLook = defineEdit({
  name: 'record-look',
  params: RecordLook,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = p.id === undefined ? undefined : show.looks.get(p.id);
    if (p.id !== undefined && !old)
      return refuse(
        'not-found',
        'This look has been deleted meanwhile. Your values are kept in the programmer.',
      );
    if (p.values.some((v) => !show.fixtures.has(v.fixtureId)))
      return refuse(
        'not-found',
        'A fixture in the programmer has been deleted meanwhile. Nothing was recorded.',
      );
    const fresh =
      p.items ??
      itemsFrom(
        show,
        p.values.map((v) => (v.look === p.id ? stripLook(v) : v)),
      );
    if (fresh.length === 0)
      return refuse('nothing', 'Nothing is held; a look is made of what you hold.', {
        values: 'Nothing held.',
      });
    const items = p.how === 'merge' && old ? merged(old.items, fresh) : fresh;
    if (old && lookHolds(show, items, old.id)) {
      const by = items.flatMap((i) => (i.kind === 'look' ? [show.looks.get(i.look)] : []))[0];
      return refuse(
        'loop',
        `Look ${old.number} “${old.name}” would be in itself${by ? `, through look ${by.number} “${by.name}”` : ''}. Nothing was changed.`,
        { items: 'In itself.' },
      );
    }
    const number = old?.number ?? p.number ?? numberAfter(show.looks.values());
    const taken = numberTaken('Look', show.looks.values(), number, old?.id);
    if (taken) return taken;
    const row: LookRow = {
      ...(old ?? {}),
      id: old?.id ?? newId(),
      number,
      name: p.name ?? old?.name ?? `Look ${number}`,
      items,
    };
    const changes = followed(show, [old ? replaceRow('looks', old, row) : insertRow('looks', row)]);
    const fader =
      p.fader && !old
        ? faderHolding({ kind: 'look', id: row.id }, row.name, {
            id: newId(),
            number: firstFreeFader(show),
          })
        : undefined;
    if (fader) changes.push(insertRow('faders', fader));
    return {
      changes,
      summary: `${old ? 'Changed' : 'Recorded'} look ${number} “${row.name}”, ${plural(items.length, 'part')}${fader ? `, on fader ${fader.number}` : ''}`,
    };
  },
});

const stripLook = (v: RecordedValue): RecordedValue => {
  const next = { ...v };
  delete next.look;
  return next;
};

const Change = z.object({
  id: idOf('looks'),
  set: z.object({
    name: Name.optional(),
    number: FixtureNumber.optional(),
    /** Null: as all others. */
    play_s: LookRow.shape.play_s.nullable(),
  }),
});
type Change = z.infer<typeof Change>;

/** Changes a look's name, number, times or items. */
export const changeLook = defineEdit({
  name: 'change-look',
  params: Change,
  roles: EDITORS,
  plan: (show, p) => {
    const old = rowFor(show, 'looks', p.id);
    if (isRefusal(old)) return old;
    const taken = numberTaken('Look', show.looks.values(), p.set.number, p.id);
    if (taken) return taken;
    const next = withFields(old, p.set);
    return {
      changes: [replaceRow('looks', old, next)],
      summary:
        next.play_s === old.play_s
          ? `Look ${next.number} is “${next.name}”`
          : `Look ${next.number} “${next.name}” plays in ${next.play_s ?? PLAY_S} s`,
    };
  },
});

/** A value without its look, saying by itself what the look says now; palettes and effects in it stay references. */
function flat(show: Show, value: ValueRow): ValueRow {
  const slot =
    value.look === undefined
      ? undefined
      : lookSlots(show, value.look).get(slotKey(value.fixtureId, value.attribute));
  const next: ValueRow = { ...value, level: levelOf(show, value) };
  const effect = effectOf(show, value);
  delete next.look;
  delete next.palette;
  delete next.effect;
  if (slot?.palette !== undefined) next.palette = slot.palette;
  else if (!slot && value.palette !== undefined) next.palette = value.palette;
  if (effect) next.effect = effect;
  return next;
}

/** Cues and looks that use a look. */
export function lookUses(
  show: Show,
  id: string,
): { cueId?: string; label: string; values: number }[] {
  const counts = new Map<string, number>();
  for (const v of show.values.values())
    if (v.look === id) counts.set(v.cueId, (counts.get(v.cueId) ?? 0) + 1);
  const cues = [...counts]
    .flatMap(([cueId, values]) => {
      const cue = show.cues.get(cueId);
      return cue
        ? [
            {
              cueId,
              number: cue.number,
              label: `cue ${formatCueNumber(cue.number)}${cue.name ? ` ${cue.name}` : ''}`,
              values,
            },
          ]
        : [];
    })
    .sort((a, b) => a.number - b.number)
    .map(({ cueId, label, values }) => ({ cueId, label, values }));
  const looks = [...show.looks.values()]
    .filter((l) => l.items.some((i) => i.kind === 'look' && i.look === id))
    .map((l) => ({ label: `look ${l.number} ${l.name}`, values: 1 }));
  return [...cues, ...looks];
}

const Flatten = z.object({
  id: idOf('looks'),
  /** In this cue alone its values stand for themselves; without a cue the look's own parts lose their looks. */
  cueId: idOf('cues').optional(),
});
type Flatten = z.infer<typeof Flatten>;

/** Makes what a look takes from palettes and other looks its own levels. */
export const flattenLook = defineEdit({
  name: 'flatten-look',
  params: Flatten,
  roles: EDITORS,
  plan: (show, p) => {
    const look = rowFor(show, 'looks', p.id);
    if (isRefusal(look)) return look;
    if (p.cueId === undefined) {
      if (!look.items.some((i) => i.kind === 'look'))
        return refuse('nothing', `Look ${look.number} “${look.name}” holds no other look.`);
      return {
        changes: [updateRow('looks', look, { items: flatItems(show, look) })],
        summary: `Look ${look.number} “${look.name}” stands by itself, without other looks`,
      };
    }
    const cue = show.cues.get(p.cueId);
    const rows = cue ? [...show.valuesOf(cue.id).values()].filter((v) => v.look === p.id) : [];
    if (!cue || rows.length === 0)
      return refuse('not-found', `This cue does not use look ${look.number} “${look.name}”.`);
    return {
      changes: rows.map((v) => replaceRow('values', v, flat(show, v))),
      summary: `Cue ${formatCueNumber(cue.number)} has look ${look.number} “${look.name}” as ${plural(rows.length, 'value')} of its own`,
    };
  },
});

/** The same picture without other looks in it: palettes and effects stay references, in the order of the looks. */
function flatItems(show: Show, look: LookRow): LookItem[] {
  return look.items.flatMap((i): LookItem[] => {
    if (i.kind !== 'look') return [i];
    const inner = show.looks.get(i.look);
    return inner ? flatItems(show, inner) : [];
  });
}

const Own = z.object({ id: idOf('looks'), cueId: idOf('cues'), name: Name.optional() });
type Own = z.infer<typeof Own>;

/** Gives one cue a look of its own, a copy of the one that it shares. */
export const ownLook = defineEdit({
  name: 'own-look',
  params: Own,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const look = show.looks.get(p.id);
    const cue = show.cues.get(p.cueId);
    const rows = cue ? [...show.valuesOf(cue.id).values()].filter((v) => v.look === p.id) : [];
    if (!look || !cue || rows.length === 0)
      return refuse('not-found', 'This cue does not use this look.');
    const number = numberAfter(show.looks.values());
    const copy: LookRow = {
      ...look,
      id: newId(),
      number,
      name: p.name ?? `${look.name}, cue ${formatCueNumber(cue.number)}`.slice(0, 120),
    };
    delete copy.order;
    const changes: RowChange[] = [
      insertRow('looks', copy),
      ...rows.map((v) => replaceRow('values', v, { ...v, look: copy.id })),
    ];
    return {
      changes,
      summary: `Cue ${formatCueNumber(cue.number)} has a look of its own now: ${number} “${copy.name}”`,
    };
  },
});

const Delete = z.object({ id: idOf('looks'), uses: z.enum(['keep', 'remove']).default('keep') });
type Delete = z.input<typeof Delete>;

/** Deletes a look; what uses it keeps the levels, or loses them. */
export const deleteLook = defineEdit({
  name: 'delete-look',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const look = rowFor(show, 'looks', p.id, 'already');
    if (isRefusal(look)) return look;
    const rows = [...show.values.values()].filter((v) => v.look === p.id);
    const changes: RowChange[] = rows.map((v) =>
      p.uses === 'keep' ? replaceRow('values', v, flat(show, v)) : deleteRow('values', v),
    );
    for (const outer of show.looks.values()) {
      if (!outer.items.some((i) => i.kind === 'look' && i.look === p.id)) continue;
      const instead = p.uses === 'keep' ? look.items : [];
      const items = outer.items.flatMap((i): LookItem[] =>
        i.kind === 'look' && i.look === p.id ? instead : [i],
      );
      changes.push(updateRow('looks', outer, { items }));
    }
    changes.push(deleteRow('looks', look));
    const cues = new Set(rows.map((v) => v.cueId)).size;
    const done =
      p.uses === 'keep'
        ? `; ${plural(cues, 'cue')} keep what it said as values`
        : `; taken out of ${plural(cues, 'cue')}`;
    const what = cues === 0 ? '' : done;
    return { changes, summary: `Deleted look ${look.number} “${look.name}”${what}` };
  },
});
