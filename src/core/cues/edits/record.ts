/** Record: put values into a cue, new or old. Only what is given is written; everything else goes on tracking. */
import { rowFor, wasDeleted } from '../../show/row-for.ts';
import { numberAfter } from '../../show/numbered.ts';
import { z } from 'zod';
import { cueCalled, cueFirst } from '../called.ts';
import { keepLooks, merged, saysTheSame } from '../keep-looks.ts';
import { CUE_NUMBER, formatCueNumber } from '../number.ts';
import { cueBefore, isComplete, trackedThere } from '../tracking.ts';
import { attributesOf, familyOf } from '../../rig/attributes.ts';
import { modeOf } from '../../fixtures/points.ts';
import { given } from '../../given.ts';
import { isRefusal, refuse, type Refusal } from '../../refusal.ts';
import { CueRow, slotKey, ValueRow, valueId } from '../rows.ts';
import type { PaletteRow } from '../../palettes/rows.ts';
import { RowId, idOf } from '../../show/fields.ts';
import type { RowChange, Show } from '../../show/show.ts';
import { emptyCue } from './arrange.ts';
import { sayCues } from './rules.ts';
import { same } from '../../same.ts';
import {
  defineEdit,
  deleteRow,
  insertRow,
  replaceRow,
  updateRow,
} from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { plural } from '../../words.ts';

/** What goes into a cue; a level of null lets go. */
const Recordable = ValueRow.omit({ id: true, cueId: true });
type Recordable = z.infer<typeof Recordable>;

const Params = z.object({
  listId: idOf('lists'),
  number: CUE_NUMBER,
  name: CueRow.shape.name.optional(),
  up_s: CueRow.shape.up_s.optional(),
  down_s: CueRow.shape.down_s.optional(),
  values: z.array(Recordable).max(100_000),
  /** `merge` adds to what the cue sets; `over` takes its place; `remove` takes these slots out of it. */
  how: z.enum(['merge', 'over', 'remove']).default('merge'),
  /** `track`: new values carry on until a later cue sets the slot. `only`: the next cue puts back what it showed. */
  mode: z.enum(['track', 'only']).default('track'),
  /** `update` refuses to make a new cue. */
  existing: z.enum(['may', 'must', 'must-not']).default('may'),
});

/** What is said to have been done with a cue that was there before. */
const AGAIN = { merge: 'Updated', over: 'Recorded over', remove: 'Updated' } as const;

/** Why these values cannot be written, if they cannot. */
export function wrongValue(show: Show, values: readonly Recordable[]): Refusal | undefined {
  for (const value of values) {
    const fixture = show.fixtures.get(value.fixtureId);
    if (!fixture)
      return refuse(
        'not-found',
        'A fixture in the programmer has been deleted meanwhile. Nothing was recorded; clear its values and record again.',
      );
    const mode = modeOf(show, fixture);
    if (!mode || !attributesOf(mode).includes(value.attribute))
      return refuse(
        'invalid',
        `Fixture ${fixture.number} has no ${value.attribute}. Nothing was recorded.`,
      );
    if (value.palette !== undefined && !show.palettes.has(value.palette))
      return refuse(
        'not-found',
        'A palette in the programmer has been deleted meanwhile. Apply another one, or set the values; nothing was recorded.',
      );
    if (value.look !== undefined && !show.looks.has(value.look))
      return refuse(
        'not-found',
        'A look in the programmer has been deleted meanwhile. Apply another one, or set the values; nothing was recorded.',
      );
    if (value.effect !== undefined && !show.effects.has(value.effect.id))
      return refuse(
        'not-found',
        'An effect in the programmer is not kept yet, or has been deleted. Keep it, or let go of it, and record again; nothing was recorded.',
      );
  }
  return undefined;
}

