/** The patch as a table: sorted, filtered, many cells written at once. Only the rows in sight are drawn. */
'use client';
import type { Table } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import type { FixtureRow } from '@/core/fixtures/rows';
import { ColumnChoice, Head, sortOf } from '../parts/table/heads';
import { useScreen, useShow } from '../state/store';
import { FixtureLine } from './fixture-table/FixtureLine';
import { useFixtureGrid, type FixtureGrid } from './fixture-table/use-grid';
import { useFixtureRows } from './fixture-table/use-rows';
import { FixtureMenu } from './FixtureMenu';
import { COLUMNS, type Column } from './grid';

const ROW = 30;
const GAP = 4;
const MARGINS = 24;

/** The columns that are shown, and the grid that they stand in. */
function shownColumns(table: Table<FixtureRow>) {
  const leaves = table.getVisibleLeafColumns();
  const columns = leaves.flatMap((c): Column[] => COLUMNS.filter((own) => own.key === c.id));
  return {
    columns,
    template: leaves.map((c) => `${c.getSize()}px`).join(' '),
    width: table.getTotalSize() + leaves.length * GAP + MARGINS,
  };
}

/** All units, as a table that is written in. */
export function FixtureTable() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const [filter, setFilter] = useState('');
  const scroll = useRef<HTMLDivElement>(null);
  const { table, rows } = useFixtureRows(filter);
  const { columns, template, width } = shownColumns(table);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const grid = useFixtureGrid(scroll, rows, columns, (row) => virtual.scrollToIndex(row));
  const selected = useMemo(() => new Set(selection), [selection]);
  if (show.fixtures.size === 0) return <NoFixtures />;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-10 flex-none items-center gap-3 px-3">
        <input
          aria-label="Filter fixtures"
          inputMode="search"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          placeholder="Filter: number, label, type, position, address, circuit"
          className="h-7 min-w-0 flex-1 rounded-md bg-raised px-2.5 outline-none placeholder:text-dim focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
        />
        <FillButtons grid={grid} />
        <span className="text-[12px] whitespace-nowrap text-muted">
          {rows.length === show.fixtures.size
            ? `${rows.length} fixtures`
            : `${rows.length} of ${show.fixtures.size}`}
        </span>
        <ColumnChoice table={table} />
      </div>
      <FixtureMenu>
        <div
          ref={scroll}
          role="grid"
          aria-label="Fixtures"
          aria-rowcount={rows.length}
          aria-multiselectable
          tabIndex={0}
          data-takes-digits={grid.writable ? '' : undefined}
          data-scroll="fixtures"
          className="min-h-0 flex-1 overflow-auto outline-offset-[-2px]"
          {...grid.handlers}
        >
          <div role="rowgroup" style={{ minWidth: width }}>
            {table.getHeaderGroups().map((group) => (
              <div
                key={group.id}
                role="row"
                className="sticky top-0 z-10 grid h-8 items-center gap-x-1 border-b border-line bg-ink px-3 text-[12px] text-muted"
                style={{ gridTemplateColumns: template }}
              >
                {group.headers.map((header) => (
                  <div
                    key={header.id}
                    role="columnheader"
                    aria-sort={sortOf(header)}
                    className={`relative min-w-0 ${header.column.columnDef.meta?.right ? 'text-right' : ''}`}
                  >
                    <Head header={header} />
                  </div>
                ))}
              </div>
            ))}
            <div style={{ height: virtual.getTotalSize() }} className="relative">
              {virtual.getVirtualItems().map(({ index, start }) => {
                const fixture = rows[index];
                return (
                  fixture && (
                    <FixtureLine
                      key={fixture.id}
                      fixture={fixture}
                      columns={columns}
                      row={index}
                      top={start}
                      height={ROW}
                      template={template}
                      selected={selected.has(fixture.id)}
                      grid={grid}
                    />
                  )
                );
              })}
            </div>
          </div>
        </div>
      </FixtureMenu>
    </div>
  );
}

const FILL = 'h-7 rounded-md bg-raised px-2 text-[12px] whitespace-nowrap text-soft hover:bg-lift';

function FillButtons({ grid: { block, editable, fillDown } }: { grid: FixtureGrid }) {
  if (!editable || !block || block.top === block.bottom) return null;
  return (
    <span className="flex items-center gap-1">
      <button
        type="button"
        title="The first cell into all below it (Ctrl D)"
        onClick={() => fillDown('same')}
        className={FILL}
      >
        Fill down
      </button>
      <button
        type="button"
        title="Count on from the first cell (Ctrl Shift D)"
        onClick={() => fillDown('count')}
        className={FILL}
      >
        Count on
      </button>
    </span>
  );
}

function NoFixtures() {
  return (
    <div className="grid h-full place-items-center p-8 text-center text-muted">
      <div className="max-w-sm">
        <p className="text-[15px] font-semibold text-soft">The house is empty</p>
        <p className="mt-1">
          Pick a type on the left, say how many, and patch; or drag it onto the map above. Or type
          it: patch 6 dimmer from 1 at 1.1
        </p>
        <p className="mt-1">A list from last time comes in with Import, as CSV.</p>
      </div>
    </div>
  );
}
