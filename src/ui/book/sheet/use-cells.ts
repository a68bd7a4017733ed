/** The chosen cells: chosen by pointer and keys, typed into, taken out. */
'use client';
import { clamp } from '@/core/numbers';
import { useRef, useState, type RefObject } from 'react';
import { cellValues, readCell } from '@/core/cues/cell-text';
import type { CueRow } from '@/core/cues/rows';
import type { Column } from '@/core/cues/sheet';
import { within, type Spot } from '@/core/cues/sheet-words';
import type { Family } from '@/core/show/fields';
import { edit } from '../../state/edits';
import { lookAt, useBook, type Cells } from '../../state/book';
import { notice } from '../../state/messages';
import { useShow } from '../../state/store';
import { ROW } from '../draw-sheet';
import { LEFT } from './use-canvas';

interface Needs {
  scroll: RefObject<HTMLDivElement | null>;
  canvas: RefObject<HTMLCanvasElement | null>;
  cues: readonly CueRow[];
  columns: readonly Column[];
  family: Family;
  /** Of a column, in pixels. */
  wide: number;
  /** Of what is in sight, in pixels. */
  height: number;
  /** The row that is looked at; -1 for none. */
  at: number;
  may: boolean;
  /** Brings a row into sight. */
  reveal: (row: number) => void;
}

/** Rows and columns for each key. */
const stepsOf = (
  key: string,
  page: number,
  columns: number,
): readonly [number, number] | undefined =>
  (
    ({
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-page, 0],
      PageDown: [page, 0],
      Home: [0, -columns],
      End: [0, columns],
    }) as Record<string, [number, number]>
  )[key];

const one = ({ row, column }: Spot): Cells => ({ row, column, toRow: row, toColumn: column });

/** The cues and columns of the chosen cells. */
export const inCells = (
  c: Cells,
  cues: readonly CueRow[],
  columns: readonly Column[],
): { cues: CueRow[]; columns: Column[] } => ({
  cues: cues.slice(Math.min(c.row, c.toRow), Math.max(c.row, c.toRow) + 1),
  columns: columns.slice(Math.min(c.column, c.toColumn), Math.max(c.column, c.toColumn) + 1),
});

/** Under the pointer: the cell, and where in the canvas, in pixels. */
export type Hover = Spot & { x: number; y: number };

type Pointed = React.PointerEvent;

function spotAt({ scroll, canvas, cues, columns, wide }: Needs, e: Pointed): Spot | null {
  const box = scroll.current;
  const r = canvas.current?.getBoundingClientRect();
  if (!box || !r) return null;
  const row = Math.floor((e.clientY - r.top + box.scrollTop) / ROW);
  const column = Math.floor((e.clientX - r.left + box.scrollLeft) / wide);
  const inside = row >= 0 && row < cues.length && column >= 0 && column < columns.length;
  return inside ? { row, column } : null;
}

/** Chooses cells, and brings the last of them into sight. */
function choose({ scroll, wide, reveal }: Needs, next: Cells): void {
  useBook.setState({ cells: next });
  reveal(next.toRow);
  const box = scroll.current;
  if (!box) return;
  const left = next.toColumn * wide;
  const over = left + wide - (box.clientWidth - LEFT);
  if (left < box.scrollLeft) box.scrollLeft = left;
  else if (over > box.scrollLeft) box.scrollLeft = over;
}

/** What is typed into the chosen cells. */
function useTyped({ scroll, cues, columns, family }: Needs, cells: Cells | null) {
  const show = useShow();
  const [typing, setTyping] = useState<string | null>(null);

  const stopTyping = (): void => {
    setTyping(null);
    // A click elsewhere has put the focus there already.
    if (document.activeElement === document.body || document.activeElement?.tagName === 'INPUT')
      scroll.current?.focus();
  };

  const write = async (text: string): Promise<void> => {
    stopTyping();
    if (!cells) return;
    const said = readCell(show, family, text);
    if (said.kind === 'problem') {
      notice.error(`${said.message} Nothing was changed.`);
      return;
    }
    const into = inCells(cells, cues, columns);
    const values = into.columns.flatMap((c) => cellValues(show, family, c.fixtures, said));
    const set = into.cues.flatMap((c) => values.map((v) => ({ cueId: c.id, ...v })));
    await edit('set-values', { cells: set });
  };

  /** Opened and left without a word, it takes nothing out: Delete does. */
  const keepTyped = (text: string): void => {
    if (text.trim() === '') stopTyping();
    else void write(text);
  };

  return { typing, setTyping, write, keepTyped, stopTyping };
}
type Typed = ReturnType<typeof useTyped>;

