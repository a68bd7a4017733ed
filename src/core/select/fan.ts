/** Values spread over a selection in its order. */

export const CURVES = ['even', 'in', 'out', 's'] as const;
/** How the way from one end to the other is shared out: evenly, slowly at first, slowly at last, slowly at both. */
export type Curve = (typeof CURVES)[number];
/** Which of the selection stays where it is while the others spread. */
export const PIVOTS = ['middle', 'first', 'last', 'mirrored'] as const;
export type Pivot = (typeof PIVOTS)[number];

const BENDS: Readonly<Record<Curve, (t: number) => number>> = {
  even: (t) => t,
  in: (t) => t * t,
  out: (t) => t * (2 - t),
  s: (t) => t * t * (3 - 2 * t),
};
const bend = (curve: Curve, t: number): number => BENDS[curve](t);
const place = (i: number, n: number): number => (n === 1 ? 0 : i / (n - 1));

/** How units stand in groups: so many neighbours together, the same again after so many. Both 0 or absent: each by itself. */
export interface Grouping {
  together?: number | undefined;
  again?: number | undefined;
}

/** Where each of `count` units is on the way, 0…1. */
function places(count: number, { together = 0, again = 0 }: Grouping): number[] {
  const round = again > 0 ? Math.min(again, count) : count;
  const step = Math.max(1, together);
  const steps = Math.ceil(round / step);
  return Array.from({ length: count }, (_, i) => place(Math.floor((i % round) / step), steps));
}

/** How far along the way from the first stop to the last a unit is: the curve begins at the pivot and goes out from it. */
function along(t: number, pivot: Pivot, curve: Curve): number {
  switch (pivot) {
    case 'first':
      return bend(curve, t);
    case 'last':
      return 1 - bend(curve, 1 - t);
    case 'middle':
      return 0.5 + 0.5 * Math.sign(t * 2 - 1) * bend(curve, Math.abs(t * 2 - 1));
    case 'mirrored':
      return bend(curve, Math.abs(t * 2 - 1));
  }
}

/**
 * Values from stop to stop over `count` units: `20 thru 80`, `20 thru 80 thru 20`.
 * @param pivot where the curve begins; `mirrored` puts the first stop in the middle and the last at both ends
 * @param mirrored the same as that pivot
 */
export function fanThrough(
  count: number,
  stops: readonly number[],
  {
    mirrored = false,
    curve = 'even',
    pivot = 'first',
    ...groups
  }: { mirrored?: boolean; curve?: Curve; pivot?: Pivot } & Grouping = {},
): number[] {
  return places(count, groups).map((t) => {
    const at = along(t, mirrored ? 'mirrored' : pivot, curve) * (stops.length - 1);
    const k = Math.min(stops.length - 2, Math.floor(at));
    const a = stops[Math.max(0, k)] ?? 0;
    return k < 0 ? a : a + ((stops[k + 1] ?? a) - a) * (at - k);
  });
}

/** What each of `count` units is moved by, when the one farthest from the pivot is moved by `by`. */
export function fanOffsets(
  count: number,
  by: number,
  pivot: Pivot = 'middle',
  curve: Curve = 'even',
  groups: Grouping = {},
): number[] {
  const signed = (t: number): number => Math.sign(t) * bend(curve, Math.abs(t));
  const WEIGHTS: Readonly<Record<Pivot, (t: number) => number>> = {
    first: signed,
    last: (t) => signed(t - 1),
    middle: (t) => signed(t * 2 - 1),
    mirrored: (t) => Math.abs(signed(t * 2 - 1)),
  };
  return places(count, groups).map((t) => {
    const w = WEIGHTS[pivot](t);
    return w === 0 ? 0 : by * w;
  });
}
