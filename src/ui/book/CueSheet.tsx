/** The cue sheet with ties: rows are cues, columns are groups and fixtures; a pill is set, a line tracks from it. Cells are drawn, cues are rows. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Award, ChevronsLeftRight, ChevronsRightLeft, Zap } from 'lucide-react';
import { ContextMenu } from 'radix-ui';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { cellValues, readCell } from '@/core/cues/cell-text';
import { CELL, runsTo, type Column } from '@/core/cues/sheet';
import { familyOf } from '@/core/rig/attributes';
import { levelOf } from '@/core/looks/value';
import { FAMILIES, type Family } from '@/core/show/fields';
import type { CueRow } from '@/core/cues/rows';
import { cueTimes, marksOf, Others } from '../frame/Spine';
import { notice } from '../state/messages';
import { edit } from '../state/actions';
import { actedOn, lookAt, useBook, useBookList, type Cells } from '../state/book';
import { mayEdit, useScreen, useShow } from '../state/store';
import { CellTimes } from './CellTimes';
import { CellEditor } from '../parts/CellEditor';
import { CueMenu } from './CueMenu';
import { RowCell, type RowField } from './RowCell';
import { drawSheet, HEAD, ROW } from './draw-sheet';
import { useSheet } from './use-sheet';
import { actionWords, triggerOf } from './words';
import { coloursAt } from '../parts/tokens';
import { useLook } from '../state/look';

const LEFT = 256;
const [NARROW, WIDEST] = [39, 66];

/** What is held and not recorded, a word for each column. */
function usePending(columns: readonly Column[], family: Family): ReadonlyMap<number, string> {
  const show = useShow();
  const values = useScreen((s) => s.values);
  return useMemo(() => {
    const byFixture = new Map<string, { level: number; name: string }>();
    for (const v of values.values()) {
      if (v.recorded || familyOf(v.attribute) !== family) continue;
      const name = v.palette
        ? (show.palettes.get(v.palette)?.name ?? '')
        : v.look
          ? (show.looks.get(v.look)?.name ?? '')
          : '';
      byFixture.set(v.fixtureId, { level: levelOf(show, v) ?? 0, name });
    }
    const pending = new Map<number, string>();
    if (byFixture.size === 0) return pending;
    columns.forEach((c, i) => {
      const held = c.fixtures.flatMap((id) => byFixture.get(id) ?? []);
      if (held.length === 0) return;
      const [first] = held;
      pending.set(
        i,
        first?.name
          ? first.name
          : family === 'intensity'
            ? String(Math.round(Math.max(...held.map((h) => h.level)) * 100))
            : '•',
      );
    });
    return pending;
  }, [columns, family, values, show]);
}

