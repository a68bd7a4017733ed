/** A stage point as the pan and tilt levels of one unit, within its ranges and its own limits. */
import { modeOf } from '../fixtures/points.ts';
import { transformed, withinLimits } from '../rig/transform.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import type { Show } from '../show/show.ts';
import { aimWays, onStage, type Aim, type Head, type Point } from './aim.ts';

/** Attributes of a head that points, 0…1 of their ranges. */
export interface Turn {
  Pan: number;
  Tilt: number;
}

type Hung = Pick<FixtureRow, 'position' | 'rotation' | 'lean'>;
type Reach = Pick<TypeRow, 'reach_m'>;

/** A unit where it hangs. */
export const hungAt = (fixture: Hung): Head => ({
  ...fixture.position,
  rotation_deg: fixture.rotation,
  ...(fixture.lean === undefined ? {} : { lean_deg: fixture.lean }),
});

/** A unit where its axes meet, from which it looks: its type says how far below the point that it hangs from. */
export const headOf = (fixture: Hung, { reach_m }: Reach): Head => {
  const hung = hungAt(fixture);
  return reach_m === undefined ? hung : { ...hung, ...onStage(hung, [0, 0, -reach_m]) };
};

/** A unit of a rig, and what it is. */
export interface Unit {
  fixture: FixtureRow;
  mode: Mode;
  type: Reach;
}

const rangeOf = (mode: Mode, attribute: string): [number, number] | undefined => {
  const channel = mode.channels.find((c) => c.attribute === attribute);
  return channel ? [channel.physicalFrom, channel.physicalTo] : undefined;
};
const round = (v: number): number => Math.round(v * 1e6) / 1e6;

/** Degrees that a unit's levels stand for; undefined for what does not turn. */
export function degreesOf(fixture: FixtureRow, mode: Mode, turn: Turn): Aim | undefined {
  const [pan, tilt] = [rangeOf(mode, 'Pan'), rangeOf(mode, 'Tilt')];
  if (!pan || !tilt) return undefined;
  const at = (attribute: 'Pan' | 'Tilt', [from, to]: [number, number]): number => {
    const t = fixture.transforms?.[attribute];
    const limited = t
      ? {
          ...(t.min === undefined ? {} : { min: t.min }),
          ...(t.max === undefined ? {} : { max: t.max }),
        }
      : undefined;
    return from + (to - from) * transformed(limited, turn[attribute]);
  };
  return { pan_deg: at('Pan', pan), tilt_deg: at('Tilt', tilt) };
}

/**
 * Levels that point a unit at a stage point, with the least travel from `near`; undefined where it cannot look, and for
 * what does not turn. Past its limits a head is not sent somewhere else instead.
 * @param flip the first way that leaves the other side of the head to the front, as the second choice of travel
 */
export function aimUnit(
  { fixture, mode, type }: Unit,
  point: Point,
  near?: Turn,
  flip = false,
): Turn | undefined {
  const [pan, tilt] = [rangeOf(mode, 'Pan'), rangeOf(mode, 'Tilt')];
  if (!pan || !tilt) return undefined;
  const from = near ? degreesOf(fixture, mode, near) : undefined;
  const turns = aimWays(headOf(fixture, type), point, pan, tilt, from).flatMap(
    (way): (Turn & { tilted: number })[] => {
      const share = (
        attribute: 'Pan' | 'Tilt',
        degrees: number,
        [low, high]: [number, number],
      ): number | undefined =>
        withinLimits(fixture.transforms?.[attribute], (degrees - low) / (high - low));
      const [p, t] = [share('Pan', way.pan_deg, pan), share('Tilt', way.tilt_deg, tilt)];
      return p === undefined || t === undefined
        ? []
        : [{ Pan: round(p), Tilt: round(t), tilted: Math.sign(way.tilt_deg) }];
    },
  );
  const [first] = turns;
  const chosen = flip ? turns.find((t) => t.tilted !== first?.tilted) : first;
  return chosen ? { Pan: chosen.Pan, Tilt: chosen.Tilt } : undefined;
}

/** The other way to look where the head looks now: turned round and leaned back. */
export function flipped(show: Show, fixture: FixtureRow, now: Turn): Turn | undefined {
  const mode = modeOf(show, fixture);
  const [pan, tilt] = mode ? [rangeOf(mode, 'Pan'), rangeOf(mode, 'Tilt')] : [];
  const at = mode ? degreesOf(fixture, mode, now) : undefined;
  if (!at || !pan || !tilt) return undefined;
  const inside = (v: number, r: readonly [number, number]): boolean =>
    v >= Math.min(...r) && v <= Math.max(...r);
  const to = [180, -180].map((turn) => at.pan_deg + turn).find((p) => inside(p, pan));
  if (to === undefined || !inside(-at.tilt_deg, tilt)) return undefined;
  const [p, t] = [
    withinLimits(fixture.transforms?.Pan, (to - pan[0]) / (pan[1] - pan[0])),
    withinLimits(fixture.transforms?.Tilt, (-at.tilt_deg - tilt[0]) / (tilt[1] - tilt[0])),
  ];
  return p === undefined || t === undefined ? undefined : { Pan: round(p), Tilt: round(t) };
}

/** Stage points from one to another, one a unit, evenly; a single unit takes the middle. */
export function pointsAlong(from: Point, to: Point, count: number): Point[] {
  return Array.from({ length: count }, (_, i) => {
    const t = count === 1 ? 0.5 : i / (count - 1);
    return {
      x: from.x + (to.x - from.x) * t,
      y: from.y + (to.y - from.y) * t,
      z: from.z + (to.z - from.z) * t,
    };
  });
}
