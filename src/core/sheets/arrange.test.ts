/** Arranging: what is moved keeps together, stays on the sheet and on the grid, and comes back. */
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import {
  aligned,
  ALIGNMENTS,
  boundsOf,
  fitting,
  freePlace,
  inRows,
  layered,
  moved,
  resized,
  spread,
  touchedBy,
  type Lying,
} from './arrange.ts';

const SHEET = { columns: 48, rows: 34 };
const box = fc.record({
  x: fc.integer({ min: 0, max: 40 }),
  y: fc.integer({ min: 0, max: 28 }),
  w: fc.integer({ min: 1, max: 8 }),
  h: fc.integer({ min: 1, max: 6 }),
});
const boxes = fc.array(box, { minLength: 1, maxLength: 8 });
const way = fc.record({
  x: evenly(-60, 60),
  y: evenly(-60, 60),
});
const lies = (b: { x: number; y: number; w: number; h: number }): boolean =>
  b.x >= 0 && b.y >= 0 && b.x + b.w <= SHEET.columns && b.y + b.h <= SHEET.rows;

test('several are moved as one: their places to each other stay, and none leaves the sheet', () =>
  fc.assert(
    fc.property(boxes, way, fc.boolean(), (pieces, by, isFree) => {
      const next = moved(pieces, by, SHEET, isFree);
      const [dx, dy] = [
        (next[0]?.x ?? 0) - (pieces[0]?.x ?? 0),
        (next[0]?.y ?? 0) - (pieces[0]?.y ?? 0),
      ];
      next.forEach((p, i) => {
        expect(p.x - (pieces[i]?.x ?? 0)).toBeCloseTo(dx, 6);
        expect(p.y - (pieces[i]?.y ?? 0)).toBeCloseTo(dy, 6);
        expect(lies(p)).toBe(true);
      });
      if (!isFree)
        expect([Number.isInteger(next[0]?.x), Number.isInteger(next[0]?.y)]).toEqual([true, true]);
    }),
  ));

test('a piece is sized by its corner: its other corner stays, and it is at least a step', () =>
  fc.assert(
    fc.property(box, way, (piece, by) => {
      const next = resized(piece, by, SHEET);
      expect([next.x, next.y]).toEqual([piece.x, piece.y]);
      expect(Math.min(next.w, next.h)).toBeGreaterThanOrEqual(1);
      expect(lies(next)).toBe(true);
    }),
  ));

test.each(ALIGNMENTS)(
  'aligned to the %s they share that line, within what they took before',
  (how) =>
    fc.assert(
      fc.property(boxes, (pieces) => {
        const next = aligned(pieces, how);
        const line = (p: (typeof next)[number]): number =>
          ({
            left: p.x,
            centre: p.x + p.w / 2,
            right: p.x + p.w,
            top: p.y,
            middle: p.y + p.h / 2,
            foot: p.y + p.h,
          })[how];
        for (const p of next) expect(Math.abs(line(p) - line(next[0] ?? p))).toBeLessThan(0.11);
        const [before, after] = [boundsOf(pieces), boundsOf(next)];
        expect(after.x).toBeGreaterThanOrEqual(before.x - 0.05);
        expect(after.x + after.w).toBeLessThanOrEqual(before.x + before.w + 0.05);
      }),
    ),
);

test('spread out they have the same room between them, and the outermost stay', () => {
  const at = (x: number, w: number) => ({ x, y: 0, w, h: 2 });
  expect(spread([at(0, 2), at(3, 4), at(20, 2)], 'across').map((p) => p.x)).toEqual([0, 9, 20]);
  expect(spread([at(0, 2), at(20, 2)], 'across').map((p) => p.x)).toEqual([0, 20]);
});

test('a new piece lies over none while there is room', () =>
  fc.assert(
    fc.property(fc.array(box, { maxLength: 6 }), (pieces) => {
      const place = freePlace(pieces, { w: 4, h: 3 }, SHEET);
      expect(touchedBy(pieces, { ...place, w: 4, h: 3 })).toEqual([]);
    }),
  ));

test('several of one size lie side by side in rows, none over another, none past the edge', () => {
  expect(inRows(5, { w: 4, h: 3 }, 9).map(({ x, y }) => [x, y])).toEqual([
    [0, 0],
    [4, 0],
    [0, 3],
    [4, 3],
    [0, 6],
  ]);
  // One that is wider than the sheet has a row of its own.
  expect(inRows(2, { w: 12, h: 1 }, 9).map(({ x, y }) => [x, y])).toEqual([
    [0, 0],
    [0, 1],
  ]);
});

test('in front or behind, the chosen keep their order among themselves', () => {
  const all: Lying[] = ['a', 'b', 'c', 'd'].map((id, z) => ({ id, z, x: 0, y: 0, w: 1, h: 1 }));
  const order = (changed: Lying[]): string =>
    all
      .map((p) => changed.find((c) => c.id === p.id) ?? p)
      .sort((x, y) => x.z - y.z)
      .map((p) => p.id)
      .join('');
  expect(order(layered(all, new Set(['a', 'c']), 'front'))).toBe('bdac');
  expect(order(layered(all, new Set(['b', 'd']), 'back'))).toBe('bdac');
  expect(layered(all, new Set(['d']), 'front')).toEqual([]);
});

test('a sheet grows with its pieces, and never beyond what a sheet may be', () => {
  expect(fitting([{ x: 50, y: 1, w: 4.5, h: 2 }], SHEET)).toEqual({ columns: 55, rows: 34 });
  expect(fitting([{ x: 199, y: 1, w: 40, h: 2 }], SHEET).columns).toBe(200);
  expect(fitting([], SHEET)).toEqual(SHEET);
});
