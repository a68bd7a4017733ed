/** The patch as a table: sorted, filtered, many cells written at once. Only the rows in sight are drawn. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { notice } from '../state/messages';
import { formatPoints } from '@/core/fixtures/points';
import { plain } from '@/core/rig/search';
import type { FixtureRow } from '@/core/fixtures/rows';
import { edit, select, toggleSelected } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';
import { CellEditor, type Entry } from '../parts/CellEditor';
import {
  cellText,
  COLUMNS,
  fill,
  flagsOf,
  parseGrid,
  paste,
  sortKey,
  writeCells,
  type CellWrite,
  type Column,
  type ColumnKey,
} from './grid';
import { keep } from '../parts/keep';
import { setUniverse } from './rig-state';
import { unitToken } from './map-draw';
import { useDrag } from '../parts/use-drag';
import { FixtureMenu } from './FixtureMenu';

const ROW = 30;
const WIDTHS = 'wingman-rig-columns';

interface Place {
  row: number;
  column: number;
}

function useWidths(): [Record<string, number>, (key: ColumnKey, width: number) => void] {
  const [widths, setWidths] = useState<Record<string, number>>(() => {
    try {
      return JSON.parse(keep.getItem(WIDTHS) ?? '{}') as Record<string, number>;
    } catch {
      return {};
    }
  });
  return [
    widths,
    (key, width) =>
      setWidths((now) => {
        const next = { ...now, [key]: Math.max(36, Math.round(width)) };
        keep.setItem(WIDTHS, JSON.stringify(next));
        return next;
      }),
  ];
}

export function FixtureTable() {
  const show = useShow();
  const { selection, you, revision } = useScreen();
  const [filter, setFilter] = useState('');
  const [sort, setSort] = useState<{ key: ColumnKey; down: boolean }>({
    key: 'number',
    down: false,
  });
  const [widths, setWidth] = useWidths();
  const [active, setActive] = useState<Place | null>(null);
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [editing, setEditing] = useState<Entry | null>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const editable = mayEdit(you.role);

  const rows = useMemo(() => {
    void revision;
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    const fits = (f: FixtureRow): boolean => {
      const type = show.types.get(f.typeId);
      const fields = [
        String(f.number),
        f.label,
        `${type?.maker} ${type?.name}`,
        f.mode,
        f.hang,
        cellText(show, f, 'circuit'),
        formatPoints(f.patch),
        flagsOf(show, f).join(' '),
      ];
      // A word is found in a field as it stands, or at its beginning without spaces and punctuation (`bar2`).
      return words.every((w) =>
        fields.some(
          (field) =>
            field.toLowerCase().includes(w) ||
            (plain(w) !== '' && plain(field).startsWith(plain(w))),
        ),
      );
    };
    return [...show.fixtures.values()]
      .filter((f) => words.length === 0 || fits(f))
      .map((f) => ({ f, key: sortKey(show, f, sort.key) }))
      .sort((a, b) => {
        const order =
          typeof a.key === 'number' && typeof b.key === 'number'
            ? a.key - b.key
            : String(a.key).localeCompare(String(b.key), undefined, { numeric: true });
        return (sort.down ? -order : order) || a.f.number - b.f.number;
      })
      .map((x) => x.f);
  }, [show, revision, filter, sort]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const selected = useMemo(() => new Set(selection), [selection]);
  const template = COLUMNS.map((c) => `${widths[c.key] ?? c.width}px`).join(' ');
  const total =
    COLUMNS.reduce((sum, c) => sum + (widths[c.key] ?? c.width), 0) + COLUMNS.length * 4 + 24;

  // The block of cells between anchor and active; one cell when they meet.
  const box = active && {
    top: Math.min(active.row, anchor?.row ?? active.row),
    bottom: Math.max(active.row, anchor?.row ?? active.row),
    left: Math.min(active.column, anchor?.column ?? active.column),
    right: Math.max(active.column, anchor?.column ?? active.column),
  };
  const inBox = (row: number, column: number): boolean =>
    box !== null &&
    row >= box.top &&
    row <= box.bottom &&
    column >= box.left &&
    column <= box.right;

  const write = async (writes: readonly CellWrite[]): Promise<void> => {
    if (writes.length === 0) return;
    const params = writeCells(show, writes);
    if ('problem' in params) notice.error(`${params.problem} Nothing was changed.`);
    else await edit('change-fixtures', params);
  };

  /** Goes to a cell; with `extend` the block grows to it, and its rows are the selection. */
  const goTo = (to: Place, extend: boolean): void => {
    const place = {
      row: Math.min(rows.length - 1, Math.max(0, to.row)),
      column: Math.min(COLUMNS.length - 1, Math.max(0, to.column)),
    };
    const from = extend ? (anchor ?? active ?? place) : place;
    setActive(place);
    setAnchor(from);
    const [a, b] = [Math.min(from.row, place.row), Math.max(from.row, place.row)];
    select(rows.slice(a, b + 1).map((r) => r.id));
    const row = rows[place.row];
    if (row?.patch[0] && !extend) setUniverse(row.patch[0].universe);
    virtual.scrollToIndex(place.row);
  };

  /** Begins typing into the cell that is chosen; what is typed goes into the whole column of the block. */
  const begin = (first: string | null, at: Place | null = active): void => {
    const here = at && rows[at.row];
    if (!here || !editable || !COLUMNS[at.column]?.editable) return;
    const block =
      box && at.row >= box.top && at.row <= box.bottom
        ? rows.slice(box.top, box.bottom + 1)
        : [here];
    setEditing({ id: here.id, column: at.column, into: block.map((r) => r.id), first });
  };
  const keepEntry = (entry: Entry, text: string): void => {
    setEditing((now) => (now === entry ? null : now));
    if (document.activeElement === document.body || document.activeElement?.tagName === 'INPUT')
      scroll.current?.focus();
    const column = COLUMNS[entry.column];
    const here = show.fixtures.get(entry.id);
    if (!column || !here) return;
    if (entry.into.length === 1 && text.trim() === cellText(show, here, column.key)) return;
    // A # counts up through the block.
    void write(
      entry.into.map((id, i) => ({
        id,
        column: column.key,
        text: entry.into.length > 1 ? text.replace('#', String(i + 1)) : text,
      })),
    );
  };

  const fillDown = (how: 'same' | 'count'): void => {
    if (!box || box.top === box.bottom) {
      notice('Select the cells of a column first: click one, then Shift and click the last.');
      return;
    }
    const many = rows.slice(box.top, box.bottom + 1);
    void write(
      COLUMNS.slice(box.left, box.right + 1)
        .filter((c) => c.editable)
        .flatMap((c) => fill(show, many, c.key, how)),
    );
  };

  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (editing) return;
    const move: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-12, 0],
      PageDown: [12, 0],
      Home: [-1e6, 0],
      End: [1e6, 0],
    };
    const by = move[e.key];
    const mod = e.ctrlKey || e.metaKey;
    if (by && !e.altKey && !mod)
      goTo({ row: (active?.row ?? 0) + by[0], column: (active?.column ?? 0) + by[1] }, e.shiftKey);
    else if (
      (e.key === 'Enter' || e.key === 'F2') &&
      active &&
      editable &&
      COLUMNS[active.column]?.editable
    )
      begin(null);
    else if (
      !mod &&
      !e.altKey &&
      /^[\p{L}\d.#]$/u.test(e.key) &&
      active &&
      editable &&
      COLUMNS[active.column]?.editable
    )
      begin(e.key);
    else if (mod && e.key.toLowerCase() === 'd' && editable)
      fillDown(e.shiftKey ? 'count' : 'same');
    else if (mod && e.key.toLowerCase() === 'a') select(rows.map((r) => r.id));
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const widening = useDrag<{ key: ColumnKey; x: number; width: number }>({
    begin: (e) => {
      const column = COLUMNS.find((c) => c.key === e.currentTarget.getAttribute('data-column'));
      return column
        ? { key: column.key, x: e.clientX, width: widths[column.key] ?? column.width }
        : null;
    },
    move: (from, e) => setWidth(from.key, from.width + e.clientX - from.x),
  });

  const heading = (c: Column): React.ReactNode => (
    <div
      key={c.key}
      role="columnheader"
      aria-sort={c.key === sort.key ? (sort.down ? 'descending' : 'ascending') : 'none'}
      className={`relative min-w-0 ${c.right ? 'text-right' : ''}`}
    >
      <button
        type="button"
        onClick={() => setSort((s) => ({ key: c.key, down: s.key === c.key && !s.down }))}
        className={`h-7 max-w-full whitespace-nowrap ${sort.key === c.key ? 'text-text' : 'hover:text-soft'}`}
      >
        {c.title}
        {sort.key === c.key ? (sort.down ? ' ↓' : ' ↑') : ''}
      </button>
      <span
        role="separator"
        aria-label={`Width of ${c.title}`}
        aria-orientation="vertical"
        className="absolute top-0 -right-1.5 h-7 w-3 cursor-col-resize touch-none after:absolute after:top-2 after:left-1.5 after:h-3 after:w-px after:bg-edge"
        data-column={c.key}
        data-field={c.title}
        {...widening}
        onDoubleClick={() => setWidth(c.key, c.width)}
      />
    </div>
  );

  if (show.fixtures.size === 0) {
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
  const many = box ? box.bottom - box.top + 1 : 0;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-10 flex-none items-center gap-3 px-3">
        <input
          aria-label="Filter fixtures"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          placeholder="Filter: number, label, type, position, address, circuit"
          className="h-7 min-w-0 flex-1 rounded-md bg-raised px-2.5 outline-none placeholder:text-dim focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
        />
        {many > 1 && editable && (
          <span className="flex items-center gap-1">
            <button
              type="button"
              title="The first cell into all below it (Ctrl D)"
              onClick={() => fillDown('same')}
              className="h-7 rounded-md bg-raised px-2 text-[12px] whitespace-nowrap text-soft hover:bg-lift"
            >
              Fill down
            </button>
            <button
              type="button"
              title="Count on from the first cell (Ctrl Shift D)"
              onClick={() => fillDown('count')}
              className="h-7 rounded-md bg-raised px-2 text-[12px] whitespace-nowrap text-soft hover:bg-lift"
            >
              Count on
            </button>
          </span>
        )}
        <span className="text-[12px] whitespace-nowrap text-muted">
          {rows.length === show.fixtures.size
            ? `${rows.length} fixtures`
            : `${rows.length} of ${show.fixtures.size}`}
        </span>
      </div>
      <FixtureMenu>
        <div
          ref={scroll}
          role="grid"
          aria-label="Fixtures"
          aria-rowcount={rows.length}
          aria-multiselectable
          tabIndex={0}
          data-takes-digits={
            active && editable && COLUMNS[active.column]?.editable ? '' : undefined
          }
          data-scroll="fixtures"
          className="min-h-0 flex-1 overflow-auto outline-offset-[-2px]"
          onKeyDown={onKeyDown}
          onCopy={(e) => {
            if (!box || editing) return;
            e.preventDefault();
            e.clipboardData.setData(
              'text/plain',
              rows
                .slice(box.top, box.bottom + 1)
                .map((r) =>
                  COLUMNS.slice(box.left, box.right + 1)
                    .map((c) => cellText(show, r, c.key))
                    .join('\t'),
                )
                .join('\n'),
            );
          }}
          onPaste={(e) => {
            if (!active || !box || editing || !editable) return;
            e.preventDefault();
            const { writes, left } = paste(
              rows,
              COLUMNS,
              { row: box.top, column: box.left },
              parseGrid(e.clipboardData.getData('text/plain')),
              box.bottom - box.top + 1,
            );
            if (writes.length === 0)
              notice.error(
                'Nothing of that fits here: paste onto numbers, labels, addresses, positions or circuits.',
              );
            else void write(writes);
            if (left > 0 && writes.length > 0)
              notice(`${left} cells had no place here and were left out.`);
          }}
        >
          <div style={{ minWidth: total }}>
            <div
              role="row"
              className="sticky top-0 z-10 grid h-8 items-center gap-x-1 border-b border-line bg-ink px-3 text-[12px] text-muted"
              style={{ gridTemplateColumns: template }}
            >
              {COLUMNS.map(heading)}
            </div>
            <div style={{ height: virtual.getTotalSize() }} className="relative">
              {virtual.getVirtualItems().map((item) => {
                const f = rows[item.index];
                if (!f) return null;
                const type = show.types.get(f.typeId);
                const on = selected.has(f.id);
                const off = f.patch.length === 0;
                return (
                  <div
                    key={f.id}
                    role="row"
                    onContextMenu={() =>
                      !selected.has(f.id) &&
                      goTo({ row: item.index, column: active?.column ?? 0 }, false)
                    }
                    aria-selected={on}
                    aria-rowindex={item.index + 1}
                    data-fixture={f.number}
                    data-of={`fixtures/${f.id}`}
                    className={`absolute inset-x-0 grid cursor-default items-center gap-x-1 border-b border-raised px-3 ${on ? 'bg-standby-wash shadow-[inset_2px_0_0_var(--color-standby)]' : 'hover:bg-panel'} ${off ? 'text-dim' : ''}`}
                    style={{
                      height: ROW,
                      transform: `translateY(${item.start}px)`,
                      gridTemplateColumns: template,
                    }}
                  >
                    {COLUMNS.map((c, column) => {
                      const text = cellText(show, f, c.key);
                      const here = active?.row === item.index && active.column === column;
                      if (editing?.id === f.id && editing.column === column) {
                        return (
                          <CellEditor
                            key={c.key}
                            label={c.title}
                            text={text}
                            first={editing.first}
                            onKeep={(typed) => keepEntry(editing, typed)}
                            onLeave={() => {
                              setEditing(null);
                              scroll.current?.focus();
                            }}
                            className={`-mx-1 h-7 min-w-0 rounded bg-ink px-1 text-text shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none ${c.mono ? 'num text-[12.5px]' : ''}`}
                          />
                        );
                      }
                      return (
                        <span
                          key={c.key}
                          role="gridcell"
                          data-column={c.key}
                          title={c.key === 'flags' || text.length > 12 ? text : undefined}
                          onMouseDown={(e) => {
                            if (e.button !== 0) return;
                            if (e.ctrlKey || e.metaKey) toggleSelected(f.id);
                            else goTo({ row: item.index, column }, e.shiftKey);
                          }}
                          onDoubleClick={() => begin(null, { row: item.index, column })}
                          className={`-mx-1 flex h-7 min-w-0 items-center rounded px-1 ${c.mono ? 'num text-[12.5px]' : ''} ${c.right ? 'justify-end' : ''} ${here ? 'shadow-[inset_0_0_0_1.5px_var(--color-standby)]' : inBox(item.index, column) && many > 1 ? 'bg-standby/10' : ''} ${c.editable ? '' : 'text-muted'} ${c.key === 'number' && on ? 'text-standby' : ''}`}
                        >
                          {c.key === 'type' && type && (
                            <i
                              className="mr-1.5 size-2 flex-none rounded-[2px]"
                              style={{
                                background: `var(--color-${unitToken(type.shape)})`,
                                boxShadow: 'inset 0 0 0 1px var(--color-edge)',
                              }}
                            />
                          )}
                          {c.key === 'flags' ? (
                            <Flags list={flagsOf(show, f)} />
                          ) : (
                            <span className="truncate">{text || '—'}</span>
                          )}
                        </span>
                      );
                    })}
                  </div>
                );
              })}
            </div>
          </div>
        </div>
      </FixtureMenu>
    </div>
  );
}

function Flags({ list }: { list: readonly string[] }) {
  return (
    <span className="flex gap-1 overflow-hidden">
      {list.map((flag) => (
        <span
          key={flag}
          className={`rounded px-1.5 text-[11.5px] leading-[18px] whitespace-nowrap ${flag === 'off the rig' ? 'text-warning' : 'bg-raised text-soft'}`}
        >
          {flag}
        </span>
      ))}
    </span>
  );
}
