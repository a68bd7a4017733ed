/** Record: put values into a cue, new or old. Only what is given is written; everything else goes on tracking. */
import { z } from 'zod';
import { CUE_NUMBER, formatCueNumber } from '../cues/number.ts';
import { cueAfter, trackedAt } from '../cues/tracking.ts';
import { attributesOf } from '../rig/attributes.ts';
import { modeOf } from '../rig/addresses.ts';
import { refuse } from '../refusal.ts';
import { CueRow, RowId, slotKey, ValueRow, valueId } from '../show/rows.ts';
import type { RowChange } from '../show/show.ts';
import { same } from '../show/undo.ts';
import { defineEdit, deleteRow, EDITORS, insertRow, plural, updateRow } from './edit.ts';

const RecordedValue = ValueRow.pick({ fixtureId: true, attribute: true, level: true, palette: true, look: true, effect: true, fade_s: true, delay_s: true });

const Params = z.object({
  listId: RowId,
  number: CUE_NUMBER,
  name: CueRow.shape.name.optional(),
  up_s: CueRow.shape.up_s.optional(),
  down_s: CueRow.shape.down_s.optional(),
  values: z.array(RecordedValue).max(100_000),
  /** `track`: new values carry on until a later cue sets the slot. `only`: the next cue puts back what it showed. */
  mode: z.enum(['track', 'only']).default('track'),
  /** `update` refuses to make a new cue. */
  existing: z.enum(['may', 'must', 'must-not']).default('may'),
});
export type RecordCueParams = z.input<typeof Params>;

/** What a value follows, besides its level. */
const refs = ({ palette, look, effect }: Pick<ValueRow, 'palette' | 'look' | 'effect'>): Pick<ValueRow, 'palette' | 'look' | 'effect'> => ({ ...(palette === undefined ? {} : { palette }), ...(look === undefined ? {} : { look }), ...(effect === undefined ? {} : { effect }) });

const DEFAULT_FADE_S = 3;

export const recordCue = defineEdit<RecordCueParams>({
  name: 'record-cue',
  params: Params,
  roles: EDITORS,
  plan: (show, params, { newId }) => {
    const p = Params.parse(params);
    if (!show.lists.has(p.listId)) return refuse('not-found', 'This cue list has been deleted.', { listId: 'Unknown list.' });
    const old = show.cuesOf(p.listId).find((c) => c.number === p.number);
    const label = formatCueNumber(p.number);
    if (!old && p.existing === 'must') return refuse('not-found', `There is no cue ${label} to update. Your values are kept in the programmer.`, { number: 'No such cue.' });
    if (old && p.existing === 'must-not') return refuse('clash', `Cue ${label} exists already${old.name ? ` (${old.name})` : ''}. Your values are kept in the programmer.`, { number: 'This number is taken.' });

    const changes: RowChange[] = [];
    const times = { ...(p.up_s === undefined ? {} : { up_s: p.up_s }), ...(p.down_s === undefined ? {} : { down_s: p.down_s }) };
    const cue: CueRow = old
      ? { ...old, ...(p.name === undefined ? {} : { name: p.name }), ...times }
      : { id: newId(), listId: p.listId, number: p.number, name: p.name ?? '', up_s: DEFAULT_FADE_S, down_s: p.up_s ?? DEFAULT_FADE_S, delay_s: 0, family_s: {}, note: '', call: '', follow_s: null, ...times };
    if (!old) changes.push(insertRow('cues', cue));
    else if (p.name !== undefined || p.up_s !== undefined || p.down_s !== undefined) changes.push(updateRow('cues', old, cue));

    const next = p.mode === 'only' ? cueAfter(show, p.listId, p.number) : undefined;
    const seen = new Set<string>();
    let written = 0;
    for (const value of p.values) {
      const fixture = show.fixtures.get(value.fixtureId);
      if (!fixture) return refuse('not-found', 'A fixture in the programmer has been deleted meanwhile. Nothing was recorded; clear its values and record again.');
      const mode = modeOf(show, fixture);
      if (!mode || !attributesOf(mode).includes(value.attribute)) return refuse('invalid', `Fixture ${fixture.number} has no ${value.attribute}. Nothing was recorded.`);
      if (value.palette !== undefined && !show.palettes.has(value.palette)) return refuse('not-found', 'A palette in the programmer has been deleted meanwhile. Apply another one, or set the values; nothing was recorded.');
      if (value.look !== undefined && !show.looks.has(value.look)) return refuse('not-found', 'A look in the programmer has been deleted meanwhile. Apply another one, or set the values; nothing was recorded.');
      if (value.effect !== undefined && !show.effects.has(value.effect.id)) return refuse('not-found', 'An effect in the programmer has been deleted meanwhile. Let go of it and record again; nothing was recorded.');
      const key = slotKey(value.fixtureId, value.attribute);
      if (seen.has(key)) continue;
      seen.add(key);
      const row: ValueRow = { id: valueId(cue.id, value.fixtureId, value.attribute), cueId: cue.id, ...value };
      const before = old ? show.valuesOf(old.id).get(key) : undefined;
      if (next && !show.valuesOf(next.id).has(key)) {
        const shown = trackedAt(show, p.listId, next.number, key);
        const back: ValueRow = { id: valueId(next.id, value.fixtureId, value.attribute), cueId: next.id, fixtureId: value.fixtureId, attribute: value.attribute, level: shown?.value.level ?? null, ...(shown ? refs(shown.value) : {}) };
        changes.push(insertRow('values', back));
      }
      if (before) changes.push({ table: 'values', id: row.id, before, after: row });
      else {
        // A value equal to what tracks here anyway is no change, and a cue stores only what changes.
        const tracks = trackedAt(show, p.listId, p.number, key);
        if (tracks && tracks.value.level === value.level && same(refs(tracks.value), refs(value))) continue;
        if (!tracks && value.level === null) continue;
        changes.push(insertRow('values', row));
      }
      written++;
    }
    if (changes.length === 0) return refuse('nothing', `Cue ${label} shows all of this already; nothing was written.`);
    const what = old ? 'Updated' : 'Recorded';
    const only = p.mode === 'only' ? ', this cue only' : '';
    return { changes, summary: `${what} cue ${label}${cue.name ? ` “${cue.name}”` : ''} with ${plural(written, 'value')}${only}` };
  },
});

const Remove = z.object({ cueId: RowId, slots: z.array(z.object({ fixtureId: RowId, attribute: z.string().min(1).max(60) })).min(1).max(100_000) });
type Remove = z.infer<typeof Remove>;

/** Takes set values out of a cue, so that what came before tracks through. */
export const removeFromCue = defineEdit<Remove>({
  name: 'remove-from-cue',
  params: Remove,
  roles: EDITORS,
  plan: (show, p) => {
    const cue = show.cues.get(p.cueId);
    if (!cue) return refuse('not-found', 'This cue has been deleted. Nothing was changed.');
    const set = show.valuesOf(cue.id);
    const changes = p.slots.flatMap((s) => {
      const row = set.get(slotKey(s.fixtureId, s.attribute));
      return row ? [deleteRow('values', row)] : [];
    });
    if (changes.length === 0) return refuse('not-found', `Cue ${formatCueNumber(cue.number)} does not set any of these.`);
    return { changes, summary: `Took ${plural(changes.length, 'value')} out of cue ${formatCueNumber(cue.number)}` };
  },
});
