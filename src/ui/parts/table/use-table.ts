/** Tables of people's work: sorted, with columns as wide as one likes and as many as one wants, each person's own. */
'use client';
import {
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type Row,
  type RowData,
  type Table,
  type TableState,
} from '@tanstack/react-table';
import { useCallback, useState, type ReactNode } from 'react';
import { z } from 'zod';
import { layouts } from '../../state/preferences';
import { kept } from '../keep';

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the package's own parameters
  interface ColumnMeta<TData extends RowData, TValue> {
    /** In words, for the head, the choice of columns and fields. */
    title: string;
    /** Stands at the right, as numbers do. */
    right?: boolean;
    /** Nothing to read: the row's own buttons. */
    silent?: boolean;
  }
}

/** Width of the column that has the rows' own buttons, in pixels. */
const BUTTONS_PX = 32;

/** The last column: what can be done with a row. It is neither sorted, widened nor hidden. */
export const buttonsColumn = <R>(cell: (row: R) => ReactNode): ColumnDef<R> => ({
  id: 'more',
  size: BUTTONS_PX,
  enableSorting: false,
  enableResizing: false,
  enableHiding: false,
  meta: { title: 'More', right: true, silent: true },
  cell: ({ row }) => cell(row.original),
});

/** What a column is sorted by. */
export type SortKey = string | number;

/** Numbers by their size, words as one counts: `Bar 2` before `Bar 10`. */
export function byKey(a: SortKey, b: SortKey): number {
  if (typeof a === 'number' && typeof b === 'number') return a < b ? -1 : Number(a > b);
  return String(a).localeCompare(String(b), undefined, { numeric: true });
}

const sortingFn = <R>(a: Row<R>, b: Row<R>, column: string): number =>
  byKey(a.getValue<SortKey>(column), b.getValue<SortKey>(column));

const NARROWEST_PX = 36;

const Kept = z.object({
  sorting: z.array(z.object({ id: z.string(), desc: z.boolean() })).max(4),
  columnSizing: z.record(z.string(), z.number()),
  columnVisibility: z.record(z.string(), z.boolean()),
});
type Kept = z.infer<typeof Kept>;

/** Widths as an earlier version kept them on this machine. */
const Widths = z.record(z.string(), z.number());

/** @param name of the table, for the person's own columns @param older where widths were kept before */
function useKept(name: string, sorted: string, older?: string) {
  const key = `table-${name}`;
  const [state, setState] = useState<Kept>(() => {
    const own = kept(layouts, key, Kept);
    if (own) return own;
    const widths =
      older === undefined || typeof window === 'undefined'
        ? null
        : kept(window.localStorage, older, Widths);
    return {
      sorting: [{ id: sorted, desc: false }],
      columnSizing: widths ?? {},
      columnVisibility: {},
    };
  });
  const put = useCallback(
    (change: (now: Kept) => Partial<Kept>) =>
      setState((now) => {
        const next = { ...now, ...change(now) };
        layouts.setItem(key, JSON.stringify(next));
        return next;
      }),
    [key],
  );
  return [state, put] as const;
}

type Change<T> = T | ((now: T) => T);
const changed = <T>(change: Change<T>, now: T): T =>
  typeof change === 'function' ? (change as (now: T) => T)(now) : change;

/**
 * A table over rows that stay where they are.
 * @param columns each with an accessor that gives its SortKey, and `meta.title`; kept by the caller
 * @param sorted the column that it is sorted by at first
 */
export function useTable<R>({
  name,
  rows,
  columns,
  rowId,
  sorted,
  older,
}: {
  name: string;
  rows: R[];
  columns: ColumnDef<R>[];
  rowId: (row: R) => string;
  sorted: string;
  older?: string;
}): Table<R> {
  const [state, put] = useKept(name, sorted, older);
  const own: Partial<TableState> = state;
  return useReactTable<R>({
    data: rows,
    columns,
    state: own,
    getRowId: rowId,
    defaultColumn: { sortingFn, minSize: NARROWEST_PX, sortDescFirst: false },
    enableSortingRemoval: false,
    enableMultiSort: false,
    columnResizeMode: 'onChange',
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    onSortingChange: (change) => put((now) => ({ sorting: changed(change, now.sorting) })),
    onColumnSizingChange: (change) =>
      put((now) => ({ columnSizing: changed(change, now.columnSizing) })),
    onColumnVisibilityChange: (change) =>
      put((now) => ({ columnVisibility: changed(change, now.columnVisibility) })),
  });
}
