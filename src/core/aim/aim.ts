/**
 * Heads and the stage. Metres: x from centre towards the audience's right, y upstage from the plaster line, z up.
 * A hanging head at pan 0, tilt 0 looks straight down; tilt leans it over, pan turns it clockwise seen from above,
 * counted from upstage. `rotation_deg` turns the whole fixture the same way. `lean_deg` is how its base is mounted:
 * 0 hangs, 90 looks out from a boom in the direction of its rotation, 180 stands on the floor. Units that do not move
 * point where their lean says.
 */
export interface Head {
  x: number;
  y: number;
  z: number;
  rotation_deg: number;
  lean_deg?: number;
}

/** A place on stage, metres. */
export interface Point {
  x: number;
  y: number;
  z: number;
}
/** A direction of length 1. */
export type Direction = readonly [x: number, y: number, z: number];

/** Past this the light no longer falls on the floor in any useful place. */
const HORIZON_DEG = 83;
const rad = (deg: number): number => (deg * Math.PI) / 180;
const deg = (radians: number): number => (radians * 180) / Math.PI;

/** From the fixture's own frame to the stage's: leaned first, then turned. */
function toStage(
  [x, y, z]: Direction,
  { rotation_deg, lean_deg = 0 }: Pick<Head, 'rotation_deg' | 'lean_deg'>,
): Direction {
  const [cl, sl] = [Math.cos(rad(lean_deg)), Math.sin(rad(lean_deg))];
  const leaned: Direction = [x, y * cl - z * sl, y * sl + z * cl];
  const [cr, sr] = [Math.cos(rad(rotation_deg)), Math.sin(rad(rotation_deg))];
  return [leaned[0] * cr + leaned[1] * sr, -leaned[0] * sr + leaned[1] * cr, leaned[2]];
}

function fromStage(
  [x, y, z]: Direction,
  { rotation_deg, lean_deg = 0 }: Pick<Head, 'rotation_deg' | 'lean_deg'>,
): Direction {
  const [cr, sr] = [Math.cos(rad(rotation_deg)), Math.sin(rad(rotation_deg))];
  const turned: Direction = [x * cr - y * sr, x * sr + y * cr, z];
  const [cl, sl] = [Math.cos(rad(lean_deg)), Math.sin(rad(lean_deg))];
  return [turned[0], turned[1] * cl + turned[2] * sl, -turned[1] * sl + turned[2] * cl];
}

/** A point of a unit's own frame (metres from where it hangs, z up), on the stage. */
export function onStage(head: Head, [x, y, z]: Direction): Point {
  const [dx, dy, dz] = toStage([x, y, z], head);
  return { x: head.x + dx, y: head.y + dy, z: head.z + dz };
}

/**
 * Where the axes of a unit's part point on the stage that is panned and tilted: its x, y and z. Light goes against its z.
 */
export function partAxes(
  head: Pick<Head, 'rotation_deg' | 'lean_deg'>,
  pan_deg: number,
  tilt_deg: number,
): [x: Direction, y: Direction, z: Direction] {
  const [cp, sp] = [Math.cos(rad(pan_deg)), Math.sin(rad(pan_deg))];
  const [ct, st] = [Math.cos(rad(tilt_deg)), Math.sin(rad(tilt_deg))];
  const turned = ([x, y, z]: Direction): Direction => {
    const [ty, tz] = [y * ct - z * st, y * st + z * ct];
    return toStage([x * cp + ty * sp, -x * sp + ty * cp, tz], head);
  };
  return [turned([1, 0, 0]), turned([0, 1, 0]), turned([0, 0, 1])];
}

/** Where a head looks, as a direction on the stage. */
export function direction(
  head: Pick<Head, 'rotation_deg' | 'lean_deg'>,
  pan_deg: number,
  tilt_deg: number,
): Direction {
  const [p, t] = [rad(pan_deg), rad(tilt_deg)];
  return toStage([Math.sin(t) * Math.sin(p), Math.sin(t) * Math.cos(p), -Math.cos(t)], head);
}

/** Where a head points on a floor at height `floor_m`; undefined at or above the horizon, or below the floor. */
export function landing(
  head: Head,
  pan_deg: number,
  tilt_deg: number,
  floor_m = 0,
): { x: number; y: number } | undefined {
  const height = head.z - floor_m;
  const [dx, dy, dz] = direction(head, pan_deg, tilt_deg);
  if (height <= 0 || -dz < Math.cos(rad(HORIZON_DEG))) return undefined;
  const reach = height / -dz;
  return { x: head.x + dx * reach, y: head.y + dy * reach };
}

/** Where a head points, degrees as above. */
export interface Aim {
  pan_deg: number;
  tilt_deg: number;
}

/** Angles nearer than this to a limit count as within it. */
const SLACK_DEG = 1e-9;

/**
 * Every pan and tilt within the ranges that points a head at a stage point, in the order of their travel from `near`.
 * Two ways lead to every point, turned towards it leaning forward or turned away leaning back (a flip), and each again
 * a full turn further where the pan range allows it.
 */
export function aimWays(
  head: Head,
  point: Point,
  panRange: readonly [number, number],
  tiltRange: readonly [number, number],
  near: Aim = { pan_deg: 0, tilt_deg: 0 },
): Aim[] {
  const [dx, dy, dz] = [point.x - head.x, point.y - head.y, point.z - head.z];
  const length = Math.hypot(dx, dy, dz);
  if (length < 1e-6) return [];
  const [x, y, z] = fromStage([dx / length, dy / length, dz / length], head);
  const tilt = deg(Math.atan2(Math.hypot(x, y), -z));
  // Straight along its axis every pan will do: the one that is nearest stays.
  const towards = Math.hypot(x, y) < 1e-9 ? near.pan_deg : deg(Math.atan2(x, y));
  const within = (v: number, range: readonly [number, number]): boolean =>
    v >= Math.min(...range) - SLACK_DEG && v <= Math.max(...range) + SLACK_DEG;
  const travel = (a: Aim): number =>
    Math.max(Math.abs(a.pan_deg - near.pan_deg), Math.abs(a.tilt_deg - near.tilt_deg));
  return [
    { pan_deg: towards, tilt_deg: tilt },
    { pan_deg: towards + 180, tilt_deg: -tilt },
  ]
    .flatMap((way) =>
      [-720, -360, 0, 360, 720].map((turn) => ({
        pan_deg: way.pan_deg + turn,
        tilt_deg: way.tilt_deg,
      })),
    )
    .filter((w) => within(w.pan_deg, panRange) && within(w.tilt_deg, tiltRange))
    .sort((a, b) => travel(a) - travel(b));
}

/** The way with the least travel from `near`; undefined when no way lies within the ranges. */
export const aimAt = (
  head: Head,
  point: Point,
  panRange: readonly [number, number],
  tiltRange: readonly [number, number],
  near?: Aim,
): Aim | undefined => aimWays(head, point, panRange, tiltRange, near)[0];
