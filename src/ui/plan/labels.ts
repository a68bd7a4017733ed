/** Where the names of areas stand on a plan, so that they lie over as few units and other names as can be. */
import type { Pixel } from './pick';

interface Box {
  left: number;
  top: number;
  w: number;
  h: number;
}

/** Of words at 12 px. */
const LETTER_PX = 6.4;
const LINE_PX = 15;
const MARGIN_PX = 6;
const UNIT_PX = 13;
/** A name over another cannot be read; over a unit it still can. */
const OVER_A_NAME = 4;

const overlap = (a: Box, b: Box): boolean =>
  a.left < b.left + b.w && b.left < a.left + a.w && a.top < b.top + b.h && b.top < a.top + a.h;

/** Places for a name inside an outline, as people look for them: upper left first, then the other corners and middles. */
function placesIn(corners: readonly Pixel[], w: number): Box[] {
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  const [left, top] = [Math.min(...xs) + MARGIN_PX, Math.min(...ys) + 3];
  const right = Math.max(left, Math.max(...xs) - MARGIN_PX - w);
  const bottom = Math.max(top, Math.max(...ys) - 3 - LINE_PX);
  const [across, down] = [(left + right) / 2, (top + bottom) / 2];
  return [top, bottom, down].flatMap((y) =>
    [left, right, across].map((x) => ({ left: x, top: y, w, h: LINE_PX })),
  );
}

/**
 * @param areas outlines in pixels, with what is to be written in each
 * @param units where symbols stand, in pixels
 * @returns where the first letter of each stands on its line, in the order of the areas
 */
export function labelsOf(
  areas: readonly { name: string; corners: readonly Pixel[] }[],
  units: readonly Pixel[],
): Pixel[] {
  const taken: Box[] = [];
  return areas.map(({ name, corners }) => {
    const over = (box: Box): number =>
      OVER_A_NAME * taken.filter((t) => overlap(t, box)).length +
      units.filter((u) =>
        overlap(box, { left: u.x - UNIT_PX, top: u.y - UNIT_PX, w: 2 * UNIT_PX, h: 2 * UNIT_PX }),
      ).length;
    let best: Box | null = null;
    let least = Infinity;
    for (const box of placesIn(corners, name.length * LETTER_PX)) {
      const n = over(box);
      if (n >= least) continue;
      least = n;
      best = box;
    }
    if (!best) return { x: 0, y: 0 };
    taken.push(best);
    return { x: best.left, y: best.top + LINE_PX - 3 };
  });
}
