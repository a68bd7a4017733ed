/** Beams of units: where one points, how wide it is and how soft its edge, from levels as they reach the unit. */
import { headOf, hungAt } from './unit.ts';
import { direction, type Direction, type Head, type Point } from './aim.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { TypeRow } from '../types/rows.ts';

type Shape = TypeRow['shape'];

/** Units that do not move and whose lean nobody has set point as they are usually hung, in degrees from straight down. */
const USUAL_LEAN_DEG: Record<Shape, number> = {
  profile: 52,
  wash: 24,
  head: 0,
  strip: 18,
  house: 0,
  hazer: 0,
};
/** Full angle of a beam that has no zoom, in degrees. */
const USUAL_ANGLE_DEG: Record<Shape, number> = {
  profile: 26,
  wash: 46,
  head: 20,
  strip: 60,
  house: 90,
  hazer: 20,
};
const USUAL_EDGE: Record<Shape, number> = {
  profile: 0.18,
  wash: 0.85,
  head: 0.3,
  strip: 0.95,
  house: 0.9,
  hazer: 1,
};
const NARROWEST_DEG = 2;
/** What an iris takes of the beam when it is closed. */
const IRIS_TAKES = 0.9;
/** A focus that is so far from the middle makes a wholly soft edge. */
const FOCUS_SOFTENS = 1.4;

type Hung = Pick<FixtureRow, 'position' | 'rotation' | 'lean'>;
type Looks = Pick<TypeRow, 'shape' | 'reach_m'>;

/** A unit as it hangs, leaned as its kind usually is where nobody has set that. */
export const hangs = (fixture: Hung, shape: Shape, turns: boolean): Required<Head> => {
  const hung = hungAt(fixture);
  return { ...hung, lean_deg: hung.lean_deg ?? (turns ? 0 : USUAL_LEAN_DEG[shape]) };
};

/** How far a unit leans, as it is drawn and aimed: as somebody has set it, or as its kind usually does. */
export const leanOf = (fixture: Hung & Pick<FixtureRow, 'mode'>, type: TypeRow): number => {
  const mode = type.modes.find((m) => m.name === fixture.mode);
  const turns = mode?.channels.some((c) => c.attribute === 'Pan') ?? false;
  return hangs(fixture, type.shape, turns).lean_deg;
};

/** Where its light comes from. */
export function beamFrom(fixture: Hung, type: Looks, turns: boolean): Point {
  const { lean_deg } = hangs(fixture, type.shape, turns);
  const { x, y, z } = headOf({ ...fixture, lean: lean_deg }, type);
  return { x, y, z };
}

/** @param turn degrees of pan and tilt; undefined for what does not turn */
export const beamWay = (
  fixture: Hung,
  shape: Shape,
  turn: { pan_deg: number; tilt_deg: number } | undefined,
): Direction =>
  direction(hangs(fixture, shape, turn !== undefined), turn?.pan_deg ?? 0, turn?.tilt_deg ?? 0);

/** Full angle in degrees. @param zoom_deg undefined for what has none @param iris 0 open to 1 closed */
export const beamWidth = (
  type: Pick<TypeRow, 'shape' | 'beam_deg'>,
  zoom_deg: number | undefined,
  iris = 0,
): number =>
  Math.max(
    NARROWEST_DEG,
    (zoom_deg ?? type.beam_deg ?? USUAL_ANGLE_DEG[type.shape]) * (1 - IRIS_TAKES * iris),
  );

/** How soft the edge is, 0 hard to 1 soft. @param frost 0…1 @param focus 0…1, sharp in the middle; undefined for what has none */
export const beamEdge = (shape: Shape, frost: number, focus: number | undefined): number =>
  Math.max(frost, focus === undefined ? USUAL_EDGE[shape] : Math.abs(focus - 0.5) * FOCUS_SOFTENS);