export function CueSheet() {
  const show = useShow();
  const { family, unfolded, cells, search, marked, follow } = useBook();
  const { listId, status, cues, cue, chosen } = useBookList();
  const may = mayEdit(useScreen((s) => s.you.role));
  const made = useSheet(listId, family, unfolded);
  const scroll = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [hover, setHover] = useState<{ row: number; column: number; x: number; y: number } | null>(
    null,
  );
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [typing, setTyping] = useState<string | null>(null);
  const [timing, setTiming] = useState(false);
  const [own, setOwn] = useState<{ id: string; what: RowField } | null>(null);
  const dragging = useRef(false);

  // A sheet that was made for other cues is not drawn over these.
  const fits =
    made !== null &&
    made.cueIds.length === cues.length &&
    made.cueIds.every((id, i) => id === cues[i]?.id);
  const sheet = fits ? made.sheet : null;
  const columns = useMemo(() => made?.columns ?? [], [made]);
  const wide = Math.max(
    NARROW,
    Math.min(WIDEST, Math.floor((size.width - LEFT) / Math.max(1, columns.length))),
  );
  const pending = usePending(columns, family);
  const rows = useVirtualizer({
    count: cues.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollMargin: HEAD,
  });
  const across = useVirtualizer({
    horizontal: true,
    count: columns.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => wide,
    overscan: 6,
    scrollMargin: LEFT,
  });
  useEffect(() => across.measure(), [across, wide]);

  const people = useScreen((s) => s.people);
  const me = useScreen((s) => s.you.userId);
  const here = useMemo(() => marksOf(people.filter((x) => x.userId !== me)), [people, me]);
  const ghosts = useMemo(
    () =>
      people
        .filter((p) => p.userId !== me)
        .flatMap((p) => p.hands)
        .flatMap(({ hand }) => {
          if (!hand?.startsWith('cells/')) return [];
          const [, cueId, ...rest] = hand.split('/');
          const [row, column] = [
            cues.findIndex((c) => c.id === cueId),
            columns.findIndex((c) => c.id === rest.slice(0, -1).join('/')),
          ];
          return row < 0 || column < 0 ? [] : [{ hand, row, column }];
        }),
    [people, me, cues, columns],
  );
  const likes = show.version('likes');
  const liked = useMemo(() => {
    void likes;
    return new Map(
      [...show.likes.values()].map((l) => [
        l.cueId,
        l.lost ? `${l.by.name} liked it; it has changed since` : `${l.by.name} likes it`,
      ]),
    );
  }, [show, likes]);
  const at = cues.findIndex((c) => c.id === cue?.id);
  const now = cues.findIndex((c) => c.id === status?.cueId);
  const next = cues.findIndex((c) => c.id === status?.nextId);
  const foundRows = useMemo(() => foundIn(cues, search), [cues, search]);
  const markedRows = useMemo(
    () =>
      new Set([
        ...foundRows,
        ...marked.map((id) => cues.findIndex((c) => c.id === id)).filter((i) => i >= 0),
      ]),
    [foundRows, marked, cues],
  );

  const theme = useLook((s) => s.theme);
  const draw = useCallback(() => {
    const [el, box] = [canvas.current, scroll.current];
    if (!el || !box) return;
    const width = Math.max(0, box.clientWidth - LEFT);
    const height = Math.max(0, box.clientHeight - HEAD);
    const scale = window.devicePixelRatio || 1;
    if (el.width !== Math.round(width * scale) || el.height !== Math.round(height * scale)) {
      el.width = Math.round(width * scale);
      el.height = Math.round(height * scale);
      el.style.width = `${width}px`;
      el.style.height = `${height}px`;
    }
    const g = el.getContext('2d');
    if (!g) return;
    g.setTransform(scale, 0, 0, scale, 0, 0);
    if (!sheet) {
      g.clearRect(0, 0, width, height);
      return;
    }
    void theme;
    drawSheet(g, {
      colours: coloursAt(el),
      sheet,
      columns,
      wide,
      x: box.scrollLeft,
      y: box.scrollTop,
      width,
      height,
      hover,
      cells,
      now,
      next,
      picked: at,
      pending,
      pendingRow: at,
      marked: markedRows,
    });
  }, [theme, sheet, columns, wide, hover, cells, now, next, at, pending, markedRows]);
  useLayoutEffect(draw, [draw, size]);

  useEffect(() => {
    const box = scroll.current;
    if (!box) return;
    const observer = new ResizeObserver(() =>
      setSize({ width: box.clientWidth, height: box.clientHeight }),
    );
    observer.observe(box);
    void document.fonts.ready.then(draw);
    return () => observer.disconnect();
  }, [draw]);

  // Going along: the cue on stage stays in sight.
  useEffect(() => {
    if (follow && now >= 0)
      rows.scrollToIndex(Math.min(cues.length - 1, now + 2), { align: 'auto' });
  }, [follow, now, rows, cues.length]);
  // What is looked for: the found ones are marked, the first of them comes into sight.
  const [firstFound] = foundRows;
  useEffect(() => {
    if (firstFound !== undefined) rows.scrollToIndex(firstFound, { align: 'center' });
  }, [firstFound, rows]);

  const cellAt = (e: {
    clientX: number;
    clientY: number;
  }): { row: number; column: number } | null => {
    const box = scroll.current;
    const r = canvas.current?.getBoundingClientRect();
    if (!box || !r) return null;
    const row = Math.floor((e.clientY - r.top + box.scrollTop) / ROW);
    const column = Math.floor((e.clientX - r.left + box.scrollLeft) / wide);
    return row < 0 || row >= cues.length || column < 0 || column >= columns.length
      ? null
      : { row, column };
  };
  const choose = (next: Cells | null): void => {
    useBook.setState({ cells: next });
    if (!next) return;
    rows.scrollToIndex(next.toRow, { align: 'auto' });
    const box = scroll.current;
    if (!box) return;
    const left = next.toColumn * wide;
    if (left < box.scrollLeft) box.scrollLeft = left;
    else if (left + wide > box.scrollLeft + box.clientWidth - LEFT)
      box.scrollLeft = left + wide - (box.clientWidth - LEFT);
  };

  const inRange = (c: Cells): { cues: CueRow[]; columns: Column[] } => ({
    cues: cues.slice(Math.min(c.row, c.toRow), Math.max(c.row, c.toRow) + 1),
    columns: columns.slice(Math.min(c.column, c.toColumn), Math.max(c.column, c.toColumn) + 1),
  });
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
    const { cues: into, columns: over } = inRange(cells);
    const values = over.flatMap((c) => cellValues(show, family, c.fixtures, said));
    const set = into.flatMap((c) => values.map((v) => ({ cueId: c.id, ...v })));
    await edit('set-values', { cells: set });
  };

  const keys = (e: React.KeyboardEvent): void => {
    if (e.target !== scroll.current) return;
    const c = cells ?? { row: Math.max(0, at), column: 0, toRow: Math.max(0, at), toColumn: 0 };
    const page = Math.max(1, Math.floor(size.height / ROW) - 3);
    const by: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-page, 0],
      PageDown: [page, 0],
      Home: [0, -columns.length],
      End: [0, columns.length],
    };
    const step = by[e.key];
    if (step && !e.altKey) {
      const toRow = Math.min(cues.length - 1, Math.max(0, c.toRow + step[0]));
      const toColumn = Math.min(columns.length - 1, Math.max(0, c.toColumn + step[1]));
      choose(
        e.shiftKey ? { ...c, toRow, toColumn } : { row: toRow, column: toColumn, toRow, toColumn },
      );
    } else if (e.key === 'Escape' && cells) {
      useBook.setState({ cells: null });
    } else if (!cells || e.ctrlKey || e.metaKey || e.altKey) return;
    else if (e.key === ' ') {
      const row = cues[cells.toRow];
      if (row) lookAt(row.id);
    } else if (!may) return;
    else if (e.key === 'Enter' || e.key === 'F2') setTyping('');
    else if (e.key === 'Delete' || e.key === 'Backspace') void write('');
    else if (/^[\p{L}\d."“]$/u.test(e.key)) setTyping(e.key);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  const says = useMemo(() => {
    const spot = hover ?? (cells ? { row: cells.toRow, column: cells.toColumn } : null);
    const row = spot ? cues[spot.row] : undefined;
    const column = spot ? columns[spot.column] : undefined;
    if (!sheet || !spot || !row || !column) return '';
    const cell = spot.row * sheet.columns + spot.column;
    const flags = sheet.flags[cell] as number;
    const origin = sheet.origin[cell] as number;
    const name = `${column.label}${column.title && column.label !== column.title ? `, ${column.title}` : ''} in LX ${formatCueNumber(row.number)}`;
    if (origin < 0)
      return (flags & CELL.release) !== 0 ? `${name}: let go here` : `${name}: nothing is set`;
    const end = cues[runsTo(sheet, spot.row, spot.column)];
    const from = cues[origin];
    const source = origin * sheet.columns + spot.column;
    const label = sheet.labels[sheet.label[source] as number] ?? '';
    const what =
      label !== ''
        ? label
        : family === 'intensity'
          ? `${(sheet.flags[source] as number) & CELL.mixed ? 'up to ' : ''}${Math.round((sheet.level[source] as number) * 100)} %`
          : 'a value';
    const carries =
      end && end.number > row.number ? `, carries to LX ${formatCueNumber(end.number)}` : '';
    const more = [
      (flags & CELL.early) !== 0 ? 'moves here already for the next cue' : '',
      (flags & CELL.effect) !== 0 ? 'with an effect' : '',
      (flags & CELL.timed) !== 0 ? 'in times of its own' : '',
    ]
      .filter(Boolean)
      .join(', ');
    return `${column.label}: ${what} ${origin === spot.row ? `set in LX ${formatCueNumber(row.number)}` : `tracks from LX ${formatCueNumber(from?.number ?? 0)}`}${carries}${more ? `; ${more}` : ''}`;
  }, [hover, cells, sheet, columns, cues, family]);

  const pick = (e: React.MouseEvent, id: string): void => {
    const ids = cues.map((c) => c.id);
    if (e.shiftKey && chosen[0] !== undefined) {
      const [a, b] = [ids.indexOf(chosen[0]), ids.indexOf(id)];
      const range = ids.slice(Math.min(a, b), Math.max(a, b) + 1);
      useBook.setState({ chosen: a <= b ? range : [...range].reverse() });
    } else if (e.ctrlKey || e.metaKey)
      useBook.setState({
        chosen: chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id],
      });
    else lookAt(id);
  };

  /** The menu key: about the cells that are chosen, or else the cue that is looked at. */
  const byKey = (e: React.MouseEvent): void => {
    if (e.target !== scroll.current) return;
    e.preventDefault();
    const at = cells
      ? canvas.current
      : scroll.current?.querySelector(
          `[data-sheet-cue="${cue ? formatCueNumber(cue.number) : ''}"]`,
        );
    const r = at?.getBoundingClientRect();
    const over =
      cells && r ? { x: r.left + 40, y: r.top + 40 } : r && { x: r.left + 60, y: r.top + ROW / 2 };
    if (at && over)
      at.dispatchEvent(
        new MouseEvent('contextmenu', {
          bubbles: true,
          cancelable: true,
          clientX: over.x,
          clientY: over.y,
        }),
      );
  };
  const begin = (id: string, what: RowField): void => {
    if (may) setOwn({ id, what });
  };
  // Numbers keep off the names, however long they are.
  const longest = Math.max(1, ...cues.map((c) => formatCueNumber(c.number).length));
  const template = `${Math.max(42, 22 + longest * 7.6)}px 1fr 48px 74px`;
  const spanWidth = columns.length * wide;
  const box =
    typing !== null && cells && canvas.current
      ? { left: LEFT + cells.column * wide, top: HEAD + cells.row * ROW }
      : null;
  const onStage = status?.cueNumber ?? null;
  return (
    <div className="relative flex h-full min-h-0 flex-col">
      <div
        ref={scroll}
        tabIndex={0}
        data-takes-digits={cells && may ? '' : undefined}
        data-testid="cue-sheet"
        data-scroll="cue-sheet"
        role="grid"
        aria-label={`Cue sheet, ${family}`}
        aria-rowcount={cues.length}
        aria-colcount={columns.length}
        aria-describedby="sheet-says"
        onKeyDown={keys}
        onContextMenu={byKey}
        onScroll={draw}
        className="relative min-h-0 flex-1 overflow-auto focus-visible:outline-offset-[-2px]"
      >
        <ContextMenu.Root>
          <div
            className="relative"
            style={{ width: LEFT + spanWidth, height: HEAD + rows.getTotalSize() }}
          >
            <div
              role="row"
              className="sticky top-0 z-20 bg-ink text-[12px] text-muted"
              style={{ height: HEAD, width: LEFT + spanWidth }}
            >
              <div
                className="sticky left-0 z-10 grid h-full items-end border-b border-line bg-ink pb-1.5 pl-3"
                style={{ width: LEFT, gridTemplateColumns: template }}
              >
                <span>Cue</span>
                <span>Name</span>
                <span className="pr-2 text-right">Times</span>
                <span>Trigger</span>
              </div>
              {across.getVirtualItems().map((item) => {
                const c = columns[item.index];
                if (!c) return null;
                const firstOfGroup =
                  c.group !== undefined && columns[item.index - 1]?.group !== c.group;
                const members =
                  c.group === undefined ? 0 : columns.filter((x) => x.group === c.group).length;
                return (
                  <div
                    key={c.id}
                    role="columnheader"
                    title={`${c.label}: ${c.title}`}
                    className={`absolute bottom-0 border-b border-line pb-1 text-center text-[11px] leading-[13px] ${hover?.column === item.index ? 'text-text' : ''}`}
                    style={{ left: LEFT + item.index * wide, width: wide, height: HEAD }}
                  >
                    {firstOfGroup && (
                      <button
                        type="button"
                        title="Fold the group"
                        onClick={() => fold(c.group ?? '', false)}
                        className="absolute top-0 left-0 flex h-[18px] items-center justify-center gap-1 overflow-hidden border-b border-line text-[11px] hover:text-text"
                        style={{ width: members * wide }}
                      >
                        <ChevronsRightLeft size={10} className="flex-none" />
                        <span className="truncate">{show.groups.get(c.group ?? '')?.name}</span>
                      </button>
                    )}
                    {c.folded ? (
                      <button
                        type="button"
                        title={`${c.title}: unfold`}
                        onClick={() => fold(c.id, true)}
                        className="group/h absolute inset-x-0 bottom-1 max-h-[38px] overflow-hidden px-0.5 hyphens-auto hover:text-text"
                      >
                        {c.label}
                        <ChevronsLeftRight
                          size={9}
                          className="mx-auto hidden group-hover/h:block"
                        />
                      </button>
                    ) : (
                      <span className="num absolute inset-x-0 bottom-1">{c.label}</span>
                    )}
                    {pending.has(item.index) && (
                      <i
                        title="Not recorded"
                        className="absolute top-1 right-1 size-1.5 rounded-full bg-unrecorded"
                      />
                    )}
                  </div>
                );
              })}
            </div>
            <div
              className="absolute"
              style={{ top: HEAD, left: LEFT, width: spanWidth, height: rows.getTotalSize() }}
            >
              <ContextMenu.Trigger asChild>
                <canvas
                  ref={canvas}
                  data-testid="sheet-cells"
                  data-wide={wide}
                  className="sticky touch-none select-none"
                  style={{ top: HEAD, left: LEFT }}
                  onPointerDown={(e) => {
                    const spot = cellAt(e);
                    if (!spot || (e.button === 2 && cells && inside(cells, spot))) return;
                    scroll.current?.focus();
                    if (e.shiftKey && cells)
                      choose({ ...cells, toRow: spot.row, toColumn: spot.column });
                    else
                      choose({
                        row: spot.row,
                        column: spot.column,
                        toRow: spot.row,
                        toColumn: spot.column,
                      });
                    dragging.current = e.button === 0;
                  }}
                  onPointerMove={(e) => {
                    const spot = cellAt(e);
                    const r = canvas.current?.getBoundingClientRect();
                    setHover(
                      spot && r ? { ...spot, x: e.clientX - r.left, y: e.clientY - r.top } : null,
                    );
                    if (dragging.current && spot && cells && e.buttons === 1)
                      useBook.setState({
                        cells: { ...cells, toRow: spot.row, toColumn: spot.column },
                      });
                  }}
                  onPointerUp={() => (dragging.current = false)}
                  onPointerLeave={() => setHover(null)}
                  onDoubleClick={() => may && setTyping('')}
                />
              </ContextMenu.Trigger>
            </div>
            <CueMenu>
              <div className="sticky left-0 z-10" style={{ width: LEFT, height: 0 }}>
                {rows.getVirtualItems().map((item) => {
                  const row = cues[item.index];
                  if (!row) return null;
                  const isNow = item.index === now;
                  const isNext = item.index === next;
                  const picked = item.index === at;
                  const isChosen = chosen.includes(row.id);
                  const past = onStage !== null && row.number < onStage;
                  return (
                    <div
                      key={row.id}
                      role="row"
                      data-sheet-cue={formatCueNumber(row.number)}
                      data-of={`cues/${row.id}`}
                      aria-selected={picked || isChosen}
                      onClick={(e) => pick(e, row.id)}
                      onContextMenu={(e) => {
                        if (!isChosen) pick(e, row.id);
                      }}
                      className={`absolute left-0 grid cursor-default items-center border-b border-hair pl-3 ${picked ? 'bg-standby-wash' : markedRows.has(item.index) ? 'bg-warning-wash' : isChosen ? 'bg-standby-wash' : 'bg-ink hover:bg-panel'} ${past ? 'text-dim' : ''}`}
                      style={{
                        width: LEFT,
                        height: ROW,
                        top: item.start - HEAD,
                        gridTemplateColumns: template,
                      }}
                    >
                      <RowCell
                        cue={row}
                        before={cues[item.index - 1]}
                        what="number"
                        editing={own?.id === row.id && own.what === 'number'}
                        begin={begin}
                        onDone={() => setOwn(null)}
                      >
                        <span
                          className={`num w-fit rounded px-1.5 text-[12.5px] leading-[22px] ${isNow ? 'bg-lime font-semibold text-lime-ink' : isNext ? 'text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : ''}`}
                        >
                          {formatCueNumber(row.number)}
                        </span>
                      </RowCell>
                      <RowCell
                        cue={row}
                        before={cues[item.index - 1]}
                        what="name"
                        editing={own?.id === row.id && own.what === 'name'}
                        begin={begin}
                        onDone={() => setOwn(null)}
                      >
                        <span
                          className={`block truncate pr-1 ${isNow ? 'font-semibold' : ''}`}
                          title={[row.name, row.note, row.operatorNote, row.designerNote]
                            .filter(Boolean)
                            .join(' · ')}
                        >
                          {liked.has(row.id) && (
                            <Award
                              size={12}
                              aria-label={liked.get(row.id)}
                              className={`mr-1 inline ${liked.get(row.id)?.includes('changed') ? 'text-warning' : 'text-lime-word'}`}
                            />
                          )}
                          {row.name || 'Unnamed'}
                          {row.actions && (
                            <Zap
                              size={11}
                              aria-label={row.actions.map((a) => actionWords(show, a)).join('; ')}
                              className="ml-1 inline text-muted"
                            />
                          )}
                          {here.has(row.id) && (
                            <span className="ml-1">
                              <Others marks={here.get(row.id)} />
                            </span>
                          )}
                        </span>
                      </RowCell>
                      <RowCell
                        cue={row}
                        before={cues[item.index - 1]}
                        what="times"
                        editing={own?.id === row.id && own.what === 'times'}
                        begin={begin}
                        onDone={() => setOwn(null)}
                      >
                        <span className="num block pr-2 text-right text-[12px] text-muted">
                          {cueTimes(row)}
                        </span>
                      </RowCell>
                      <RowCell
                        cue={row}
                        before={cues[item.index - 1]}
                        what="trigger"
                        editing={own?.id === row.id && own.what === 'trigger'}
                        begin={begin}
                        onDone={() => setOwn(null)}
                      >
                        <Trigger cue={row} before={cues[item.index - 1]} />
                      </RowCell>
                    </div>
                  );
                })}
              </div>
            </CueMenu>
            {ghosts.map((g) => (
              <i
                key={g.hand}
                data-ghost=""
                data-of={g.hand}
                className="pointer-events-none absolute"
                style={{
                  left: LEFT + g.column * wide,
                  top: HEAD + g.row * ROW,
                  width: wide,
                  height: ROW,
                }}
              />
            ))}
            {box && (
              <span
                className="contents"
                data-of={cellHand(cues[cells?.row ?? -1], columns[cells?.column ?? -1])}
              >
                <CellEditor
                  label="Value of the chosen cells"
                  text=""
                  first={typing ?? ''}
                  list="cell-palettes"
                  onKeep={(text) => {
                    // Opened and left without a word, it takes nothing out: Delete does.
                    if (text.trim() === '') stopTyping();
                    else void write(text);
                  }}
                  onLeave={stopTyping}
                  className="num absolute z-30 h-7 w-24 rounded-md bg-ink px-2 text-[12px] shadow-cell outline-none"
                  style={{ left: box.left, top: box.top + 2 }}
                />
              </span>
            )}
          </div>
          <datalist id="cell-palettes">
            {[...show.palettes.values()]
              .filter((p) => p.family === family)
              .map((p) => (
                <option key={p.id} value={p.name} />
              ))}
          </datalist>
          <ContextMenu.Portal>
            <ContextMenu.Content className="z-50 min-w-52 rounded-lg bg-panel p-1 text-[13px] shadow-pop">
              {(
                [
                  ['Type a value …', 'Enter', () => setTyping('')],
                  ['Take out: what tracks shows through', 'Del', () => void write('')],
                  ['Let go here', '', () => void write('release')],
                  ['Times of these cells …', '', () => setTiming(true)],
                ] as const
              ).map(([label, key, act]) => (
                <ContextMenu.Item
                  key={label}
                  disabled={!may || !cells}
                  onSelect={() => setTimeout(act)}
                  className="flex h-8 cursor-default items-center justify-between gap-6 rounded px-2.5 outline-none data-[disabled]:text-faint data-[highlighted]:bg-lift"
                >
                  {label}
                  <kbd className="text-[11px] text-muted">{key}</kbd>
                </ContextMenu.Item>
              ))}
            </ContextMenu.Content>
          </ContextMenu.Portal>
        </ContextMenu.Root>
      </div>
      {timing && cells && (
        <CellTimes
          cues={inRange(cells).cues}
          columns={inRange(cells).columns}
          family={family}
          onClose={() => setTiming(false)}
        />
      )}
      <p
        id="sheet-says"
        data-testid="sheet-says"
        aria-live="polite"
        className={`h-7 flex-none truncate border-t border-line px-3 leading-7 ${says ? 'text-[13px] text-text' : 'text-[12px] text-muted'}`}
      >
        {search.trim() !== ''
          ? `${foundRows.length === 0 ? 'No cue has' : foundRows.length === 1 ? '1 cue has' : `${foundRows.length} cues have`} “${search.trim()}”`
          : says ||
            (actedOn(chosen, undefined).length > 1
              ? `${chosen.length} cues chosen`
              : 'A pill is set, a line tracks from it. Arrows move, Enter types, Shift takes more cells.')}
      </p>
    </div>
  );
}

