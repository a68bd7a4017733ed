/** Palettes: recorded from what is held, changed, deleted with what follows them kept as values. */
import { rowFor } from '../show/row-for.ts';
import { numberAfter, numberTaken } from '../show/numbered.ts';
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { chromaticity, toUv, type Chromaticity } from '../color/mix.ts';
import { colourOf, colourParts } from '../color/unit-colour.ts';
import { levelOf } from '../looks/value.ts';
import { ofFamily, reachOf } from './resolve.ts';
import { beamOf, meetingPoint } from '../aim/meet.ts';
import { degreesOf } from '../aim/unit.ts';
import { fixturesIn } from '../groups/members.ts';
import { withFields } from '../show/fields-of.ts';
import { PLAY_S } from './rows.ts';
import { isRefusal, refuse, type Refusal, type Result } from '../refusal.ts';
import { modeOf } from '../fixtures/points.ts';
import { FixtureNumber, Name, RowId, idOf, type StagePoint } from '../show/fields.ts';
import { PALETTE_FAMILIES, PaletteRow } from './rows.ts';
import { ValueRow } from '../cues/rows.ts';
import type { LookItem } from '../looks/rows.ts';
import { stepsOf, type EffectRow, type EffectStep } from '../effects/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';
import { followed } from '../edits/follow.ts';

const Held = ValueRow.pick({ fixtureId: true, attribute: true }).extend({
  level: z.number().min(0).max(1),
});

const RecordPalette = z.object({
  /** An existing palette is added to, or written anew. */
  id: idOf('palettes').optional(),
  number: FixtureNumber.optional(),
  name: Name.optional(),
  family: z.enum(PALETTE_FAMILIES),
  values: z.array(Held).max(20_000).default([]),
  how: z.enum(['merge', 'replace']).default('merge'),
  /** For whom it is kept: each fixture, the fixtures' types, a group, or any unit that can do it. */
  scope: z.enum(['fixtures', 'types', 'group', 'any']).default('fixtures'),
  group: RowId.optional(),
  /** Take values of other families along as well. */
  allFamilies: z.boolean().default(false),
  /** What it says for any unit (a level, a chromaticity, a stage point), instead of entries for those at hand. */
  any: PaletteRow.shape.any,
});
type RecordPalette = z.input<typeof RecordPalette>;

/** Chromaticities nearer than this are one colour (CIE 1976 u'v'). */
const SAME_COLOUR_UV = 0.006;

/** What is true of all the units at once, so that the palette also reaches those that were not there. */
function forAny(
  show: Show,
  family: PaletteRow['family'],
  values: readonly z.output<typeof Held>[],
): PaletteRow['any'] {
  const [first] = values;
  if (!first) return undefined;
  if (family === 'intensity')
    return values.every((v) => Math.abs(v.level - first.level) < 0.002)
      ? { level: first.level }
      : undefined;
  if (family !== 'colour') return undefined;
  const seen: Chromaticity[] = [];
  for (const id of new Set(values.map((v) => v.fixtureId))) {
    const fixture = show.fixtures.get(id);
    const type = fixture ? show.types.get(fixture.typeId) : undefined;
    const mode = fixture ? modeOf(show, fixture) : undefined;
    const own = new Map(
      values.filter((v) => v.fixtureId === id).map((v) => [v.attribute, v.level]),
    );
    for (const part of type && mode ? colourParts(type, mode) : []) {
      const at = type
        ? chromaticity(
            colourOf(
              type,
              part,
              (a) => own.get(a) ?? mode?.channels.find((c) => c.attribute === a)?.default ?? 0,
              fixture,
            ),
          )
        : undefined;
      if (at) seen.push(at);
    }
  }
  const [colour] = seen;
  if (!colour) return undefined;
  const [u, v] = toUv(colour);
  const same = seen.every((c) => Math.hypot(toUv(c)[0] - u, toUv(c)[1] - v) < SAME_COLOUR_UV);
  return same
    ? { colour: { x: Math.round(colour.x * 1e5) / 1e5, y: Math.round(colour.y * 1e5) / 1e5 } }
    : undefined;
}

