/** Which lane of an effect moves an attribute of a unit, and what its steps are for that unit. */
import { modeOf } from '../fixtures/points.ts';
import { reachOf, type PaletteSource } from '../palettes/resolve.ts';
import { attributesOf, baseOf, familyOf, spreadOverCells } from '../rig/attributes.ts';
import { FAMILIES, type IdOf } from '../show/fields.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Mode } from '../types/rows.ts';
import type { EffectRow, EffectStep, EffectTrack } from './rows.ts';

const FAMILY_NAMES: readonly string[] = FAMILIES;

/** Whether a lane is that of a whole family, by palettes. */
export const isFamilyLane = (track: Pick<EffectTrack, 'attribute'>): boolean =>
  FAMILY_NAMES.includes(track.attribute);

/** Whether a lane's steps differ from unit to unit. */
export const isByUnit = (track: EffectTrack): boolean =>
  isFamilyLane(track) ||
  (track.wave === 'steps' &&
    (track.steps ?? []).some((s) => s.palette !== undefined || s.units !== undefined));

/** The lane that moves an attribute: its own, that of the whole unit for a cell's, that of its family. */
export const laneOf = (
  effect: Pick<EffectRow, 'tracks'>,
  attribute: string,
): EffectTrack | undefined =>
  effect.tracks.find((t) => t.attribute === attribute) ??
  effect.tracks.find((t) => t.attribute === baseOf(attribute)) ??
  effect.tracks.find((t) => t.attribute === familyOf(attribute));

/** The attributes of a unit that a lane moves. */
export const attributesOfLane = (mode: Mode, track: Pick<EffectTrack, 'attribute'>): string[] =>
  isFamilyLane(track)
    ? attributesOf(mode).filter((a) => familyOf(a) === track.attribute)
    : spreadOverCells(mode, track.attribute);

/** What a step says for one unit: by its palette, or as that unit was held. Undefined: nothing of its own. */
function levelOfStep(
  source: PaletteSource,
  step: EffectStep,
  fixture: FixtureRow,
  attribute: string,
): number | undefined {
  const palette = step.palette === undefined ? undefined : source.palettes.get(step.palette);
  const said = palette ? reachOf(source, palette, fixture).get(attribute) : undefined;
  return said ?? step.units?.[fixture.id]?.[attribute];
}

/** Where each step goes to on one unit; where nothing is said for it, to the step's level, or of a family to its default. */
export function levelsOfSteps(
  source: PaletteSource,
  track: EffectTrack,
  fixture: FixtureRow,
  attribute: string,
): number[] {
  const channel = modeOf(source, fixture)?.channels.find((c) => c.attribute === attribute);
  return (track.steps ?? []).map(
    (step) =>
      levelOfStep(source, step, fixture, attribute) ??
      (isFamilyLane(track) ? (channel?.default ?? 0) : step.level),
  );
}

/** Whether a family's lane has anything to say for a unit's attribute. */
export const saysAnything = (
  source: PaletteSource,
  track: EffectTrack,
  fixtureId: IdOf<'fixtures'>,
  attribute: string,
): boolean => {
  const fixture = source.fixtures.get(fixtureId);
  if (!fixture) return false;
  return (track.steps ?? []).some(
    (step) => levelOfStep(source, step, fixture, attribute) !== undefined,
  );
};
