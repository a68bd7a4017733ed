/** Palettes: recorded from what is held, changed, deleted with what follows them kept as values. */
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { chromaticity, toUv, type Chromaticity } from '../color/mix.ts';
import { colourOf, colourParts } from '../color/unit-colour.ts';
import { levelOf, ofFamily } from '../palettes/resolve.ts';
import { refuse } from '../refusal.ts';
import { modeOf } from '../rig/addresses.ts';
import { FixtureNumber, Name, PALETTE_FAMILIES, PaletteRow, RowId, ValueRow } from '../show/rows.ts';
import type { Show } from '../show/show.ts';
import { defineEdit, deleteRow, EDITORS, insertRow, plural, replaceRow, updateRow } from './edit.ts';

const Held = ValueRow.pick({ fixtureId: true, attribute: true }).extend({ level: z.number().min(0).max(1) });

const Record = z.object({
  /** An existing palette is added to, or written anew. */
  id: RowId.optional(),
  number: FixtureNumber.optional(),
  name: Name.optional(),
  family: z.enum(PALETTE_FAMILIES),
  values: z.array(Held).max(20_000).default([]),
  how: z.enum(['merge', 'replace']).default('merge'),
  /** What it says for any unit (a level, a chromaticity, a stage point), instead of entries for those at hand. */
  any: PaletteRow.shape.any,
});
type Record = z.input<typeof Record>;

/** Chromaticities nearer than this are one colour (CIE 1976 u'v'). */
const SAME_COLOUR_UV = 0.006;

/** What is true of all the units at once, so that the palette also reaches those that were not there. */
function forAny(show: Show, family: PaletteRow['family'], values: readonly z.output<typeof Held>[]): PaletteRow['any'] {
  const [first] = values;
  if (!first) return undefined;
  if (family === 'intensity') return values.every((v) => Math.abs(v.level - first.level) < 0.002) ? { level: first.level } : undefined;
  if (family !== 'colour') return undefined;
  const seen: Chromaticity[] = [];
  for (const id of new Set(values.map((v) => v.fixtureId))) {
    const fixture = show.fixtures.get(id);
    const type = fixture ? show.types.get(fixture.typeId) : undefined;
    const mode = fixture ? modeOf(show, fixture) : undefined;
    const own = new Map(values.filter((v) => v.fixtureId === id).map((v) => [v.attribute, v.level]));
    for (const part of type && mode ? colourParts(type, mode) : []) {
      const at = type ? chromaticity(colourOf(type, part, (a) => own.get(a) ?? mode?.channels.find((c) => c.attribute === a)?.default ?? 0, fixture)) : undefined;
      if (at) seen.push(at);
    }
  }
  const [colour] = seen;
  if (!colour) return undefined;
  const [u, v] = toUv(colour);
  const same = seen.every((c) => Math.hypot(toUv(c)[0] - u, toUv(c)[1] - v) < SAME_COLOUR_UV);
  return same ? { colour: { x: Math.round(colour.x * 1e5) / 1e5, y: Math.round(colour.y * 1e5) / 1e5 } } : undefined;
}

