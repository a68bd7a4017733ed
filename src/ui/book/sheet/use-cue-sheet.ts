/** What the cue sheet shows and what hands do on it: its numbers, rows and columns in sight, what is chosen, what is typed. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { CueRow } from '@/core/cues/rows';
import type { Column } from '@/core/cues/sheet';
import { cellWords, rowsWith } from '@/core/cues/sheet-words';
import type { CellStep } from '../../parts/CellEditor';
import { useBox } from '../../parts/use-box';
import { useBook, useBookList } from '../../state/book';
import { mayEdit, useScreen } from '../../state/store';
import { useParts } from '../../state/use-parts';
import { HEAD, ROW } from '../draw-sheet';
import { ROW_FIELDS, type RowField } from '../RowCell';
import { useSheet } from '../use-sheet';
import { keepChosen } from './choose';
import { LEFT, useSheetCanvas, type Picture } from './use-canvas';
import { useCells } from './use-cells';
import { usePending } from './use-pending';

/** Of a column, in pixels. */
const [NARROW, WIDEST] = [39, 66];
const CUES_AHEAD = 2;

/** The sheet's numbers, while they are of these cues: one made for others is not drawn over them. */
function useFitting(cues: readonly CueRow[]) {
  const { family, unfolded } = useParts(useBook, 'family', 'unfolded');
  const { listId } = useBookList();
  const made = useSheet(listId, family, unfolded);
  const fits =
    made !== null &&
    made.cueIds.length === cues.length &&
    made.cueIds.every((id, i) => id === cues[i]?.id);
  const columns = useMemo<readonly Column[]>(() => made?.columns ?? [], [made]);
  return { sheet: fits ? made.sheet : null, columns };
}

/** Rows and columns in sight. */
function useSights(
  scroll: RefObject<HTMLDivElement | null>,
  cues: number,
  columns: number,
  wide: number,
) {
  const rows = useVirtualizer({
    count: cues,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollMargin: HEAD,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: columns,
    getScrollElement: () => scroll.current,
    estimateSize: () => wide,
    overscan: 6,
    scrollMargin: LEFT,
  });
  useEffect(() => across.measure(), [across, wide]);
  return { rows, across };
}

/** Rows of the cues on stage, next and looked at; of those that are found, or that a change would touch. */
function useRows(cues: readonly CueRow[]) {
  const { search, marked } = useParts(useBook, 'search', 'marked');
  const { status, cue } = useBookList();
  const rowOf = (id: string | null | undefined): number => cues.findIndex((c) => c.id === id);
  const found = useMemo(() => rowsWith(cues, search), [cues, search]);
  const lit = useMemo(() => {
    const touched = marked.map((id) => cues.findIndex((c) => c.id === id));
    return new Set([...found, ...touched.filter((row) => row >= 0)]);
  }, [found, marked, cues]);
  return { at: rowOf(cue?.id), now: rowOf(status?.cueId), next: rowOf(status?.nextId), found, lit };
}

/** A field of a cue that is typed into, and where Tab and the arrows take it. */
function useOwnField(cues: readonly CueRow[], may: boolean, reveal: (row: number) => void) {
  const [own, setOwn] = useState<{ id: string; what: RowField } | null>(null);
  return {
    own,
    begin: (id: string, what: RowField): void => {
      if (!may) return;
      keepChosen(id);
      setOwn({ id, what });
    },
    leave: () => setOwn(null),
    step: ({ rows: down, fields: on }: CellStep): void => {
      if (!own) return;
      const row = cues.findIndex((c) => c.id === own.id) + down;
      const what = ROW_FIELDS[ROW_FIELDS.indexOf(own.what) + on];
      const to = cues[row];
      if (!to || !what) return;
      reveal(row);
      setOwn({ id: to.id, what });
    },
  };
}
/** The field that is written in, and how it is left. */
export type OwnField = ReturnType<typeof useOwnField>;

/** Rows and columns in sight. */
export type Sights = ReturnType<typeof useSights>;
/** Rows that are marked. */
export type Places = ReturnType<typeof useRows>;

