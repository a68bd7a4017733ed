/** Values spread over a selection in its order. */

export const CURVES = ['even', 'in', 'out', 's'] as const;
/** How the way from one end to the other is shared out: evenly, slowly at first, slowly at last, slowly at both. */
export type Curve = (typeof CURVES)[number];
/** Which of the selection stays where it is while the others spread. */
export const PIVOTS = ['middle', 'first', 'last', 'mirrored'] as const;
export type Pivot = (typeof PIVOTS)[number];

const bend = (curve: Curve, t: number): number => (curve === 'in' ? t * t : curve === 'out' ? t * (2 - t) : curve === 's' ? t * t * (3 - 2 * t) : t);
const place = (i: number, n: number): number => (n === 1 ? 0 : i / (n - 1));

/**
 * Values from stop to stop over `count` units: `20 thru 80`, `20 thru 80 thru 20`.
 * @param mirrored the first stop in the middle, the last at both ends
 */
export function fanThrough(count: number, stops: readonly number[], { mirrored = false, curve = 'even' }: { mirrored?: boolean; curve?: Curve } = {}): number[] {
  return Array.from({ length: count }, (_, i) => {
    const t = mirrored ? Math.abs(place(i, count) * 2 - 1) : place(i, count);
    const at = bend(curve, t) * (stops.length - 1);
    const k = Math.min(stops.length - 2, Math.floor(at));
    const a = stops[Math.max(0, k)] ?? 0;
    return k < 0 ? a : a + ((stops[k + 1] ?? a) - a) * (at - k);
  });
}

/** What each of `count` units is moved by, when the one farthest from the pivot is moved by `by`. */
export function fanOffsets(count: number, by: number, pivot: Pivot = 'middle', curve: Curve = 'even'): number[] {
  const signed = (t: number): number => Math.sign(t) * bend(curve, Math.abs(t));
  return Array.from({ length: count }, (_, i) => {
    const t = place(i, count);
    const w = pivot === 'first' ? signed(t) : pivot === 'last' ? signed(t - 1) : pivot === 'mirrored' ? bend(curve, Math.abs(t * 2 - 1)) : signed(t * 2 - 1);
    return w === 0 ? 0 : by * w;
  });
}