/** What keys do with the chosen cells. */
function keysOn(needs: Needs, cells: Cells | null, { setTyping, write }: Typed) {
  const { scroll, cues, columns, may } = needs;

  /** @returns whether the key was for the cells */
  const move = (e: React.KeyboardEvent): boolean => {
    const page = Math.max(1, Math.floor(needs.height / ROW) - 3);
    const step = stepsOf(e.key, page, columns.length);
    if (!step || e.altKey) return false;
    const from = cells ?? one({ row: Math.max(0, needs.at), column: 0 });
    const to = {
      row: clamp(from.toRow + step[0], 0, cues.length - 1),
      column: clamp(from.toColumn + step[1], 0, columns.length - 1),
    };
    choose(needs, e.shiftKey ? { ...from, toRow: to.row, toColumn: to.column } : one(to));
    return true;
  };

  /** @returns whether it did anything */
  const act = (e: React.KeyboardEvent, chosen: Cells): boolean => {
    if (e.key === 'Escape') useBook.setState({ cells: null });
    else if (e.ctrlKey || e.metaKey || e.altKey) return false;
    else if (e.key === ' ') {
      const cue = cues[chosen.toRow];
      if (cue) lookAt(cue.id);
    } else if (!may) return false;
    else if (e.key === 'Enter' || e.key === 'F2') setTyping('');
    else if (e.key === 'Delete' || e.key === 'Backspace') void write('');
    else if (/^[\p{L}\d."“]$/u.test(e.key)) setTyping(e.key);
    else return false;
    return true;
  };

  return (e: React.KeyboardEvent): void => {
    if (e.target !== scroll.current) return;
    if (!move(e) && !(cells && act(e, cells))) return;
    e.preventDefault();
    e.stopPropagation();
  };
}

/** Cells under the pointer, chosen by pressing and drawing on. */
function usePointer(needs: Needs, cells: Cells | null, begin: () => void) {
  const { scroll, canvas, may } = needs;
  const [hover, setHover] = useState<Hover | null>(null);
  const dragging = useRef(false);
  const pointer = {
    onPointerDown: (e: Pointed): void => {
      const spot = spotAt(needs, e);
      if (!spot || (e.button === 2 && cells && within(cells, spot))) return;
      scroll.current?.focus();
      const grows = e.shiftKey && cells;
      choose(needs, grows ? { ...cells, toRow: spot.row, toColumn: spot.column } : one(spot));
      dragging.current = e.button === 0;
    },
    onPointerMove: (e: Pointed): void => {
      const spot = spotAt(needs, e);
      const r = canvas.current?.getBoundingClientRect();
      setHover(spot && r ? { ...spot, x: e.clientX - r.left, y: e.clientY - r.top } : null);
      if (dragging.current && spot && cells && e.buttons === 1)
        useBook.setState({ cells: { ...cells, toRow: spot.row, toColumn: spot.column } });
    },
    onPointerUp: (): void => {
      dragging.current = false;
    },
    onPointerLeave: (): void => setHover(null),
    onDoubleClick: (): void => {
      if (may) begin();
    },
  };
  return { hover, pointer };
}

/** What hands do with cells: choose, type, take out. */
export function useCells(needs: Needs) {
  const cells = useBook((s) => s.cells);
  const typed = useTyped(needs, cells);
  const pointed = usePointer(needs, cells, () => typed.setTyping(''));
  return { cells, ...typed, ...pointed, onKeyDown: keysOn(needs, cells, typed) };
}