/** Going along, the cue on stage stays in sight; what is looked for comes into it. */
function useInSight({ rows }: Sights, cues: number, now: number, found: readonly number[]): void {
  const follow = useBook((s) => s.follow);
  useEffect(() => {
    if (follow && now >= 0)
      rows.scrollToIndex(Math.min(cues - 1, now + CUES_AHEAD), { align: 'auto' });
  }, [follow, now, rows, cues]);
  const [first] = found;
  useEffect(() => {
    if (first !== undefined) rows.scrollToIndex(first, { align: 'center' });
  }, [first, rows]);
}

/** How wide a column is, in pixels: as much as there is room for, within what reads well. */
function columnWidth(width: number, columns: number): number {
  const share = Math.floor((width - LEFT) / Math.max(1, columns));
  return Math.max(NARROW, Math.min(WIDEST, share));
}

/** What is drawn: only where one of these changes is there another picture. */
function usePicture(
  { sheet, columns }: ReturnType<typeof useFitting>,
  wide: number,
  { at, now, next, lit }: ReturnType<typeof useRows>,
  { hover, cells }: ReturnType<typeof useCells>,
  pending: ReturnType<typeof usePending>,
): Picture {
  return useMemo<Picture>(
    () => ({
      sheet,
      columns,
      wide,
      hover,
      cells,
      now,
      next,
      picked: at,
      pending,
      pendingRow: at,
      marked: lit,
    }),
    [sheet, columns, wide, hover, cells, now, next, at, pending, lit],
  );
}

/** What the cell under the hand, or the first that is chosen, has in words; empty where there is none. */
function useCellWords(
  { sheet, columns }: ReturnType<typeof useFitting>,
  cues: readonly CueRow[],
  { hover, cells }: ReturnType<typeof useCells>,
): string {
  const family = useBook((s) => s.family);
  return useMemo(() => {
    const spot = hover ?? (cells ? { row: cells.toRow, column: cells.toColumn } : null);
    return sheet && spot ? cellWords({ sheet, columns, cues, family }, spot) : '';
  }, [hover, cells, sheet, columns, cues, family]);
}

/** All that the sheet shows and what hands do on it. */
export function useCueSheet() {
  const { family, follow } = useParts(useBook, 'family', 'follow');
  const { cues, cue } = useBookList();
  const may = mayEdit(useScreen((s) => s.you.role));
  const scroll = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useBox(scroll);

  const fitting = useFitting(cues);
  const { columns } = fitting;
  const wide = columnWidth(size.width, columns.length);
  const sights = useSights(scroll, cues.length, columns.length, wide);
  const places = useRows(cues);
  const pending = usePending(columns, family);
  const reveal = (row: number): void => sights.rows.scrollToIndex(row, { align: 'auto' });
  const hands = useCells({
    scroll,
    canvas,
    cues,
    columns,
    family,
    wide,
    height: size.height,
    at: places.at,
    may,
    reveal,
  });
  const draw = useSheetCanvas(
    scroll,
    canvas,
    size,
    usePicture(fitting, wide, places, hands, pending),
  );
  useInSight(sights, cues.length, places.now, places.found);
  useLookedInSight(scroll, follow ? -1 : places.at, cue?.id);

  const says = useCellWords(fitting, cues, hands);
  const field = useOwnField(cues, may, reveal);
  return {
    scroll,
    canvas,
    cues,
    columns,
    wide,
    may,
    sights,
    places,
    pending,
    hands,
    draw,
    says,
    field,
  };
}
/** All of the sheet. */
export type Sheet = ReturnType<typeof useCueSheet>;

/** A cue that a link led to comes into sight; one that stands there already does not move under the hand. */
function useLookedInSight(
  scroll: RefObject<HTMLDivElement | null>,
  row: number,
  id: string | undefined,
): void {
  const place = useRef(row);
  useEffect(() => {
    place.current = row;
  }, [row]);
  const known = row >= 0;
  useEffect(() => {
    const box = scroll.current;
    if (!box || !known || id === undefined) return;
    const top = place.current * ROW;
    const sight = box.clientHeight - HEAD;
    if (top + ROW <= box.scrollTop || top >= box.scrollTop + sight)
      box.scrollTop = Math.max(0, top - sight / 2);
  }, [scroll, id, known]);
}
