/** A block of cells in a table: one cell that is gone to by pointer and keys, grown to a block with Shift. */
'use client';
import { clamp } from '@/core/numbers';
import { useState } from 'react';

/** A cell, by its row and column as they are shown, from 0. */
export interface Place {
  row: number;
  column: number;
}

/** Cells between two places, both in it. */
export interface Block {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

const MOVES: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageUp: [-12, 0],
  PageDown: [12, 0],
  Home: [-Infinity, 0],
  End: [Infinity, 0],
};

/** The block between two cells. */
export const blockOf = (a: Place, b: Place): Block => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.column, b.column),
  right: Math.max(a.column, b.column),
});

/** Whether a cell is in it. */
export const inBlock = (block: Block | null, { row, column }: Place): boolean =>
  block !== null &&
  row >= block.top &&
  row <= block.bottom &&
  column >= block.left &&
  column <= block.right;

/**
 * @param rows how many there are @param columns how many are shown
 * @param onGo each time, with the block's rows and whether it grew
 */
export function useBlock(
  rows: number,
  columns: number,
  onGo: (active: Place, block: Block, grew: boolean) => void,
) {
  const [active, setActive] = useState<Place | null>(null);
  const [anchor, setAnchor] = useState<Place | null>(null);
  const block = active && blockOf(active, anchor ?? active);

  const goTo = (to: Place, extend: boolean): void => {
    const place = { row: clamp(to.row, 0, rows - 1), column: clamp(to.column, 0, columns - 1) };
    const from = extend ? (anchor ?? active ?? place) : place;
    setActive(place);
    setAnchor(from);
    onGo(place, blockOf(from, place), extend);
  };

  /** @returns whether the key was one that goes */
  const byKey = (e: React.KeyboardEvent): boolean => {
    const move = MOVES[e.key];
    if (!move || e.altKey || e.ctrlKey || e.metaKey) return false;
    const from = active ?? { row: 0, column: 0 };
    goTo({ row: from.row + move[0], column: from.column + move[1] }, e.shiftKey);
    return true;
  };

  return { active, block, goTo, byKey };
}