/** Writes what is held into a cue, new or old; refused where nothing would change. */
export const recordCue = defineEdit({
  name: 'record-cue',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    if (!show.lists.has(p.listId))
      return wasDeleted('lists', 'meanwhile', { listId: 'Unknown list.' });
    const old = show.cuesOf(p.listId).find((c) => c.number === p.number);
    const label = cueCalled(show, { listId: p.listId, number: p.number });
    const first = cueFirst(show, { listId: p.listId, number: p.number });
    if (!old && (p.existing === 'must' || p.how === 'remove'))
      return refuse(
        'not-found',
        `There is no ${label} to ${p.how === 'remove' ? 'take these out of' : 'update'}. Your values are kept in the programmer.`,
        { number: 'No such cue.' },
      );
    if (old && p.existing === 'must-not')
      return refuse(
        'clash',
        `${first} exists already${old.name ? ` (${old.name})` : ''}. Your values are kept in the programmer.`,
        { number: 'This number is taken.' },
      );
    const wrong = wrongValue(show, p.values);
    if (wrong) return wrong;

    const times = given({ up_s: p.up_s, down_s: p.down_s });
    const cue: CueRow = old
      ? { ...old, ...given({ name: p.name }), ...times }
      : {
          ...emptyCue(newId(), p.listId, p.number, p.name ?? ''),
          ...given({ down_s: p.up_s }),
          ...times,
        };
    const changes: RowChange[] = [];
    if (!old) changes.push(insertRow('cues', cue));
    else if (p.name !== undefined || p.up_s !== undefined || p.down_s !== undefined)
      changes.push(updateRow('cues', old, cue));

    const set = old ? show.valuesOf(old.id) : new Map<string, ValueRow>();
    const complete = isComplete(show, cue);
    const written =
      p.how === 'remove' ? removed(p.values, set) : valuesInto(show, p, cue, set, complete);
    changes.push(...written);
    if (p.how === 'over') {
      const named = new Set(p.values.map((v) => slotKey(v.fixtureId, v.attribute)));
      for (const [key, v] of set) if (!named.has(key)) changes.push(deleteRow('values', v));
    }
    if (changes.length === 0)
      return refuse(
        'nothing',
        p.how === 'remove'
          ? `${first} sets none of these; nothing was changed.`
          : `${first} shows all of this already; nothing was written.`,
      );
    // In a cue that is complete as it stands, a slot that is set nowhere else in it is let go from here on: that is meant.
    const back = p.mode === 'only' ? keepLooks(show, p.listId, changes, new Set([cue.id])) : [];
    const only = p.mode === 'only' ? ', this cue only' : '';
    const called = cueCalled(show, cue);
    if (p.how === 'remove')
      return {
        changes: merged([...changes, ...back]),
        summary: `Took ${plural(written.length, 'value')} out of ${called}${only}`,
      };
    return {
      changes: merged([...changes, ...back]),
      summary: `${old ? AGAIN[p.how] : 'Recorded'} ${called} with ${plural(written.length, 'value')}${only}`,
    };
  },
});

function removed(values: readonly Recordable[], set: ReadonlyMap<string, ValueRow>): RowChange[] {
  const keys = new Set(values.map((v) => slotKey(v.fixtureId, v.attribute)));
  return [...keys].flatMap((key) => {
    const row = set.get(key);
    return row ? [deleteRow('values', row)] : [];
  });
}

function valuesInto(
  show: Show,
  p: z.infer<typeof Params>,
  cue: CueRow,
  set: ReadonlyMap<string, ValueRow>,
  complete: boolean,
): RowChange[] {
  const seen = new Set<string>();
  const written: RowChange[] = [];
  // What tracks into the cue, found once for many values.
  const before = cueBefore(show, p.listId, p.number);
  const state =
    before === undefined || complete
      ? undefined
      : trackedThere(
          show,
          p.listId,
          before.number,
          p.values.map((v) => slotKey(v.fixtureId, v.attribute)),
        );
  for (const value of p.values) {
    const key = slotKey(value.fixtureId, value.attribute);
    if (seen.has(key)) continue;
    seen.add(key);
    const part =
      value.part !== undefined && cue.parts?.some((x) => x.number === value.part)
        ? { part: value.part }
        : {};
    const { part: asked, ...plain } = value;
    void asked;
    const row: ValueRow = {
      id: valueId(cue.id, value.fixtureId, value.attribute),
      cueId: cue.id,
      ...plain,
      ...part,
    };
    const old = set.get(key);
    if (old) {
      const next =
        old.part !== undefined && row.part === undefined ? { ...row, part: old.part } : row;
      // Put back as it was taken, it is no change.
      if (!same(old, next)) written.push(replaceRow('values', old, next));
      continue;
    }
    // A value equal to what tracks here anyway is no change, and a cue stores only what changes.
    const tracks = state?.get(key)?.value;
    if (value.level === null ? !tracks : saysTheSame(tracks, row) && !beginsAnew(show, row))
      continue;
    written.push(insertRow('values', row));
  }
  return written;
}

/** An effect of so many rounds has come to its end by the next cue: said again, it runs again. */
const beginsAnew = (show: Show, { effect }: ValueRow): boolean =>
  effect !== undefined && show.effects.get(effect.id)?.rounds !== undefined;

const Remove = z.object({
  cueId: idOf('cues'),
  slots: z
    .array(z.object({ fixtureId: idOf('fixtures'), attribute: z.string().min(1).max(60) }))
    .min(1)
    .max(100_000),
});
type Remove = z.infer<typeof Remove>;

/** Takes set values out of a cue, so that what came before tracks through. */
export const removeFromCue = defineEdit({
  name: 'remove-from-cue',
  params: Remove,
  roles: EDITORS,
  plan: (show, p) => {
    const cue = rowFor(show, 'cues', p.cueId);
    if (isRefusal(cue)) return cue;
    const set = show.valuesOf(cue.id);
    const changes = p.slots.flatMap((s) => {
      const row = set.get(slotKey(s.fixtureId, s.attribute));
      return row ? [deleteRow('values', row)] : [];
    });
    if (changes.length === 0)
      return refuse(
        'not-found',
        `${cueFirst(show, { listId: cue.listId, number: cue.number })} sets none of these.`,
      );
    return {
      changes,
      summary: `Took ${plural(changes.length, 'value')} out of ${cueCalled(show, { listId: cue.listId, number: cue.number })}`,
    };
  },
});

