/** What hands do in the table of fixtures: cells are gone to, typed into, filled, copied and pasted. */
'use client';
import { useState, type RefObject } from 'react';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { Entry } from '../../parts/CellEditor';
import { useBlock, type Block, type Place } from '../../parts/table/use-block';
import { select } from '../../state/commands';
import { edit } from '../../state/edits';
import { notice } from '../../state/messages';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { cellText, fill, parseGrid, paste, writeCells, type CellWrite, type Column } from '../grid';
import { setUniverse } from '../rig-state';

const TYPED = /^[\p{L}\d.#]$/u;

/** What is done with the chosen block of cells. */
interface Grid {
  scroll: RefObject<HTMLDivElement | null>;
  rows: readonly FixtureRow[];
  /** Those that are shown, in their order. */
  columns: readonly Column[];
  block: Block | null;
  active: Place | null;
  editable: boolean;
  write: (writes: readonly CellWrite[]) => Promise<void>;
}

/** Whoever selected nothing to fill, or pasted where nothing fits, is told how. */
const HOW_TO_FILL = 'Select the cells of a column first: click one, then Shift and click the last.';
const NOTHING_FITS =
  'Nothing of that fits here: paste onto numbers, labels, addresses, positions or circuits.';

function useWrite() {
  const show = useShow();
  return async (writes: readonly CellWrite[]): Promise<void> => {
    if (writes.length === 0) return;
    const params = writeCells(show, writes);
    if ('problem' in params) notice.error(`${params.problem} Nothing was changed.`);
    else await edit('change-fixtures', params);
  };
}

/** The cell that is typed into; what is typed goes into the whole column of the block. */
function useTyping({ scroll, rows, columns, block, active, editable, write }: Grid) {
  const show = useShow();
  const [editing, setEditing] = useState<Entry | null>(null);

  const begin = (first: string | null, at: Place | null = active): void => {
    const here = at && rows[at.row];
    if (!here || !editable || !columns[at.column]?.editable) return;
    const inside = block && at.row >= block.top && at.row <= block.bottom;
    const into = inside ? rows.slice(block.top, block.bottom + 1) : [here];
    setEditing({ id: here.id, column: at.column, into: into.map((r) => r.id), first });
  };

  const keepEntry = (entry: Entry, text: string): void => {
    setEditing((now) => (now === entry ? null : now));
    if (document.activeElement === document.body || document.activeElement?.tagName === 'INPUT')
      scroll.current?.focus();
    const column = columns[entry.column];
    const here = show.fixtures.get(entry.id);
    if (!column || !here) return;
    const many = entry.into.length > 1;
    if (!many && text.trim() === cellText(show, here, column.key)) return;
    // A # counts up through the block.
    const textOf = (i: number): string => (many ? text.replace('#', String(i + 1)) : text);
    void write(entry.into.map((id, i) => ({ id, column: column.key, text: textOf(i) })));
  };

  const leaveEntry = (): void => {
    setEditing(null);
    scroll.current?.focus();
  };

  return { editing, begin, keepEntry, leaveEntry };
}

/** The block goes out to other programs and comes in from them, as lines with tabs. */
function useClipboard({ rows, columns, block, editable, write }: Grid, editing: boolean) {
  const show = useShow();
  const onCopy = (e: React.ClipboardEvent): void => {
    if (!block || editing) return;
    e.preventDefault();
    const over = columns.slice(block.left, block.right + 1);
    const lines = rows
      .slice(block.top, block.bottom + 1)
      .map((r) => over.map((c) => cellText(show, r, c.key)).join('\t'));
    e.clipboardData.setData('text/plain', lines.join('\n'));
  };

  const onPaste = (e: React.ClipboardEvent): void => {
    if (!block || editing || !editable) return;
    e.preventDefault();
    const from = { row: block.top, column: block.left };
    const text = parseGrid(e.clipboardData.getData('text/plain'));
    const { writes, left } = paste(rows, columns, from, text, block.bottom - block.top + 1);
    if (writes.length === 0) {
      notice.error(NOTHING_FITS);
      return;
    }
    void write(writes);
    if (left > 0) notice(`${left} cells had no place here and were left out.`);
  };
  return { onCopy, onPaste };
}

/** The block's columns filled with what stands in its first row. */
function useFill({ rows, columns, block, write }: Grid) {
  const show = useShow();
  return (how: 'same' | 'count'): void => {
    if (!block || block.top === block.bottom) {
      notice(HOW_TO_FILL);
      return;
    }
    const many = rows.slice(block.top, block.bottom + 1);
    const over = columns.slice(block.left, block.right + 1).filter((c) => c.editable);
    void write(over.flatMap((c) => fill(show, many, c.key, how)));
  };
}

/** @param columns those that are shown, in their order @param reveal brings a row into sight */
export function useFixtureGrid(
  scroll: RefObject<HTMLDivElement | null>,
  rows: readonly FixtureRow[],
  columns: readonly Column[],
  reveal: (row: number) => void,
) {
  const editable = mayEdit(useScreen((s) => s.you.role));
  const { active, block, goTo, byKey } = useBlock(rows.length, columns.length, (to, over, grew) => {
    select(rows.slice(over.top, over.bottom + 1).map((r) => r.id));
    const first = rows[to.row]?.patch[0];
    if (first && !grew) setUniverse(first.universe);
    reveal(to.row);
  });
  const writable = editable && active !== null && columns[active.column]?.editable === true;
  const grid: Grid = { scroll, rows, columns, block, active, editable, write: useWrite() };
  const typing = useTyping(grid);
  const { editing, begin } = typing;
  const fillDown = useFill(grid);
  const clipboard = useClipboard(grid, editing !== null);

  /** @returns whether the key did anything with Ctrl held */
  const chord = (e: React.KeyboardEvent): boolean => {
    const key = e.key.toLowerCase();
    if (key === 'd' && editable) fillDown(e.shiftKey ? 'count' : 'same');
    else if (key === 'a') select(rows.map((r) => r.id));
    else return false;
    return true;
  };
  /** @returns whether the key begins to type */
  const begins = (e: React.KeyboardEvent): boolean => {
    if (!writable) return false;
    if (e.key === 'Enter' || e.key === 'F2') begin(null);
    else if (!e.altKey && TYPED.test(e.key)) begin(e.key);
    else return false;
    return true;
  };
  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (editing) return;
    const mod = e.ctrlKey || e.metaKey;
    if (!(mod ? chord(e) : byKey(e) || begins(e))) return;
    e.preventDefault();
    e.stopPropagation();
  };

  return {
    editable,
    active,
    block,
    writable,
    goTo,
    fillDown,
    ...typing,
    handlers: { onKeyDown, ...clipboard },
  };
}

/** Rows, columns and cells of the table. */
export type FixtureGrid = ReturnType<typeof useFixtureGrid>;
