/** What a palette means for a fixture, and so what a value means that follows one. */
import { aimUnit } from '../aim/unit.ts';
import { kelvin } from '../color/mix.ts';
import { colourLevels, colourParts } from '../color/unit-colour.ts';
import { membersOf } from '../groups/members.ts';
import { attributesOf, familyOf } from '../rig/attributes.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import type { PaletteRow, PlayedKind } from './rows.ts';
import type { Meaning } from '../show/after.ts';

/** What resolving needs of a show. */
export type PaletteSource = Meaning;

interface Kept {
  version: string;
  /** By palette and fixture. */
  reaches: Map<string, ReadonlyMap<string, number>>;
}
const kept = new WeakMap<object, Kept>();
const NOTHING: ReadonlyMap<string, number> = new Map();

/** Attributes of a fixture that a palette answers for, with their levels; empty when it does not reach it. */
export function reachOf(
  source: PaletteSource,
  palette: PaletteRow,
  fixture: FixtureRow,
): ReadonlyMap<string, number> {
  const version = `${source.version('palettes')}/${source.version('fixtures')}/${source.version('types')}/${source.version('groups')}`;
  let cache = kept.get(source);
  if (cache?.version !== version) {
    cache = { version, reaches: new Map() };
    kept.set(source, cache);
  }
  const key = `${palette.id}/${fixture.id}`;
  const known = cache.reaches.get(key);
  if (known) return known;
  const type = source.types.get(fixture.typeId);
  const mode = type?.modes.find((m) => m.name === fixture.mode);
  const reach = type && mode ? reachIn(palette, fixture, type, mode, source) : NOTHING;
  cache.reaches.set(key, reach);
  return reach;
}

/** The same for a fixture as it would be: of this type, in this mode. */
export function reachIn(
  palette: PaletteRow,
  fixture: FixtureRow,
  type: TypeRow,
  mode: Mode,
  source?: Pick<PaletteSource, 'groups' | 'fixtures'>,
): ReadonlyMap<string, number> {
  const has = new Set(attributesOf(mode));
  const reach = new Map<string, number>(forAny(palette, fixture, type, mode));
  for (const entries of [
    palette.types[type.id],
    ...groupEntries(palette, fixture.id, source),
    palette.fixtures[fixture.id],
  ]) {
    for (const [attribute, level] of Object.entries(entries ?? {}))
      if (has.has(attribute)) reach.set(attribute, level);
  }
  return reach;
}

/** What it says for the groups that a fixture is in, the lowest number last, so that it wins. */
function groupEntries(
  palette: PaletteRow,
  fixtureId: string,
  source: Pick<PaletteSource, 'groups' | 'fixtures'> | undefined,
): Record<string, number>[] {
  if (!palette.groups || !source) return [];
  return Object.entries(palette.groups)
    .flatMap(([id, entries]) => {
      const group = source.groups.get(id);
      return group && membersOf(source, group).includes(fixtureId)
        ? [{ number: group.number, entries }]
        : [];
    })
    .sort((a, b) => b.number - a.number)
    .map((g) => g.entries);
}

function forAny(
  { any, family }: PaletteRow,
  fixture: FixtureRow,
  type: TypeRow,
  mode: Mode,
): [string, number][] {
  if (!any) return [];
  if (family === 'intensity' && any.level !== undefined)
    return attributesOf(mode).includes('Dimmer') ? [['Dimmer', any.level]] : [];
  const colour = any.kelvin === undefined ? any.colour : kelvin(any.kelvin);
  if (family === 'colour' && colour) {
    return colourParts(type, mode).flatMap((part) =>
      colourLevels(type, part, colour, fixture).levels.map((l): [string, number] => [
        l.attribute,
        Math.round(l.level * 1e6) / 1e6,
      ]),
    );
  }
  if (family === 'position' && any.point) {
    const turn = aimUnit({ fixture, mode, type }, any.point);
    return turn
      ? [
          ['Pan', turn.Pan],
          ['Tilt', turn.Tilt],
        ]
      : [];
  }
  return [];
}

/** Attributes of a family that values hold: what recording a palette of it takes. */
export const ofFamily = <V extends { attribute: string }>(
  values: readonly V[],
  family: PaletteRow['family'],
): V[] => values.filter((v) => familyOf(v.attribute) === family);

/** It was made for units, by themselves or as groups; one that was not is for all that it reaches. */
const namesUnits = ({ fixtures, groups = {} }: PaletteRow): boolean =>
  Object.keys(fixtures).length + Object.keys(groups).length > 0;

/** An effect, and a palette that is for any unit, has no units of its own: played, it takes those that are selected. */
export function takesSelection(
  source: Pick<PaletteSource, 'palettes'>,
  { kind, id }: { kind: PlayedKind; id: string },
): boolean {
  const palette = kind === 'palette' ? source.palettes.get(id) : undefined;
  return kind === 'effect' || (palette !== undefined && !namesUnits(palette));
}

/** What a palette says for the units that it was made for, slot by slot; one that names none, for all that it reaches. */
export function contentsOfPalette(
  source: PaletteSource,
  palette: PaletteRow,
  /** Ids of fixtures, instead of those that it was made for. */
  on?: readonly string[],
): { fixtureId: string; attribute: string; level: number; palette: string }[] {
  const named = new Set([
    ...Object.keys(palette.fixtures),
    ...Object.keys(palette.groups ?? {}).flatMap((id) => {
      const group = source.groups.get(id);
      return group ? membersOf(source, group) : [];
    }),
  ]);
  const units = on
    ? on.flatMap((id) => source.fixtures.get(id) ?? [])
    : [...source.fixtures.values()].filter((f) => named.size === 0 || named.has(f.id));
  return units.flatMap((fixture) =>
    [...reachOf(source, palette, fixture)].map(([attribute, level]) => ({
      fixtureId: fixture.id,
      attribute,
      level,
      palette: palette.id,
    })),
  );
}