const Source = z.object({
  listId: idOf('lists'),
  /** The cue that is looked at. */
  number: CUE_NUMBER,
  values: z.array(Recordable).min(1, 'You hold nothing that is not recorded.').max(100_000),
  /** A value that follows a palette goes into the palette, or into the cue as a value of its own. */
  palettes: z.enum(['palette', 'cue']).default('palette'),
});
type Source = z.input<typeof Source>;

/** The palette that a value goes back into; undefined where it goes into its cue. */
function paletteFor(
  value: Recordable,
  old: ValueRow | undefined,
  paletteOf: (id: string) => PaletteRow | undefined,
): PaletteRow | undefined {
  if (old?.palette === undefined || value.palette !== undefined || value.level === null)
    return undefined;
  const palette = paletteOf(old.palette);
  return palette?.family === familyOf(value.attribute) ? palette : undefined;
}

/** A palette that says a level for one fixture's attribute. */
const withLevel = (
  palette: PaletteRow,
  { fixtureId, attribute }: Recordable,
  level: number,
): PaletteRow => ({
  ...palette,
  fixtures: {
    ...palette.fixtures,
    [fixtureId]: { ...palette.fixtures[fixtureId], [attribute]: level },
  },
});

/** A value in a cue, with the times that it had there where it brings none; its part stays the cue's. */
function valueInto(cue: CueRow, value: Recordable, old: ValueRow | undefined): RowChange {
  const id = valueId(cue.id, value.fixtureId, value.attribute);
  const after = given({
    ...value,
    id,
    cueId: cue.id,
    fade_s: value.fade_s ?? old?.fade_s,
    delay_s: value.delay_s ?? old?.delay_s,
    part: old?.part,
  });
  return { table: 'values', id, before: old ?? null, after };
}

/** Update at the source: each value goes back to the cue that set it, or to the palette that it follows. */
export const updateSource = defineEdit({
  name: 'update-source',
  params: Source,
  roles: EDITORS,
  plan: (show, p) => {
    const wrong = wrongValue(show, p.values);
    if (wrong) return wrong;
    const here = show.cuesOf(p.listId).find((c) => c.number === p.number);
    if (!here)
      return refuse(
        'not-found',
        `There is no ${cueCalled(show, { listId: p.listId, number: p.number })}. Your values are kept in the programmer.`,
        { number: 'No such cue.' },
      );
    const changes: RowChange[] = [];
    const cues = new Map<string, CueRow>();
    const palettes = new Map<string, PaletteRow>();
    const there = trackedThere(
      show,
      p.listId,
      p.number,
      p.values.map((v) => slotKey(v.fixtureId, v.attribute)),
    );
    for (const value of p.values) {
      const key = slotKey(value.fixtureId, value.attribute);
      const cue = there.get(key)?.cue ?? here;
      const old = show.valuesOf(cue.id).get(key);
      const palette =
        p.palettes === 'palette'
          ? paletteFor(value, old, (id) => palettes.get(id) ?? show.palettes.get(id))
          : undefined;
      if (palette && value.level !== null) {
        palettes.set(palette.id, withLevel(palette, value, value.level));
        continue;
      }
      cues.set(cue.id, cue);
      changes.push(valueInto(cue, value, old));
    }
    for (const palette of palettes.values()) {
      const before = show.palettes.get(palette.id);
      if (before) changes.push(updateRow('palettes', before, palette));
    }
    const inOrder = [...cues.values()].sort((a, b) => a.number - b.number);
    const into = [
      ...(inOrder.length > 0 ? [sayCues(inOrder, show)] : []),
      ...[...palettes.values()].map((x) => `palette ${x.number} “${x.name}”`),
    ];
    return {
      changes: merged(changes),
      summary: `Updated ${plural(p.values.length, 'value')} where ${p.values.length === 1 ? 'it comes' : 'they come'} from: ${into.join(', ')}`,
    };
  },
});

const Own = z.object({ cueId: idOf('cues'), paletteId: RowId, name: CueRow.shape.name.optional() });
type Own = z.infer<typeof Own>;

/** This cue's use of a palette becomes a palette of its own, in its place and with its times: the other uses keep theirs. */
export const ownPalette = defineEdit({
  name: 'own-palette',
  params: Own,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const palette = show.palettes.get(p.paletteId);
    const cue = show.cues.get(p.cueId);
    const rows = cue
      ? [...show.valuesOf(cue.id).values()].filter((v) => v.palette === p.paletteId)
      : [];
    if (!palette || !cue || rows.length === 0)
      return refuse('not-found', 'This cue does not use this palette.');
    const number = numberAfter(show.palettes.values());
    const copy: PaletteRow = {
      ...palette,
      id: newId(),
      number,
      name: (p.name ?? '') || `${palette.name}, cue ${formatCueNumber(cue.number)}`.slice(0, 120),
    };
    delete copy.order;
    const uses: RowChange[] = rows.map((v) => updateRow('values', v, { palette: copy.id }));
    const after: RowChange[] = [insertRow('palettes', copy), ...uses];
    return {
      changes: after,
      summary: `Cue ${formatCueNumber(cue.number)} has a palette of its own now: ${number} “${copy.name}”`,
    };
  },
});
