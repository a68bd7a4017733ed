/** Where several beams meet: for keeping what heads do as a stage point. */
import type { FixtureRow } from '../fixtures/rows.ts';
import type { TypeRow } from '../types/rows.ts';
import { direction, type Aim, type Direction, type Point } from './aim.ts';
import { headOf } from './unit.ts';

/** A ray of light, without an end. */
export interface Beam {
  from: Point;
  along: Direction;
}

/** The ray of a unit in metres of the stage, from the point that its head turns about. */
export const beamOf = (
  fixture: Pick<FixtureRow, 'position' | 'rotation' | 'lean'>,
  type: Pick<TypeRow, 'reach_m'>,
  { pan_deg, tilt_deg }: Aim,
): Beam => {
  const head = headOf(fixture, type);
  return { from: { x: head.x, y: head.y, z: head.z }, along: direction(head, pan_deg, tilt_deg) };
};

/** Beams that pass each other farther than this do not meet. */
const MEET_M = 0.6;

/**
 * The point nearest to all beams (least squares of the distances); one beam alone is taken where it meets the floor.
 * @returns undefined when they do not meet: parallel, apart by more than 0.6 m, or behind a unit
 */
export function meetingPoint(beams: readonly Beam[]): Point | undefined {
  const [first] = beams;
  if (!first) return undefined;
  if (beams.length === 1) {
    const reach = first.along[2] < -0.05 ? first.from.z / -first.along[2] : NaN;
    return reach > 0
      ? { x: first.from.x + first.along[0] * reach, y: first.from.y + first.along[1] * reach, z: 0 }
      : undefined;
  }
  // Sum of (I - d·dᵀ) over the beams, times the point, equals the sum of (I - d·dᵀ)·origin.
  const m = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  const v = [0, 0, 0];
  for (const { from, along } of beams) {
    const o = [from.x, from.y, from.z];
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) {
        const part = (i === j ? 1 : 0) - (along[i] ?? 0) * (along[j] ?? 0);
        (m[i] as number[])[j] = (m[i]?.[j] ?? 0) + part;
        v[i] = (v[i] ?? 0) + part * (o[j] ?? 0);
      }
    }
  }
  const at = solve3(m, v);
  if (!at) return undefined;
  const [x = 0, y = 0, z = 0] = at;
  for (const { from, along } of beams) {
    const [dx, dy, dz] = [x - from.x, y - from.y, z - from.z];
    const ahead = dx * along[0] + dy * along[1] + dz * along[2];
    const apart = Math.hypot(dx - along[0] * ahead, dy - along[1] * ahead, dz - along[2] * ahead);
    if (ahead <= 0 || apart > MEET_M) return undefined;
  }
  return { x, y, z };
}

/** Cramer's rule; undefined when the beams are as good as parallel. */
function solve3(m: readonly (readonly number[])[], v: readonly number[]): number[] | undefined {
  const at = (a: readonly (readonly number[])[], i: number, j: number): number => a[i]?.[j] ?? 0;
  const det = (a: readonly (readonly number[])[]): number =>
    at(a, 0, 0) * (at(a, 1, 1) * at(a, 2, 2) - at(a, 1, 2) * at(a, 2, 1)) -
    at(a, 0, 1) * (at(a, 1, 0) * at(a, 2, 2) - at(a, 1, 2) * at(a, 2, 0)) +
    at(a, 0, 2) * (at(a, 1, 0) * at(a, 2, 1) - at(a, 1, 1) * at(a, 2, 0));
  const d = det(m);
  if (Math.abs(d) < 1e-6) return undefined;
  return [0, 1, 2].map(
    (k) => det(m.map((row, i) => row.map((value, j) => (j === k ? (v[i] ?? 0) : value)))) / d,
  );
}
