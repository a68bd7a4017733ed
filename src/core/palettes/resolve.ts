/** What a palette means for a fixture, and so what a value means that follows one. */
import { aimAt } from '../aim/aim.ts';
import { colourLevels, colourParts } from '../color/unit-colour.ts';
import { attributesOf, familyOf } from '../rig/attributes.ts';
import { withinLimits } from '../rig/transform.ts';
import type { FixtureRow, Mode, PaletteRow, TypeRow, ValueRow } from '../show/rows.ts';
import type { Show } from '../show/show.ts';

/** What resolving needs of a show. */
export type PaletteSource = Pick<Show, 'fixtures' | 'types' | 'palettes' | 'version'>;

interface Kept {
  version: string;
  /** By palette and fixture. */
  reaches: Map<string, ReadonlyMap<string, number>>;
}
const kept = new WeakMap<object, Kept>();
const NOTHING: ReadonlyMap<string, number> = new Map();

/** Attributes of a fixture that a palette answers for, with their levels; empty when it does not reach it. */
export function reachOf(source: PaletteSource, palette: PaletteRow, fixture: FixtureRow): ReadonlyMap<string, number> {
  const version = `${source.version('palettes')}/${source.version('fixtures')}/${source.version('types')}`;
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
  const reach = type && mode ? reachIn(palette, fixture, type, mode) : NOTHING;
  cache.reaches.set(key, reach);
  return reach;
}

/** The same for a fixture as it would be: of this type, in this mode. */
export function reachIn(palette: PaletteRow, fixture: FixtureRow, type: TypeRow, mode: Mode): ReadonlyMap<string, number> {
  const has = new Set(attributesOf(mode));
  const reach = new Map<string, number>(forAny(palette, fixture, type, mode));
  for (const entries of [palette.types[type.id], palette.fixtures[fixture.id]]) {
    for (const [attribute, level] of Object.entries(entries ?? {})) if (has.has(attribute)) reach.set(attribute, level);
  }
  return reach;
}

function forAny({ any, family }: PaletteRow, fixture: FixtureRow, type: TypeRow, mode: Mode): [string, number][] {
  if (!any) return [];
  if (family === 'intensity' && any.level !== undefined) return attributesOf(mode).includes('Dimmer') ? [['Dimmer', any.level]] : [];
  if (family === 'colour' && any.colour) {
    const { colour } = any;
    return colourParts(type, mode).flatMap((part) => colourLevels(type, part, colour, fixture).levels.map((l): [string, number] => [l.attribute, Math.round(l.level * 1e6) / 1e6]));
  }
  if (family === 'position' && any.point) {
    const range = (a: string): [number, number] | undefined => {
      const c = mode.channels.find((x) => x.attribute === a);
      return c ? [c.physicalFrom, c.physicalTo] : undefined;
    };
    const [pan, tilt] = [range('Pan'), range('Tilt')];
    const to = pan && tilt ? aimAt({ ...fixture.position, rotation_deg: fixture.rotation }, any.point, pan, tilt) : undefined;
    if (!to || !pan || !tilt) return [];
    const share = (attribute: string, degrees: number, [from, upTo]: [number, number]): number | undefined => withinLimits(fixture.transforms?.[attribute], (degrees - from) / (upTo - from));
    const [p, t] = [share('Pan', to.pan_deg, pan), share('Tilt', to.tilt_deg, tilt)];
    // Past its limits a head is not sent somewhere else instead.
    if (p === undefined || t === undefined) return [];
    return [
      ['Pan', Math.round(p * 1e6) / 1e6],
      ['Tilt', Math.round(t * 1e6) / 1e6],
    ];
  }
  return [];
}

/** The level that a value stands for now: its palette's answer, or its own. Null lets go. */
export function levelOf(source: PaletteSource, value: Pick<ValueRow, 'fixtureId' | 'attribute' | 'level' | 'palette'>): number | null {
  if (value.palette === undefined || value.level === null) return value.level;
  const palette = source.palettes.get(value.palette);
  const fixture = palette ? source.fixtures.get(value.fixtureId) : undefined;
  return (palette && fixture ? reachOf(source, palette, fixture).get(value.attribute) : undefined) ?? value.level;
}

/** Attributes of a family that values hold: what recording a palette of it takes. */
export const ofFamily = <V extends { attribute: string }>(values: readonly V[], family: PaletteRow['family']): V[] => values.filter((v) => familyOf(v.attribute) === family);
