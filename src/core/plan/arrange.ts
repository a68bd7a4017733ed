/** Putting units in place: along a bar, in a row, on a grid. Metres in, metres out, rounded to centimetres. */
import { clamp } from '../numbers.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { PieceRow } from './rows.ts';

/** Where a unit hangs, metres. */
export type Place = FixtureRow['position'];
const cm = (m: number): number => Math.round(m * 100) / 100;
const at = (x: number, y: number, z: number): Place => ({ x: cm(x), y: cm(y), z: cm(z) });

/** Points along a line of the plan by its length, the first half a step in from its end. */
export function alongPiece(piece: Pick<PieceRow, 'points' | 'z'>, count: number): Place[] {
  const lengths = piece.points
    .slice(1)
    .map((p, i) => Math.hypot(p.x - (piece.points[i]?.x ?? 0), p.y - (piece.points[i]?.y ?? 0)));
  const total = lengths.reduce((a, b) => a + b, 0);
  return Array.from({ length: count }, (_, i) => {
    let left = (total * (i + 0.5)) / count;
    for (const [k, length] of lengths.entries()) {
      const [a, b] = [piece.points[k], piece.points[k + 1]];
      if (!a || !b) break;
      if (left <= length || k === lengths.length - 1) {
        const t = length === 0 ? 0 : Math.min(1, left / length);
        return at(a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t, piece.z);
      }
      left -= length;
    }
    return at(piece.points[0]?.x ?? 0, piece.points[0]?.y ?? 0, piece.z);
  });
}

/** The point of a line nearest to a place, at the line's height. */
export function ontoPiece(
  piece: Pick<PieceRow, 'points' | 'z'>,
  place: { x: number; y: number },
): Place & { distance: number } {
  let best = { ...at(place.x, place.y, piece.z), distance: Infinity };
  for (let i = 0; i + 1 < piece.points.length; i++) {
    const [a, b] = [piece.points[i], piece.points[i + 1]];
    if (!a || !b) continue;
    const size = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
    const t =
      size === 0
        ? 0
        : clamp(((place.x - a.x) * (b.x - a.x) + (place.y - a.y) * (b.y - a.y)) / size);
    const p = { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t };
    const distance = Math.hypot(p.x - place.x, p.y - place.y);
    if (distance < best.distance) best = { ...at(p.x, p.y, piece.z), distance };
  }
  return best;
}

/** All on one line: the mean across (`x`) or up the stage (`y`). */
export function aligned(places: readonly Place[], axis: 'x' | 'y'): Place[] {
  const mean = places.reduce((s, p) => s + p[axis], 0) / Math.max(1, places.length);
  return places.map((p) => at(axis === 'x' ? mean : p.x, axis === 'y' ? mean : p.y, p.z));
}

/** Evenly between the first and the last, in their order. */
export function distributed(places: readonly Place[]): Place[] {
  const [first, last] = [places[0], places.at(-1)];
  if (!first || !last || places.length < 3) return [...places];
  return places.map((p, i) => {
    const t = i / (places.length - 1);
    return at(first.x + (last.x - first.x) * t, first.y + (last.y - first.y) * t, p.z);
  });
}

/** Drawn within a metre or so of a bar, a unit is taken to it; else to the nearest tenth of a metre. */
const SNAP_M = 0.45;
/** A place drawn onto the nearest line that units hang on, if one is near; in metres. */
export function snapped(pieces: Iterable<PieceRow>, place: Place): { place: Place; hang: string } {
  let best: { place: Place; hang: string; distance: number } | undefined;
  for (const piece of pieces) {
    if ((piece.kind !== 'bar' && piece.kind !== 'boom') || piece.name === '') continue;
    const { distance, ...on } = ontoPiece(piece, place);
    if (distance < SNAP_M && distance < (best?.distance ?? Infinity))
      best = { place: on, hang: piece.name, distance };
  }
  if (best) return { place: best.place, hang: best.hang };
  return {
    place: { x: Math.round(place.x * 10) / 10, y: Math.round(place.y * 10) / 10, z: place.z },
    hang: '',
  };
}

/** Places by number: rows of so many, a metre apart, centred on the stage. */
export function gridPlaces(count: number, columns: number, step = 1.2): { x: number; y: number }[] {
  return Array.from({ length: count }, (_, i) => ({
    x: cm(((i % columns) - (Math.min(columns, count) - 1) / 2) * step),
    y: cm(8 - Math.floor(i / columns) * step),
  }));
}