/** The stage point that all held heads look at, for a palette that says it to any head. */
function commonPoint(show: Show, values: readonly z.output<typeof Held>[]): StagePoint | undefined {
  const beams = [...new Set(values.map((v) => v.fixtureId))].flatMap((id) => {
    const fixture = show.fixtures.get(id);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    const at = (attribute: string): number | undefined =>
      values.find((v) => v.fixtureId === id && v.attribute === attribute)?.level;
    const [pan, tilt] = [at('Pan'), at('Tilt')];
    const turn =
      fixture && mode && pan !== undefined && tilt !== undefined
        ? degreesOf(fixture, mode, { Pan: pan, Tilt: tilt })
        : undefined;
    const type = fixture && show.types.get(fixture.typeId);
    return type && turn ? [beamOf(fixture, type, turn)] : [];
  });
  const point = meetingPoint(beams);
  const cm = (v: number): number => Math.round(v * 100) / 100;
  return point ? { x: cm(point.x), y: cm(point.y), z: cm(point.z) } : undefined;
}

/** What a palette says for any unit, from what is held of it: one level, one chromaticity, one stage point. */
function saidForAny(
  show: Show,
  family: PaletteRow['family'],
  values: readonly z.output<typeof Held>[],
): NonNullable<PaletteRow['any']> | Refusal {
  if (family === 'position') {
    const point = commonPoint(show, values);
    return point
      ? { point }
      : refuse(
          'invalid',
          'These beams do not meet in one point of the stage. Aim them at one, or record them fixture by fixture.',
          { scope: 'No common point.' },
        );
  }
  const any = forAny(show, family, values);
  if (any) return any;
  return refuse(
    'invalid',
    family === 'beam'
      ? 'Zoom and patterns have no meaning that is the same for all units; record them by fixture, group or type.'
      : `The ${family === 'intensity' ? 'levels' : 'colours'} of these units differ: make them the same, or record them fixture by fixture.`,
    { scope: 'They differ.' },
  );
}

interface Entries {
  fixtures: PaletteRow['fixtures'];
  groups: NonNullable<PaletteRow['groups']>;
  types: PaletteRow['types'];
}

/** Held values put where the scope says: under each fixture, its type, or a group. */
function entriesFor(
  show: Show,
  p: z.output<typeof RecordPalette>,
  values: readonly z.output<typeof Held>[],
  old: Entries,
): Result<Entries> {
  const next = structuredClone(old);
  const put = (
    table: globalThis.Record<string, globalThis.Record<string, number>>,
    id: string,
    v: z.output<typeof Held>,
  ): void => void (table[id] = { ...table[id], [v.attribute]: v.level });
  const differing: string[] = [];
  for (const v of values) {
    const fixture = show.fixtures.get(v.fixtureId);
    if (!fixture)
      return refuse(
        'not-found',
        'A fixture in the programmer has been deleted meanwhile. Nothing was recorded.',
      );
    if (p.scope === 'fixtures') put(next.fixtures, v.fixtureId, v);
    else if (p.scope === 'types') {
      if (
        values.some(
          (o) =>
            o.attribute === v.attribute &&
            o.level !== v.level &&
            show.fixtures.get(o.fixtureId)?.typeId === fixture.typeId,
        )
      )
        differing.push(`${fixture.number}`);
      put(next.types, fixture.typeId, v);
      // What the fixture said for itself would hide what its type says now.
      const own = next.fixtures[v.fixtureId];
      if (own) delete own[v.attribute];
    } else if (p.scope === 'group' && p.group !== undefined) {
      if (values.some((o) => o.attribute === v.attribute && o.level !== v.level))
        differing.push(`${fixture.number}`);
      put(next.groups, p.group, v);
      const own = next.fixtures[v.fixtureId];
      if (own) delete own[v.attribute];
    }
  }
  if (differing.length > 0)
    return refuse(
      'invalid',
      `Units of one ${p.scope === 'types' ? 'type' : 'group'} differ (${[...new Set(differing)].slice(0, 4).join(', ')}): make them the same, or record them fixture by fixture.`,
      { scope: 'They differ.' },
    );
  return next;
}

