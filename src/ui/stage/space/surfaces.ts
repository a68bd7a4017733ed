/** What light falls on: flat pieces of the stage, and where on them a beam lands. Stage metres: x right, y upstage, z up. */
import type { PieceRow } from '@/core/plan/rows';

/** A point or a direction, metres. */
export type Vec = readonly [x: number, y: number, z: number];
/** Stage metres (x right, y upstage, z up) as three.js has them: x, z, -y. */
export const toWorld = ([x, y, z]: Vec): [x: number, y: number, z: number] => [x, z, -y];
/** The sum of two, the second taken `k` times. */
export const add = (a: Vec, b: Vec, k = 1): Vec => [
  a[0] + b[0] * k,
  a[1] + b[1] * k,
  a[2] + b[2] * k,
];
/** Their inner product. */
export const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vec, b: Vec): Vec => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
/** The same direction, one long. */
export const unit = (a: Vec): Vec => {
  const l = Math.hypot(...a) || 1;
  return [a[0] / l, a[1] / l, a[2] / l];
};

/** A rectangle: a corner, two directions of length 1 at right angles, and how far it goes along them. */
export interface Surface {
  corner: Vec;
  u: Vec;
  v: Vec;
  normal: Vec;
  width: number;
  height: number;
}

const CYC_HEIGHT_M = 5.5;

function wall(
  a: { x: number; y: number },
  b: { x: number; y: number },
  z: number,
  height: number,
): Surface | undefined {
  const width = Math.hypot(b.x - a.x, b.y - a.y);
  if (width < 0.05 || height < 0.05) return undefined;
  const u: Vec = [(b.x - a.x) / width, (b.y - a.y) / width, 0];
  return { corner: [a.x, a.y, z], u, v: [0, 0, 1], normal: [u[1], -u[0], 0], width, height };
}

/** Floor, cyc and set pieces. @param bounds of the floor in metres */
export function surfacesOf(
  pieces: readonly PieceRow[],
  bounds: { left: number; right: number; top: number; bottom: number },
): Surface[] {
  const floor: Surface = {
    corner: [bounds.left, bounds.bottom, 0],
    u: [1, 0, 0],
    v: [0, 1, 0],
    normal: [0, 0, 1],
    width: bounds.right - bounds.left,
    height: bounds.top - bounds.bottom,
  };
  const found: Surface[] = [floor];
  for (const piece of pieces) {
    const tall = piece.height ?? (piece.kind === 'cyc' ? CYC_HEIGHT_M : 0);
    // What has a shape of its own is drawn as that: its box would be lit in the air.
    if ((piece.kind !== 'cyc' && piece.kind !== 'set') || tall <= 0 || piece.mesh) continue;
    // Walls of a piece face outwards, a cyc faces the audience.
    const area = piece.points.reduce(
      (sum, p, i) =>
        sum +
        p.x * (piece.points[(i + 1) % piece.points.length]?.y ?? 0) -
        (piece.points[(i + 1) % piece.points.length]?.x ?? 0) * p.y,
      0,
    );
    const first = piece.points[0];
    const last = piece.points.at(-1);
    const turned = piece.kind === 'cyc' ? (last?.x ?? 0) < (first?.x ?? 0) : area < 0;
    const ring =
      piece.kind === 'set' && piece.points.length > 2
        ? [...piece.points, ...piece.points.slice(0, 1)]
        : piece.points;
    for (let i = 0; i + 1 < ring.length; i++) {
      const [a, b] = [ring[i], ring[i + 1]];
      const side = a && b ? wall(a, b, piece.z, tall) : undefined;
      if (side) found.push(turned ? { ...side, normal: add([0, 0, 0], side.normal, -1) } : side);
    }
    if (piece.kind !== 'set' || piece.points.length < 3) continue;
    const xs = piece.points.map((p) => p.x);
    const ys = piece.points.map((p) => p.y);
    found.push({
      corner: [Math.min(...xs), Math.min(...ys), piece.z + tall],
      u: [1, 0, 0],
      v: [0, 1, 0],
      normal: [0, 0, 1],
      width: Math.max(...xs) - Math.min(...xs),
      height: Math.max(...ys) - Math.min(...ys),
    });
  }
  return found;
}

/** Whether a point is before a surface, where its light can be seen. */
export const isBefore = (s: Surface, p: Vec): boolean => dot(add(p, s.corner, -1), s.normal) > 0;

/** How far a ray goes until it meets the surface's plane; undefined when it never does. */
export function distanceTo(s: Surface, from: Vec, along: Vec): number | undefined {
  const down = dot(along, s.normal);
  if (Math.abs(down) < 1e-4) return undefined;
  const t = dot(add(s.corner, from, -1), s.normal) / down;
  return t > 0.01 ? t : undefined;
}

/** Where a ray meets a surface, in metres along u and v; it may lie beside it. */
export function meets(s: Surface, from: Vec, along: Vec): [u: number, v: number] | undefined {
  const t = distanceTo(s, from, along);
  if (t === undefined) return undefined;
  const p = add(add(from, along, t), s.corner, -1);
  return [dot(p, s.u), dot(p, s.v)];
}

/** Two directions at right angles to a beam. */
export function around(along: Vec): [right: Vec, up: Vec] {
  const right = unit(cross(along, Math.abs(along[2]) > 0.99 ? [0, 1, 0] : [0, 0, 1]));
  return [right, cross(right, along)];
}

const RIM = 12;

/**
 * The part of a surface that a cone of light can reach, as a rectangle along u and v; undefined when it lands beside it.
 * Where the cone runs along the surface to the horizon, the rectangle goes to the surface's edges.
 * @param half_deg half of the beam's angle
 */
export function reachOn(
  s: Surface,
  from: Vec,
  along: Vec,
  half_deg: number,
): { u: [number, number]; v: [number, number] } | undefined {
  const [right, up] = around(along);
  const spread = Math.tan((Math.min(80, half_deg) * Math.PI) / 180);
  const us: number[] = [];
  const vs: number[] = [];
  let missed = false;
  for (let i = 0; i <= RIM; i++) {
    const turn = (i / RIM) * 2 * Math.PI;
    const ray =
      i === RIM
        ? along
        : unit(add(add(along, right, Math.cos(turn) * spread), up, Math.sin(turn) * spread));
    const hit = meets(s, from, ray);
    if (!hit) {
      missed = true;
      continue;
    }
    us.push(hit[0]);
    vs.push(hit[1]);
  }
  if (us.length === 0) return undefined;
  // The rim is sampled: a little more than its corners, so that nothing round is cut.
  const grow = (low: number, high: number): [number, number] => [
    low - (high - low) * 0.05,
    high + (high - low) * 0.05,
  ];
  let [u, v] = [grow(Math.min(...us), Math.max(...us)), grow(Math.min(...vs), Math.max(...vs))];
  if (missed) {
    u = [Math.min(u[0], 0), Math.max(u[1], s.width)];
    v = [Math.min(v[0], 0), Math.max(v[1], s.height)];
  }
  const clip = ([low, high]: [number, number], most: number): [number, number] => [
    Math.max(0, low),
    Math.min(most, high),
  ];
  const [cu, cv] = [clip(u, s.width), clip(v, s.height)];
  return cu[1] - cu[0] < 0.01 || cv[1] - cv[0] < 0.01 ? undefined : { u: cu, v: cv };
}
