/** Values written into cues straight away, cell by cell, without a stage: the cue sheet's own edit. */
import { z } from 'zod';
import { keepLooks, merged } from '../keep-looks.ts';
import { modeOf } from '../../fixtures/points.ts';
import { attributesOf } from '../../rig/attributes.ts';
import { refuse } from '../../refusal.ts';
import { idOf } from '../../show/fields.ts';
import { slotKey, ValueRow, valueId, type CueRow } from '../rows.ts';
import type { RowChange } from '../../show/show.ts';
import { same } from '../../same.ts';
import { sayCues } from './rules.ts';
import { defineEdit } from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { plural } from '../../words.ts';

const Cell = z.object({
  cueId: idOf('cues'),
  fixtureId: idOf('fixtures'),
  attribute: z.string().min(1).max(60),
  /** A value, or nothing: what tracks there shows through. `times` alone keeps what is set. */
  set: ValueRow.pick({ level: true, palette: true, look: true, effect: true })
    .nullable()
    .optional(),
  times: z
    .object({
      fade_s: ValueRow.shape.fade_s.nullable(),
      delay_s: ValueRow.shape.delay_s.nullable(),
      part: ValueRow.shape.part.nullable(),
    })
    .partial()
    .optional(),
});
const Params = z.object({
  cells: z.array(Cell).min(1, 'Choose cells first.').max(100_000),
  mode: z.enum(['track', 'only']).default('track'),
});
type Params = z.input<typeof Params>;

/** Writes levels, palettes and times of single values, as typed into cells of the sheet. */
export const setValues = defineEdit({
  name: 'set-values',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const changes: RowChange[] = [];
    const cues = new Map<string, CueRow>();
    for (const cell of p.cells) {
      const cue = show.cues.get(cell.cueId);
      if (!cue)
        return refuse(
          'not-found',
          'One of these cues has been deleted meanwhile. Nothing was changed.',
        );
      const fixture = show.fixtures.get(cell.fixtureId);
      const mode = fixture ? modeOf(show, fixture) : undefined;
      if (!fixture || !mode)
        return refuse(
          'not-found',
          'One of these fixtures has been deleted meanwhile. Nothing was changed.',
        );
      if (!attributesOf(mode).includes(cell.attribute))
        return refuse(
          'invalid',
          `Fixture ${fixture.number} has no ${cell.attribute}. Nothing was changed.`,
        );
      const old = show.valuesOf(cue.id).get(slotKey(cell.fixtureId, cell.attribute));
      const part = cell.times?.part;
      if (part && !cue.parts?.some((x) => x.number === part))
        return refuse(
          'not-found',
          `Cue ${cue.number / 1000} has no part ${part}. Nothing was changed.`,
          { part: 'No such part.' },
        );
      cues.set(cue.id, cue);
      const id = valueId(cue.id, cell.fixtureId, cell.attribute);
      if (cell.set === null) {
        if (old) changes.push({ table: 'values', id, before: old, after: null });
        continue;
      }
      if (cell.set === undefined && !old) continue;
      const next: Record<string, unknown> = cell.set
        ? {
            id,
            cueId: cue.id,
            fixtureId: cell.fixtureId,
            attribute: cell.attribute,
            ...(old ? timesOf(old) : {}),
            ...cell.set,
          }
        : { ...old };
      for (const [key, value] of Object.entries(cell.times ?? {})) {
        if (value === null) delete next[key];
        else if (value !== undefined) next[key] = value;
      }
      if (!same(old, next))
        changes.push({
          table: 'values',
          id,
          before: old ?? null,
          after: next as unknown as ValueRow,
        });
    }
    if (changes.length === 0)
      return refuse('nothing', 'These cells say this already; nothing was written.');
    const aimed = new Set(cues.keys());
    const lists = new Set([...cues.values()].map((c) => c.listId));
    const back =
      p.mode === 'only' ? [...lists].flatMap((list) => keepLooks(show, list, changes, aimed)) : [];
    const sorted = [...cues.values()].sort((a, b) => a.number - b.number);
    const removed = changes.every((c) => c.after === null);
    return {
      changes: merged([...changes, ...back]),
      summary: `${removed ? 'Took' : 'Set'} ${plural(changes.length, 'value')} ${removed ? 'out of' : 'in'} ${sayCues(sorted, show)}${p.mode === 'only' ? ', there only' : ''}`,
    };
  },
});

const timesOf = (v: ValueRow): Partial<ValueRow> => ({
  ...(v.fade_s === undefined ? {} : { fade_s: v.fade_s }),
  ...(v.delay_s === undefined ? {} : { delay_s: v.delay_s }),
  ...(v.part === undefined ? {} : { part: v.part }),
});