/** Keeps what is held of a family as a palette, for units, types, a group or anybody. */
export const recordPalette = defineEdit({
  name: 'record-palette',
  params: RecordPalette,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = p.id === undefined ? undefined : show.palettes.get(p.id);
    if (p.id !== undefined && !old)
      return refuse(
        'not-found',
        'This palette has been deleted meanwhile. Your values are kept in the programmer.',
      );
    if (old && old.family !== p.family)
      return refuse(
        'invalid',
        `Palette ${old.number} “${old.name}” is of ${old.family}; ${p.family} goes into another one.`,
        { family: 'Another family.' },
      );
    if (p.scope === 'group' && (p.group === undefined || !show.groups.has(p.group)))
      return refuse('not-found', 'Say for which group; it may have been deleted meanwhile.', {
        group: 'Unknown group.',
      });
    const values = p.allFamilies ? p.values : ofFamily(p.values, p.family);
    if (values.length === 0 && !p.any)
      return refuse(
        'nothing',
        `Nothing of ${p.family} is held; a palette takes only its own family.`,
        { values: 'Nothing of this family.' },
      );
    const start: Entries =
      p.how === 'merge' && old
        ? { fixtures: old.fixtures, groups: old.groups ?? {}, types: old.types }
        : { fixtures: {}, groups: {}, types: {} };
    const entries = p.any || p.scope === 'any' ? start : entriesFor(show, p, values, start);
    if ('refused' in entries) return entries;
    const { fixtures, groups, types } = entries;
    const said =
      p.any ??
      (p.scope === 'any' ? saidForAny(show, p.family, ofFamily(values, p.family)) : undefined);
    if (said && 'refused' in said) return said;
    // Added to, a palette goes on saying one thing for all only if it still does.
    const all =
      p.how === 'merge' && old
        ? Object.entries(fixtures).flatMap(([fixtureId, own]) =>
            Object.entries(own).map(([attribute, level]) => ({ fixtureId, attribute, level })),
          )
        : values;
    const kept = p.how === 'merge' ? old?.any : undefined;
    const any =
      said ?? (p.scope === 'fixtures' ? forAny(show, p.family, ofFamily(all, p.family)) : kept);
    // Said for any unit, own entries of the same units would only hide it.
    const spoken =
      p.scope === 'any' && !p.any ? new Set(values.map((v) => v.fixtureId)) : new Set<string>();
    const number = old?.number ?? p.number ?? numberAfter(show.palettes.values());
    const taken = numberTaken('Palette', show.palettes.values(), number, old?.id);
    if (taken) return taken;
    const name =
      p.name ?? old?.name ?? `${p.family[0]?.toUpperCase()}${p.family.slice(1)} ${number}`;
    const filled = <T extends object>(
      table: globalThis.Record<string, T>,
    ): globalThis.Record<string, T> =>
      Object.fromEntries(
        Object.entries(table).filter(([id, own]) => Object.keys(own).length > 0 && !spoken.has(id)),
      );
    const row: PaletteRow = {
      id: old?.id ?? newId(),
      number,
      family: p.family,
      name,
      ...(old?.order === undefined ? {} : { order: old.order }),
      fixtures: filled(fixtures),
      ...(Object.keys(filled(groups)).length > 0 ? { groups: filled(groups) } : {}),
      types: filled(types),
      ...(any ? { any } : {}),
    };
    return {
      changes: [old ? replaceRow('palettes', old, row) : insertRow('palettes', row)],
      summary: `${old ? 'Updated' : 'Recorded'} palette ${number} “${name}”${sayFrom(show, p, values, any !== undefined)}`,
    };
  },
});

function sayWhom(show: Show, { scope, group }: z.output<typeof RecordPalette>): string {
  if (scope === 'types') return ' for their type';
  return scope === 'group' ? ` for group ${show.groups.get(group ?? '')?.name ?? ''}` : '';
}

function sayFrom(
  show: Show,
  p: z.output<typeof RecordPalette>,
  values: readonly z.output<typeof Held>[],
  any: boolean,
): string {
  const from =
    values.length > 0 && !p.any
      ? ` from ${plural(new Set(values.map((v) => v.fixtureId)).size, 'fixture')}`
      : '';
  return `${from}${sayWhom(show, p)}${any ? `${from === '' ? '' : ','} for any unit` : ''}`;
}

const Change = z.object({
  id: idOf('palettes'),
  set: z.object({
    name: Name.optional(),
    number: FixtureNumber.optional(),
    /** Null: as all others. */
    play_s: PaletteRow.shape.play_s.nullable(),
  }),
});
type Change = z.infer<typeof Change>;

/** Changes a palette's name, number, or what it says. */
export const changePalette = defineEdit({
  name: 'change-palette',
  params: Change,
  roles: EDITORS,
  plan: (show, p) => {
    const old = rowFor(show, 'palettes', p.id);
    if (isRefusal(old)) return old;
    const taken = numberTaken('Palette', show.palettes.values(), p.set.number, p.id);
    if (taken) return taken;
    const next = withFields(old, p.set);
    return {
      changes: [replaceRow('palettes', old, next)],
      summary:
        next.play_s === old.play_s
          ? `Palette ${next.number} is “${next.name}”`
          : `Palette ${next.number} “${next.name}” plays in ${next.play_s ?? PLAY_S} s`,
    };
  },
});

const Delete = z.object({
  id: idOf('palettes'),
  /** Cues that follow it keep its present levels, or lose these values. */ uses: z
    .enum(['keep', 'remove'])
    .default('keep'),
});
type Delete = z.input<typeof Delete>;