export const recordPalette = defineEdit<Record>({
  name: 'record-palette',
  params: Record,
  roles: EDITORS,
  plan: (show, params, { newId }) => {
    const p = Record.parse(params);
    const old = p.id === undefined ? undefined : show.palettes.get(p.id);
    if (p.id !== undefined && !old) return refuse('not-found', 'This palette has been deleted meanwhile. Your values are kept in the programmer.');
    if (old && old.family !== p.family) return refuse('invalid', `Palette ${old.number} “${old.name}” is of ${old.family}; ${p.family} goes into another one.`, { family: 'Another family.' });
    const values = ofFamily(p.values, p.family);
    if (values.length === 0 && !p.any) return refuse('nothing', `Nothing of ${p.family} is held; a palette takes only its own family.`, { values: 'Nothing of this family.' });
    const fixtures: PaletteRow['fixtures'] = p.how === 'merge' && old ? structuredClone(old.fixtures) : {};
    for (const v of values) {
      if (!show.fixtures.has(v.fixtureId)) return refuse('not-found', 'A fixture in the programmer has been deleted meanwhile. Nothing was recorded.');
      if (!p.any) fixtures[v.fixtureId] = { ...fixtures[v.fixtureId], [v.attribute]: v.level };
    }
    // Added to, a palette goes on saying one thing for all only if it still does.
    const all = p.how === 'merge' && old ? Object.entries(fixtures).flatMap(([fixtureId, own]) => Object.entries(own).map(([attribute, level]) => ({ fixtureId, attribute, level }))) : values;
    const any = p.any ?? forAny(show, p.family, all);
    const number = old?.number ?? p.number ?? Math.max(0, ...[...show.palettes.values()].map((x) => x.number)) + 1;
    const twin = [...show.palettes.values()].find((x) => x.number === number && x.id !== old?.id);
    if (twin) return refuse('clash', `Palette ${number} is “${twin.name}” already.`, { number: 'Taken.' });
    const name = p.name ?? old?.name ?? `${p.family[0]?.toUpperCase()}${p.family.slice(1)} ${number}`;
    const row: PaletteRow = { id: old?.id ?? newId(), number, family: p.family, name, fixtures, types: p.how === 'merge' && old ? old.types : {}, ...(any ? { any } : {}) };
    const from = values.length > 0 && !p.any ? ` from ${plural(new Set(values.map((v) => v.fixtureId)).size, 'fixture')}` : '';
    const reach = any ? `${from === '' ? '' : ','} for any unit` : '';
    return { changes: [old ? replaceRow('palettes', old, row) : insertRow('palettes', row)], summary: `${old ? 'Updated' : 'Recorded'} palette ${number} “${name}”${from}${reach}` };
  },
});

const Change = z.object({ id: RowId, set: z.object({ name: Name.optional(), number: FixtureNumber.optional() }) });
type Change = z.infer<typeof Change>;

export const changePalette = defineEdit<Change>({
  name: 'change-palette',
  params: Change,
  roles: EDITORS,
  plan: (show, p) => {
    const old = show.palettes.get(p.id);
    if (!old) return refuse('not-found', 'This palette has been deleted meanwhile. Nothing was changed.');
    const twin = [...show.palettes.values()].find((x) => x.id !== p.id && x.number === p.set.number);
    if (twin) return refuse('clash', `Palette ${twin.number} is “${twin.name}” already.`, { number: 'Taken.' });
    const set = { ...(p.set.name === undefined ? {} : { name: p.set.name }), ...(p.set.number === undefined ? {} : { number: p.set.number }) };
    return { changes: [updateRow('palettes', old, set)], summary: `Palette ${p.set.number ?? old.number} is “${p.set.name ?? old.name}”` };
  },
});

const Delete = z.object({ id: RowId });
type Delete = z.infer<typeof Delete>;

/** Cues that follow a palette, for the words before a deletion. */
export function paletteUses(show: Show, id: string): { label: string; values: number }[] {
  const counts = new Map<string, number>();
  for (const v of show.values.values()) if (v.palette === id) counts.set(v.cueId, (counts.get(v.cueId) ?? 0) + 1);
  return [...counts]
    .flatMap(([cueId, values]) => {
      const cue = show.cues.get(cueId);
      return cue ? [{ number: cue.number, label: `${formatCueNumber(cue.number)}${cue.name ? ` ${cue.name}` : ''}`, values }] : [];
    })
    .sort((a, b) => a.number - b.number)
    .map(({ label, values }) => ({ label, values }));
}

export const deletePalette = defineEdit<Delete>({
  name: 'delete-palette',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const palette = show.palettes.get(p.id);
    if (!palette) return refuse('not-found', 'This palette has been deleted already.');
    // What followed it keeps the level that it has now: no cue looks different.
    const values = [...show.values.values()].filter((v) => v.palette === p.id);
    const baked = values.map((v) => {
      const next: ValueRow = { ...v, level: levelOf(show, v) };
      delete next.palette;
      return replaceRow('values', v, next);
    });
    return { changes: [...baked, deleteRow('palettes', palette)], summary: `Deleted palette ${palette.number} “${palette.name}”${values.length > 0 ? `; ${plural(values.length, 'value')} kept as levels` : ''}` };
  },
});