/** The cell as others' screens find it; a field's label follows. */
const cellHand = (cue: CueRow | undefined, column: Column | undefined): string | undefined =>
  cue && column ? `cells/${cue.id}/${column.id}` : undefined;

/** Rows whose number, name, call or notes have these words. */
function foundIn(cues: readonly CueRow[], search: string): number[] {
  const t = search.trim().toLowerCase();
  if (t === '') return [];
  return cues.flatMap((c, i) =>
    formatCueNumber(c.number) === t ||
    `${c.name} ${c.call} ${c.note} ${c.operatorNote ?? ''} ${c.designerNote ?? ''}`
      .toLowerCase()
      .includes(t)
      ? [i]
      : [],
  );
}

const inside = (c: Cells, at: { row: number; column: number }): boolean =>
  at.row >= Math.min(c.row, c.toRow) &&
  at.row <= Math.max(c.row, c.toRow) &&
  at.column >= Math.min(c.column, c.toColumn) &&
  at.column <= Math.max(c.column, c.toColumn);

function fold(groupId: string, open: boolean): void {
  useBook.setState((s) => {
    const unfolded = new Set(s.unfolded);
    if (open) unfolded.add(groupId);
    else unfolded.delete(groupId);
    return { unfolded, cells: null };
  });
}

function Trigger({ cue, before }: { cue: CueRow; before: CueRow | undefined }) {
  const t = triggerOf(cue, before);
  return (
    <span
      className={`block truncate pr-2 text-[12px] text-muted ${t.spoken ? 'font-book' : ''}`}
      title={t.long}
    >
      {t.short}
    </span>
  );
}

export const FAMILY_TABS: { value: Family; label: string }[] = FAMILIES.filter(
  (f) => f !== 'control',
).map((value) => ({ value, label: value[0]?.toUpperCase() + value.slice(1) }));
