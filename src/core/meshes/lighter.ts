/** Fewer triangles for the same body: corners that lie near each other become one. */
import { boxOf, boxTriangles, type Triangles } from './triangles.ts';

/** Corners that a row keeps as one are one. */
const WELDED = 65_535;
/** Cells along the longest side of the box, from fine to coarse. */
const GRIDS = [256, 160, 96, 64, 48, 36, 28, 20, 14, 10, 7, 5, 3, 2];

/** Corners of one cell of a grid become their middle; triangles that fall together go. */
function onGrid({ points, faces }: Triangles, cells: number, isCube: boolean): Triangles {
  const box = boxOf({ points });
  if (!box) return { points, faces };
  const { low, high } = box;
  const long = high.map((v, i) => v - (low[i] as number));
  const longest = Math.max(...long);
  const size = long.map((own) => (isCube ? longest : own) / cells || 1);
  const cellOf = new Map<number, number>();
  const sums: number[] = [];
  const of = new Uint32Array(points.length / 3);
  for (let p = 0; p < of.length; p++) {
    let key = 0;
    for (let k = 0; k < 3; k++) {
      const from = (points[p * 3 + k] as number) - (low[k] as number);
      const at = Math.round(from / (size[k] as number));
      key = key * (cells + 1) + at;
    }
    let cell = cellOf.get(key);
    if (cell === undefined) {
      cell = sums.length / 4;
      cellOf.set(key, cell);
      sums.push(0, 0, 0, 0);
    }
    for (let k = 0; k < 3; k++)
      sums[cell * 4 + k] = (sums[cell * 4 + k] as number) + (points[p * 3 + k] as number);
    sums[cell * 4 + 3] = (sums[cell * 4 + 3] as number) + 1;
    of[p] = cell;
  }
  const middles = new Float32Array((sums.length / 4) * 3);
  for (let c = 0; c * 4 < sums.length; c++)
    for (let k = 0; k < 3; k++)
      middles[c * 3 + k] = (sums[c * 4 + k] as number) / (sums[c * 4 + 3] as number);
  return { points: middles, faces: distinct(faces, of) };
}

/** The same corners in the same turn, from the least on. */
function leastFirst(a: number, b: number, c: number): [number, number, number] {
  if (a < b && a < c) return [a, b, c];
  return b < c ? [b, c, a] : [c, a, b];
}

/** Triangles by their new corners, without those that have become lines, and each once. */
function distinct(faces: Uint32Array, of: Uint32Array): Uint32Array {
  const seen = new Set<string>();
  const kept: number[] = [];
  for (let f = 0; f + 2 < faces.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => of[faces[f + k] as number]) as [number, number, number];
    if (a === b || b === c || a === c) continue;
    // Turned so that the least is first, a triangle and its back stay two.
    const key = leastFirst(a, b, c).join();
    if (seen.has(key)) continue;
    seen.add(key);
    kept.push(a, b, c);
  }
  return Uint32Array.from(kept);
}

/** Corners that no triangle has go. */
function used({ points, faces }: Triangles): Triangles {
  const numbers = new Map<number, number>();
  const order = faces.map((corner) => {
    let n = numbers.get(corner);
    if (n === undefined) numbers.set(corner, (n = numbers.size));
    return n;
  });
  const own = new Float32Array(numbers.size * 3);
  for (const [corner, n] of numbers) own.set(points.subarray(corner * 3, corner * 3 + 3), n * 3);
  return { points: own, faces: order };
}

/**
 * With at most so many triangles, and a box where that is too few for its shape; as it is where it has no more, corners
 * that are in one place made one. @param most from 12 on
 * Costs what the mesh has, a few times over, whatever it is (meshes.test.ts).
 */
export function lighter(triangles: Triangles, most: number): Triangles {
  let now = used(onGrid(triangles, WELDED, false));
  for (const cells of GRIDS) {
    if (now.faces.length / 3 <= most) break;
    const next = used(onGrid(now, cells, true));
    if (next.faces.length < 3) break;
    now = next;
  }
  const box = boxOf(now);
  return now.faces.length / 3 <= most || !box ? now : boxTriangles(box);
}