/** Cues, looks and effects that follow a palette, with how many values, for the words before a change. */
export function paletteUses(
  show: Show,
  id: string,
): { cueId?: string; listId?: string; label: string; values: number }[] {
  const counts = new Map<string, number>();
  for (const v of show.values.values())
    if (v.palette === id) counts.set(v.cueId, (counts.get(v.cueId) ?? 0) + 1);
  const cues = [...counts]
    .flatMap(([cueId, values]) => {
      const cue = show.cues.get(cueId);
      return cue
        ? [
            {
              cueId,
              listId: cue.listId,
              number: cue.number,
              label: `${formatCueNumber(cue.number)}${cue.name ? ` ${cue.name}` : ''}`,
              values,
            },
          ]
        : [];
    })
    .sort((a, b) => a.number - b.number)
    .map(({ cueId, listId, label, values }) => ({ cueId, listId, label, values }));
  const looks = [...show.looks.values()]
    .filter((l) => l.items.some((i) => i.kind === 'palette' && i.palette === id))
    .map((l) => ({ label: `look ${l.number} ${l.name}`, values: 1 }));
  const effects = [...show.effects.values()].flatMap((e) => {
    const steps = stepsOf(e).filter((s) => s.palette === id).length;
    return steps > 0 ? [{ label: `effect ${e.number} ${e.name}`, values: steps }] : [];
  });
  return [...cues, ...looks, ...effects];
}

/** A look's parts with this palette said as levels, or left out. */
function withoutPalette(
  show: Show,
  items: readonly LookItem[],
  palette: PaletteRow,
  keep: boolean,
): LookItem[] {
  return items.flatMap((i): LookItem[] => {
    if (i.kind !== 'palette' || i.palette !== palette.id) return [i];
    if (!keep) return [];
    return fixturesIn(show, i.members).flatMap((fixtureId) => {
      const fixture = show.fixtures.get(fixtureId);
      return fixture
        ? [...reachOf(show, palette, fixture)].map(([attribute, level]): LookItem => ({
            kind: 'level',
            fixtureId,
            attribute,
            level,
          }))
        : [];
    });
  });
}

/** An effect whose steps go where they went by this palette, unit by unit. */
function withoutSteps(show: Show, effect: EffectRow, palette: PaletteRow): RowChange[] {
  if (!stepsOf(effect).some((s) => s.palette === palette.id)) return [];
  const units = Object.fromEntries(
    [...show.fixtures.values()].flatMap((f) => {
      const said = Object.fromEntries(reachOf(show, palette, f));
      return Object.keys(said).length > 0 ? [[f.id, said]] : [];
    }),
  );
  const step = (s: EffectStep): EffectStep => {
    if (s.palette !== palette.id) return s;
    const rest: EffectStep = { ...s, units };
    delete rest.palette;
    return rest;
  };
  const tracks = effect.tracks.map((t) => (t.steps ? { ...t, steps: t.steps.map(step) } : t));
  return [updateRow('effects', effect, { tracks })];
}

/** Deletes a palette; what uses it keeps the levels, or loses them. */
export const deletePalette = defineEdit({
  name: 'delete-palette',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const palette = rowFor(show, 'palettes', p.id, 'already');
    if (isRefusal(palette)) return palette;
    const values = [...show.values.values()].filter((v) => v.palette === p.id);
    const written = values.map((v) => {
      // Kept: what followed it has the level that it has now, and no cue looks different.
      if (p.uses === 'remove') return deleteRow('values', v);
      const next: ValueRow = { ...v, level: levelOf(show, v) };
      delete next.palette;
      return replaceRow('values', v, next);
    });
    const looks = [...show.looks.values()]
      .filter((l) => l.items.some((i) => i.kind === 'palette' && i.palette === p.id))
      .map((l) =>
        updateRow('looks', l, { items: withoutPalette(show, l.items, palette, p.uses === 'keep') }),
      );
    const effects = [...show.effects.values()].flatMap((e) => withoutSteps(show, e, palette));
    const done =
      p.uses === 'keep'
        ? `; ${plural(values.length, 'value')} kept as levels`
        : `; taken out of ${plural(new Set(values.map((v) => v.cueId)).size, 'cue')}`;
    const what = values.length + looks.length === 0 ? '' : done;
    return {
      changes: followed(show, [...written, ...looks, ...effects, deleteRow('palettes', palette)]),
      summary: `Deleted palette ${palette.number} “${palette.name}”${what}`,
    };
  },
});
