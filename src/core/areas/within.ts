/** Places within an area. */
import type { StagePoint } from '../show/fields.ts';
import type { Corner } from './rows.ts';

/** Whether a place of the floor lies within a polygon: a line from it to the side crosses its edges an odd number of times. */
export function isWithin(corners: readonly Corner[], { x, y }: Corner): boolean {
  let inside = false;
  corners.forEach((a, i) => {
    const b = corners[(i + corners.length - 1) % corners.length] ?? a;
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  });
  return inside;
}

/** The box around corners, in metres. */
export function boxOf(corners: readonly Corner[]): {
  left: number;
  right: number;
  near: number;
  far: number;
} {
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  return {
    left: Math.min(...xs),
    right: Math.max(...xs),
    near: Math.min(...ys),
    far: Math.max(...ys),
  };
}

/** Places each way over which an area is looked at. */
const ACROSS = 5;

/** Places evenly over an area on the floor, in metres; its corners' middle where none of them falls into it. */
export function placesIn(corners: readonly Corner[]): StagePoint[] {
  const { left, right, near, far } = boxOf(corners);
  const found: StagePoint[] = [];
  for (let i = 0; i < ACROSS; i++)
    for (let j = 0; j < ACROSS; j++) {
      const at = {
        x: left + ((right - left) * (i + 0.5)) / ACROSS,
        y: near + ((far - near) * (j + 0.5)) / ACROSS,
      };
      if (isWithin(corners, at)) found.push({ ...at, z: 0 });
    }
  if (found.length > 0) return found;
  const n = Math.max(1, corners.length);
  const sum = corners.reduce((a, c) => ({ x: a.x + c.x, y: a.y + c.y }), { x: 0, y: 0 });
  return [{ x: sum.x / n, y: sum.y / n, z: 0 }];
}
