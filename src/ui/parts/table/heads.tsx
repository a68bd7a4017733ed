/** Heads of a table's columns: sorted by a click, widened by dragging, chosen from a menu. */
'use client';
import type { Header, Table } from '@tanstack/react-table';
import { Columns3 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { MENU, MENU_ITEM } from '../menu';

const titleOf = <R,>(header: Header<R, unknown>): string =>
  header.column.columnDef.meta?.title ?? '';

const ARROWS = { asc: ' ↑', desc: ' ↓' } as const;
const SORTED = { asc: 'ascending', desc: 'descending' } as const;

/** For `aria-sort`. */
export function sortOf<R>(header: Header<R, unknown>): 'ascending' | 'descending' | 'none' {
  const way = header.column.getIsSorted();
  return way === false ? 'none' : SORTED[way];
}

/** A head's words, and the line that its width is dragged by. */
export function Head<R>({ header }: { header: Header<R, unknown> }) {
  const { column } = header;
  const title = titleOf(header);
  const way = column.getIsSorted();
  if (column.columnDef.meta?.silent) return <span className="sr-only">{title}</span>;
  return (
    <>
      <button
        type="button"
        onClick={column.getToggleSortingHandler()}
        className={`h-7 max-w-full truncate ${way === false ? 'hover:text-soft' : 'text-text'}`}
      >
        {title}
        {way === false ? '' : ARROWS[way]}
      </button>
      <span
        role="separator"
        aria-label={`Width of ${title}`}
        aria-orientation="vertical"
        className="absolute top-0 -right-1.5 h-7 w-3 cursor-col-resize touch-none after:absolute after:top-2 after:left-1.5 after:h-3 after:w-px after:bg-edge"
        data-column={column.id}
        data-field={title}
        onMouseDown={header.getResizeHandler()}
        onTouchStart={header.getResizeHandler()}
        onDoubleClick={() => column.resetSize()}
      />
    </>
  );
}

/** Which columns are shown. The first one, by which rows are known, stays. */
export function ColumnChoice<R>({ table }: { table: Table<R> }) {
  const columns = table.getAllLeafColumns().filter((c) => !c.columnDef.meta?.silent);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label="Columns"
        title="Which columns are shown"
        className="grid size-7 flex-none place-items-center rounded-md text-soft hover:bg-raised"
      >
        <Columns3 size={14} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className={MENU}>
          {columns.slice(1).map((column) => (
            <DropdownMenu.CheckboxItem
              key={column.id}
              checked={column.getIsVisible()}
              onCheckedChange={(on) => column.toggleVisibility(on)}
              onSelect={(e) => e.preventDefault()}
              className={`${MENU_ITEM} gap-2`}
            >
              <span aria-hidden="true" className="w-4">
                {column.getIsVisible() ? '✓' : ''}
              </span>
              {column.columnDef.meta?.title}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
