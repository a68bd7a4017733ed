/** Beams of units: where one points, how wide it is and how soft its edge, from levels as they reach the unit. */
import { headOf } from './unit.ts';
import { direction, type Direction } from './aim.ts';
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

/** @param turn degrees of pan and tilt; undefined for what does not turn */
export function beamWay(
  fixture: Pick<FixtureRow, 'position' | 'rotation' | 'lean'>,
  shape: Shape,
  turn: { pan_deg: number; tilt_deg: number } | undefined,
): Direction {
  const head = headOf(fixture);
  const lean_deg = head.lean_deg ?? (turn ? 0 : USUAL_LEAN_DEG[shape]);
  return direction({ ...head, lean_deg }, turn?.pan_deg ?? 0, turn?.tilt_deg ?? 0);
}

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
