/** Metres on the stage to pixels of the picture: what fits, zoomed and moved. */
import { clamp } from '@/core/numbers';
import type { PieceRow } from '@/core/plan/rows';

/** How metres become pixels. */
export interface View {
  /** Pixels per metre, and the pixel of the stage's origin. */
  scale: number;
  ox: number;
  oy: number;
}
/** A part of the stage, metres. */
export interface Bounds {
  left: number;
  right: number;
  top: number;
  bottom: number;
}
/** Where somebody has gone, beside what fits. */
export interface Looked {
  /** Over what fits. */
  zoom: number;
  /** Metres in the middle of the picture. */
  x: number;
  y: number;
}

const MARGIN_M = 0.4;
const LEAST_M = 4;
const ZOOM = { least: 0.5, most: 14 } as const;

/** All of these with a margin; never less than a few metres. */
export function boundsOf(points: readonly { x: number; y: number }[]): Bounds {
  if (points.length === 0) return { left: -8.4, right: 8.4, top: 9.7, bottom: -5.2 };
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const grow = (low: number, high: number): [number, number] => {
    const more = Math.max(0, LEAST_M - (high - low)) / 2 + MARGIN_M;
    return [low - more, high + more];
  };
  const [left, right] = grow(Math.min(...xs), Math.max(...xs));
  const [bottom, top] = grow(Math.min(...ys), Math.max(...ys));
  return { left, right, top, bottom };
}

/** All corners of pieces, metres. */
export const pointsOfPieces = (pieces: readonly PieceRow[]): { x: number; y: number }[] =>
  pieces.flatMap((p) => p.points);

/** Room for words beside the outermost lines. */
const WORDS_PX = 46;
/** Room for the numbers under the units nearest to the audience. */
const NUMBERS_PX = 14;
const fitOf = (b: Bounds, width: number, height: number): number =>
  Math.min(
    Math.max(80, width - WORDS_PX * 2) / (b.right - b.left),
    Math.max(80, height - NUMBERS_PX * 2) / (b.top - b.bottom),
  );

/** What fits into so many pixels, or where somebody has gone. */
export function viewOf(bounds: Bounds, width: number, height: number, looked: Looked | null): View {
  const fit = fitOf(bounds, width, height);
  const at = looked ?? {
    zoom: 1,
    x: (bounds.left + bounds.right) / 2,
    y: (bounds.top + bounds.bottom) / 2,
  };
  const scale = fit * at.zoom;
  return { scale, ox: width / 2 - at.x * scale, oy: height / 2 + at.y * scale };
}

/** From metres to pixels. */
export const toPixel = (v: View, p: { x: number; y: number }): { x: number; y: number } => ({
  x: v.ox + p.x * v.scale,
  y: v.oy - p.y * v.scale,
});
/** From pixels to metres. */
export const toMetre = (v: View, p: { x: number; y: number }): { x: number; y: number } => ({
  x: (p.x - v.ox) / v.scale,
  y: (v.oy - p.y) / v.scale,
});

/** Zoomed by a factor so that the metre under a pixel stays under it. */
export function zoomedAt(
  view: View,
  bounds: Bounds,
  size: { width: number; height: number },
  pixel: { x: number; y: number },
  factor: number,
): Looked {
  const fit = fitOf(bounds, size.width, size.height);
  const zoom = clamp((view.scale / fit) * factor, ZOOM.least, ZOOM.most);
  const m = toMetre(view, pixel);
  const scale = fit * zoom;
  return {
    zoom,
    x: m.x - (pixel.x - size.width / 2) / scale,
    y: m.y + (pixel.y - size.height / 2) / scale,
  };
}

/** Moved by pixels. */
export function movedBy(
  view: View,
  bounds: Bounds,
  size: { width: number; height: number },
  dx: number,
  dy: number,
): Looked {
  const fit = fitOf(bounds, size.width, size.height);
  const middle = toMetre(view, { x: size.width / 2 - dx, y: size.height / 2 - dy });
  return { zoom: view.scale / fit, ...middle };
}
