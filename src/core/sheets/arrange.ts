/** Where pieces of a sheet lie: moving, sizing, aligning, copying, and what lies in front. Lengths are steps of its grid. */
import { clamp } from '../numbers.ts';
import { STEPS } from './rows.ts';

/** A place on a sheet, in squares of its grid. */
export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}
/** A piece where it lies; a higher `z` lies over a lower. */
export type Lying = Box & { id: string; z: number };
interface Size {
  columns: number;
  rows: number;
}

/** A piece is at least so large. */
const LEAST_STEPS = 1;
const tenth = (v: number): number => Math.round(v * 10) / 10;
/** Onto the grid, or onto its tenths. */
const snap = (v: number, isFree: boolean): number => (isFree ? tenth(v) : Math.round(v));
const between = (v: number, least: number, most: number): number =>
  Math.min(Math.max(v, least), Math.max(least, most));

/** What goes round all of them. */
export function boundsOf(boxes: readonly Box[]): Box {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  return {
    x,
    y,
    w: Math.max(...boxes.map((b) => b.x + b.w)) - x,
    h: Math.max(...boxes.map((b) => b.y + b.h)) - y,
  };
}

/**
 * All of them by the same way, the first one onto the grid, none of them off the sheet.
 * @param isFree not onto the grid
 */
export function moved<P extends Box>(
  pieces: readonly P[],
  by: { x: number; y: number },
  sheet: Size,
  isFree = false,
): P[] {
  const [lead] = pieces;
  if (!lead) return [];
  const all = boundsOf(pieces);
  const dx = between(snap(lead.x + by.x, isFree) - lead.x, -all.x, sheet.columns - all.w - all.x);
  const dy = between(snap(lead.y + by.y, isFree) - lead.y, -all.y, sheet.rows - all.h - all.y);
  return pieces.map((p) => ({ ...p, x: tenth(p.x + dx), y: tenth(p.y + dy) }));
}

/** By its lower right corner, never smaller than a step nor beyond the sheet. */
export function resized<P extends Box>(
  piece: P,
  by: { x: number; y: number },
  sheet: Size,
  isFree = false,
): P {
  const right = snap(piece.x + piece.w + by.x, isFree);
  const foot = snap(piece.y + piece.h + by.y, isFree);
  return {
    ...piece,
    w: tenth(between(right - piece.x, LEAST_STEPS, sheet.columns - piece.x)),
    h: tenth(between(foot - piece.y, LEAST_STEPS, sheet.rows - piece.y)),
  };
}

/** Edges and middles that pieces may be put in one line by. */
export const ALIGNMENTS = ['left', 'centre', 'right', 'top', 'middle', 'foot'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/** To the outermost edge among them, or to the middle of all. */
export function aligned<P extends Box>(pieces: readonly P[], how: Alignment): P[] {
  const all = boundsOf(pieces);
  return pieces.map((p) => {
    switch (how) {
      case 'left':
        return { ...p, x: all.x };
      case 'centre':
        return { ...p, x: tenth(all.x + (all.w - p.w) / 2) };
      case 'right':
        return { ...p, x: tenth(all.x + all.w - p.w) };
      case 'top':
        return { ...p, y: all.y };
      case 'middle':
        return { ...p, y: tenth(all.y + (all.h - p.h) / 2) };
      case 'foot':
        return { ...p, y: tenth(all.y + all.h - p.h) };
    }
  });
}

/** The same room between neighbours; the outermost two stay. */
export function spread<P extends Box>(pieces: readonly P[], way: 'across' | 'down'): P[] {
  const [at, long] = way === 'across' ? (['x', 'w'] as const) : (['y', 'h'] as const);
  const order = [...pieces].sort((a, b) => a[at] - b[at]);
  const [first] = order;
  const last = order.at(-1);
  if (!first || !last || order.length < 3) return [...pieces];
  const taken = order.reduce((sum, p) => sum + p[long], 0);
  const room = (last[at] + last[long] - first[at] - taken) / (order.length - 1);
  let next = first[at];
  const places = new Map<P, number>();
  for (const p of order) {
    places.set(p, tenth(next));
    next += p[long] + room;
  }
  return pieces.map((p) => ({ ...p, [at]: places.get(p) ?? p[at] }));
}

/** Pieces that lie within a box, wholly or in part. */
export const touchedBy = <P extends Box>(pieces: readonly P[], box: Box): P[] =>
  pieces.filter(
    (p) => p.x < box.x + box.w && box.x < p.x + p.w && p.y < box.y + box.h && box.y < p.y + p.h,
  );

/** The first place, from the top and from the left, where a piece of this size lies over no other; the corner where there is none. */
export function freePlace(
  pieces: readonly Box[],
  { w, h }: Pick<Box, 'w' | 'h'>,
  sheet: Size,
): { x: number; y: number } {
  for (let y = 0; y + h <= sheet.rows; y++)
    for (let x = 0; x + w <= sheet.columns; x++)
      if (touchedBy(pieces, { x, y, w, h }).length === 0) return { x, y };
  return { x: 0, y: 0 };
}

/** So many of one size side by side, as wide as a sheet allows, in rows. @returns each from the corner of the first, at least one in a row */
export function inRows(n: number, { w, h }: Pick<Box, 'w' | 'h'>, columns: number): Box[] {
  const perRow = Math.max(1, Math.floor(columns / w));
  return Array.from({ length: n }, (_, i) => ({
    x: (i % perRow) * w,
    y: Math.floor(i / perRow) * h,
    w,
    h,
  }));
}

/** In front of all others, or behind them, keeping their order among themselves. @returns those whose place changes */
export function layered<P extends Lying>(
  all: readonly P[],
  ids: ReadonlySet<string>,
  to: 'front' | 'back',
): P[] {
  const order = [...all].sort((a, b) => a.z - b.z);
  const [those, others] = [order.filter((p) => ids.has(p.id)), order.filter((p) => !ids.has(p.id))];
  const next = to === 'front' ? [...others, ...those] : [...those, ...others];
  return next.flatMap((p, z) => (p.z === z ? [] : [{ ...p, z }]));
}

/** A sheet as large as its pieces need. */
export const fitting = (pieces: readonly Box[], sheet: Size): Size => {
  const all = pieces.length > 0 ? boundsOf(pieces) : { x: 0, y: 0, w: 0, h: 0 };
  const large = (v: number, least: number): number => clamp(Math.ceil(v), least, STEPS.most);
  return {
    columns: large(all.x + all.w, sheet.columns),
    rows: large(all.y + all.h, sheet.rows),
  };
};
