/** Triangles in space, and how a row keeps them. */
import { clamp } from '../numbers.ts';
import { fromBase64, toBase64 } from '../formats/base64.ts';
import type { Mesh } from './rows.ts';

/** Corners in metres (x, y, z of each, z up) and three corners for each triangle. */
export interface Triangles {
  points: Float32Array;
  faces: Uint32Array;
}
type Corner = [number, number, number];
/** A corner of a box, or anywhere. */
export interface Box {
  low: Corner;
  high: Corner;
}

/** @returns undefined where there is no corner */
export function boxOf({ points }: Pick<Triangles, 'points'>): Box | undefined {
  if (points.length < 3) return undefined;
  const low: Corner = [Infinity, Infinity, Infinity];
  const high: Corner = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < points.length; i++) {
    const v = points[i] as number;
    if (v < (low[i % 3] as number)) low[i % 3] = v;
    if (v > (high[i % 3] as number)) high[i % 3] = v;
  }
  return { low, high };
}

/** Two triangles for each side, by corners counted as x·4 + y·2 + z, looking outwards. */
const SIDES = [
  0, 1, 3, 0, 3, 2, 4, 6, 7, 4, 7, 5, 0, 4, 5, 0, 5, 1, 2, 3, 7, 2, 7, 6, 0, 2, 6, 0, 6, 4, 1, 5, 7,
  1, 7, 3,
];
/** A box as twelve triangles, in metres. */
export function boxTriangles({ low, high }: Box): Triangles {
  const points = [low, high].flatMap(([x]) =>
    [low, high].flatMap(([, y]) => [low, high].flatMap(([, , z]) => [x, y, z])),
  );
  return { points: Float32Array.from(points), faces: Uint32Array.from(SIDES) };
}

/** All of several, as one. */
export function joinedTriangles(all: readonly Triangles[]): Triangles {
  const points = new Float32Array(all.reduce((n, t) => n + t.points.length, 0));
  const faces = new Uint32Array(all.reduce((n, t) => n + t.faces.length, 0));
  let [p, f] = [0, 0];
  for (const t of all) {
    points.set(t.points, p);
    for (let i = 0; i < t.faces.length; i++) faces[f + i] = (t.faces[i] as number) + p / 3;
    p += t.points.length;
    f += t.faces.length;
  }
  return { points, faces };
}

/** The same triangles elsewhere. @param move writes where a corner goes into its last argument */
export function movedTriangles(
  { points, faces }: Triangles,
  move: (x: number, y: number, z: number) => readonly [number, number, number],
): Triangles {
  const moved = new Float32Array(points.length);
  for (let i = 0; i + 2 < points.length; i += 3)
    moved.set(move(points[i] as number, points[i + 1] as number, points[i + 2] as number), i);
  return { points: moved, faces };
}

const SHARES = 65_535;
/** Little-endian, whatever the machine is. */
function words(values: ArrayLike<number>): string {
  const bytes = new Uint8Array(values.length * 2);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < values.length; i++) view.setUint16(i * 2, values[i] as number, true);
  return toBase64(bytes);
}
function wordsIn(text: string): Uint16Array {
  const bytes = fromBase64(text);
  const view = new DataView(bytes.buffer);
  return Uint16Array.from({ length: bytes.length >> 1 }, (_, i) => view.getUint16(i * 2, true));
}

/** A hundredth of a millimetre: what files keep of it in 32 bits is the same again (meshes.test.ts). */
const round = (v: number): number => Math.round(v * 1e5) / 1e5 + 0;

/**
 * As a row keeps it. @returns undefined for what has no triangle, or more corners than 16 bits count
 */
export function meshOf(triangles: Triangles): Mesh | undefined {
  const box = boxOf(triangles);
  const { points, faces } = triangles;
  if (!box || faces.length < 3 || points.length / 3 > SHARES) return undefined;
  const [low, high] = [box.low.map(round) as Corner, box.high.map(round) as Corner];
  const shares = Array.from(points, (v, i) => {
    const [a, b] = [low[i % 3] as number, high[i % 3] as number];
    return b > a ? clamp(Math.round(((v - a) / (b - a)) * SHARES), 0, SHARES) : 0;
  });
  return { low, high, points: words(shares), faces: words(faces) };
}

/**
 * The triangles of a row, in its own box or in another. Triangles whose corners are not there are left out: a row may
 * come from anywhere (meshes.test.ts).
 */
export function trianglesOf(mesh: Mesh, { low, high }: Box = mesh): Triangles {
  const shares = wordsIn(mesh.points);
  const points = new Float32Array(shares.length - (shares.length % 3));
  for (let i = 0; i < points.length; i++) {
    const [a, b] = [low[i % 3] as number, high[i % 3] as number];
    points[i] = a + ((b - a) * (shares[i] as number)) / SHARES;
  }
  const named = wordsIn(mesh.faces);
  const count = points.length / 3;
  const faces: number[] = [];
  for (let i = 0; i + 2 < named.length; i += 3) {
    const [a, b, c] = [named[i] as number, named[i + 1] as number, named[i + 2] as number];
    if (a < count && b < count && c < count) faces.push(a, b, c);
  }
  return { points, faces: Uint32Array.from(faces) };
}
