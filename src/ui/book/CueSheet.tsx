/** The cue sheet with ties: rows are cues, columns are groups and fixtures; a pill is set, a line tracks from it. Cells are drawn, cues are rows. */
'use client';
import { capital } from '@/core/words';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ContextMenu } from 'radix-ui';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import type { Column } from '@/core/cues/sheet';
import { cellWords, rowsWith } from '@/core/cues/sheet-words';
import { FAMILIES, type Family } from '@/core/show/fields';
import { CellEditor, type CellStep } from '../parts/CellEditor';
import { useBox } from '../parts/use-box';
import { actedOn, lookAt, useBook, useBookList, type Cells } from '../state/book';
import { mayEdit, useScreen, useShow } from '../state/store';
import { CellTimes } from './CellTimes';
import { CueMenu } from './CueMenu';
import { HEAD, ROW } from './draw-sheet';
import { ROW_FIELDS, type RowField } from './RowCell';
import { CueLine } from './sheet/CueLine';
import { MovedCues } from './sheet/MovedCues';
import { SheetHead } from './sheet/SheetHead';
import { LEFT, useSheetCanvas, type Picture } from './sheet/use-canvas';
import { inCells, useCells } from './sheet/use-cells';
import { cellHand, useLiked, useOthers, type Ghost } from './sheet/use-marks';
import { usePending } from './sheet/use-pending';
import { useSheet } from './use-sheet';
import { useParts } from '../state/use-parts';

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

/** What was chosen before the first click of a double click. */
let chosenBefore: readonly string[] = [];

/** Typing into one of many that are chosen is for all of them: the click that began it has not chosen this one alone. */
function keepChosen(id: string): void {
  if (chosenBefore.length > 1 && chosenBefore.includes(id))
    useBook.setState({ chosen: chosenBefore });
}

/** Chooses cues as one is used to: a click, a range with Shift, one more or less with Ctrl. */
function pickCue(e: React.MouseEvent, id: string, cues: readonly CueRow[]): void {
  const { chosen } = useBook.getState();
  if (e.detail < 2) chosenBefore = chosen;
  const ids = cues.map((c) => c.id);
  const from = chosen.find((c) => ids.includes(c));
  if (e.shiftKey && from !== undefined) {
    const [a, b] = [ids.indexOf(from), ids.indexOf(id)];
    const range = ids.slice(Math.min(a, b), Math.max(a, b) + 1);
    useBook.setState({ chosen: a <= b ? range : range.reverse() });
  } else if (e.ctrlKey || e.metaKey) {
    const others = chosen.filter((c) => c !== id);
    useBook.setState({ chosen: others.length < chosen.length ? others : [...chosen, id] });
  } else lookAt(id);
}

/** The menu of what is under the hand, where the menu key asks for it: the chosen cells, or the cue that is looked at. */
function openMenu(at: Element | null | undefined, dx: number, dy: number): void {
  const r = at?.getBoundingClientRect();
  if (!at || !r) return;
  at.dispatchEvent(
    new MouseEvent('contextmenu', {
      bubbles: true,
      cancelable: true,
      clientX: r.left + dx,
      clientY: r.top + dy,
    }),
  );
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
type OwnField = ReturnType<typeof useOwnField>;

type Sights = ReturnType<typeof useSights>;

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

export function CueSheet() {
  const { family, search, follow } = useParts(useBook, 'family', 'search', 'follow');
  const { cues, cue, chosen } = useBookList();
  const may = mayEdit(useScreen((s) => s.you.role));
  const scroll = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useBox(scroll);
  const [timing, setTiming] = useState(false);

  const { sheet, columns } = useFitting(cues);
  const share = Math.floor((size.width - LEFT) / Math.max(1, columns.length));
  const wide = Math.max(NARROW, Math.min(WIDEST, share));
  const sights = useSights(scroll, cues.length, columns.length, wide);
  const { rows, across } = sights;
  const places = useRows(cues);
  const { at, now, next, found, lit } = places;
  const pending = usePending(columns, family);
  const { here, ghosts } = useOthers(cues, columns);
  const reveal = (row: number): void => rows.scrollToIndex(row, { align: 'auto' });
  const hands = useCells({
    scroll,
    canvas,
    cues,
    columns,
    family,
    wide,
    height: size.height,
    at,
    may,
    reveal,
  });
  const { cells, hover } = hands;

  const picture = useMemo<Picture>(
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
  const draw = useSheetCanvas(scroll, canvas, size, picture);

  useInSight(sights, cues.length, now, found);
  useLookedInSight(scroll, follow ? -1 : at, cue?.id);

  const says = useMemo(() => {
    const spot = hover ?? (cells ? { row: cells.toRow, column: cells.toColumn } : null);
    return sheet && spot ? cellWords({ sheet, columns, cues, family }, spot) : '';
  }, [hover, cells, sheet, columns, cues, family]);

  const field = useOwnField(cues, may, reveal);
  const byKey = (e: React.MouseEvent): void => {
    if (e.target !== scroll.current) return;
    e.preventDefault();
    if (cells) openMenu(canvas.current, 40, 40);
    else {
      const number = cue ? formatCueNumber(cue.number) : '';
      openMenu(scroll.current?.querySelector(`[data-sheet-cue="${number}"]`), 60, ROW / 2);
    }
  };
  // Numbers keep off the names, however long they are.
  const longest = Math.max(1, ...cues.map((c) => formatCueNumber(c.number).length));
  const template = `${Math.max(42, 22 + longest * 7.6)}px 1fr 48px 74px`;
  const spanWidth = columns.length * wide;
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
        onKeyDown={hands.onKeyDown}
        onContextMenu={byKey}
        onScroll={draw}
        className="relative min-h-0 flex-1 overflow-auto focus-visible:outline-offset-[-2px]"
      >
        <ContextMenu.Root>
          <div
            role="rowgroup"
            className="relative"
            style={{ width: LEFT + spanWidth, height: HEAD + rows.getTotalSize() }}
          >
            <SheetHead
              columns={columns}
              across={across}
              wide={wide}
              template={template}
              hover={hover?.column}
              pending={pending}
            />
            <div
              className="absolute"
              style={{ top: HEAD, left: LEFT, width: spanWidth, height: rows.getTotalSize() }}
            >
              <ContextMenu.Trigger asChild>
                <canvas
                  ref={canvas}
                  data-testid="sheet-cells"
                  data-wide={wide}
                  aria-hidden="true"
                  className="sticky touch-none select-none"
                  style={{ top: HEAD, left: LEFT }}
                  {...hands.pointer}
                />
              </ContextMenu.Trigger>
            </div>
            <CueMenu>
              <div className="sticky left-0 z-10" style={{ width: LEFT, height: 0 }}>
                <MovedCues cues={cues} chosen={chosen} may={may}>
                  <Lines
                    sights={sights}
                    places={places}
                    template={template}
                    here={here}
                    field={field}
                  />
                </MovedCues>
              </div>
            </CueMenu>
            <Ghosts ghosts={ghosts} wide={wide} />
            <TypedCell hands={hands} cues={cues} columns={columns} wide={wide} />
          </div>
          <PaletteNames family={family} />
          <CellMenu
            disabled={!may || !cells}
            onType={() => hands.setTyping('')}
            onWrite={(text) => void hands.write(text)}
            onTimes={() => setTiming(true)}
          />
        </ContextMenu.Root>
      </div>
      {timing && cells && (
        <Times cells={cells} cues={cues} columns={columns} onClose={() => setTiming(false)} />
      )}
      <p
        id="sheet-says"
        data-testid="sheet-says"
        aria-live="polite"
        className={`h-7 flex-none truncate border-t border-line px-3 leading-7 ${says ? 'text-[13px] text-text' : 'text-[12px] text-muted'}`}
      >
        {search.trim() === ''
          ? says || chosenWords(chosen)
          : `${foundWords(found.length)} “${search.trim()}”`}
      </p>
    </div>
  );
}

/** Cues as rows, those in sight. */
function Lines({
  sights: { rows },
  places: { at, now, next, lit },
  template,
  here,
  field,
}: {
  sights: Sights;
  places: ReturnType<typeof useRows>;
  template: string;
  here: ReturnType<typeof useOthers>['here'];
  field: OwnField;
}) {
  const { status, cues, chosen } = useBookList();
  const liked = useLiked();
  const onStage = status?.cueNumber ?? null;
  return rows.getVirtualItems().map(({ index, start }) => {
    const row = cues[index];
    return (
      row && (
        <CueLine
          key={row.id}
          cue={row}
          before={cues[index - 1]}
          top={start - HEAD}
          template={template}
          state={{
            now: index === now,
            next: index === next,
            picked: index === at,
            chosen: chosen.includes(row.id),
            marked: lit.has(index),
            past: onStage !== null && row.number < onStage,
          }}
          liked={liked.get(row.id)}
          here={here.get(row.id)}
          editing={field.own?.id === row.id ? field.own.what : null}
          chosen={chosen}
          onBegin={field.begin}
          onDone={field.leave}
          onStep={field.step}
          onPick={(e, id) => pickCue(e, id, cues)}
        />
      )
    );
  });
}

/** What is typed into the chosen cells, over the first of them. */
function TypedCell({
  hands: { typing, cells, keepTyped, stopTyping },
  cues,
  columns,
  wide,
}: {
  hands: ReturnType<typeof useCells>;
  cues: readonly CueRow[];
  columns: readonly Column[];
  wide: number;
}) {
  if (typing === null || !cells) return null;
  return (
    <span className="contents" data-of={cellHand(cues[cells.row], columns[cells.column])}>
      <CellEditor
        label="Value of the chosen cells"
        text=""
        first={typing}
        list="cell-palettes"
        onKeep={keepTyped}
        onLeave={stopTyping}
        className="num absolute z-30 h-7 w-24 rounded-md bg-ink px-2 text-[12px] shadow-cell outline-none"
        style={{ left: LEFT + cells.column * wide, top: HEAD + cells.row * ROW + 2 }}
      />
    </span>
  );
}

function chosenWords(chosen: readonly string[]): string {
  return actedOn(chosen, undefined).length > 1
    ? `${chosen.length} cues chosen`
    : 'A pill is set, a line tracks from it. Arrows move, Enter types, Shift takes more cells.';
}

function foundWords(found: number): string {
  if (found === 0) return 'No cue has';
  return found === 1 ? '1 cue has' : `${found} cues have`;
}

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

/** Where others write, for the marks of their hands. */
function Ghosts({ ghosts, wide }: { ghosts: readonly Ghost[]; wide: number }) {
  return ghosts.map((g) => (
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
  ));
}

/** What can be typed into a cell besides numbers. */
function PaletteNames({ family }: { family: Family }) {
  const show = useShow();
  return (
    <datalist id="cell-palettes">
      {[...show.palettes.values()]
        .filter((p) => p.family === family)
        .map((p) => (
          <option key={p.id} value={p.name} />
        ))}
    </datalist>
  );
}

function CellMenu({
  disabled,
  onType,
  onWrite,
  onTimes,
}: {
  disabled: boolean;
  onType: () => void;
  onWrite: (text: string) => void;
  onTimes: () => void;
}) {
  const entries: readonly (readonly [label: string, key: string, act: () => void])[] = [
    ['Type a value …', 'Enter', onType],
    ['Take out: what tracks shows through', 'Del', () => onWrite('')],
    ['Let go here', '', () => onWrite('release')],
    ['Times of these cells …', '', onTimes],
  ];
  return (
    <ContextMenu.Portal>
      <ContextMenu.Content className="z-50 min-w-52 rounded-lg bg-panel p-1 text-[13px] shadow-pop">
        {entries.map(([label, key, act]) => (
          <ContextMenu.Item
            key={label}
            disabled={disabled}
            onSelect={() => setTimeout(act)}
            className="flex h-8 cursor-default items-center justify-between gap-6 rounded px-2.5 outline-none data-[disabled]:text-faint data-[highlighted]:bg-lift"
          >
            {label}
            <kbd className="text-[11px] text-muted">{key}</kbd>
          </ContextMenu.Item>
        ))}
      </ContextMenu.Content>
    </ContextMenu.Portal>
  );
}

function Times({
  cells,
  cues,
  columns,
  onClose,
}: {
  cells: Cells;
  cues: readonly CueRow[];
  columns: readonly Column[];
  onClose: () => void;
}) {
  const family = useBook((s) => s.family);
  const over = inCells(cells, cues, columns);
  return <CellTimes cues={over.cues} columns={over.columns} family={family} onClose={onClose} />;
}

export const FAMILY_TABS: { value: Family; label: string }[] = FAMILIES.filter(
  (f) => f !== 'control',
).map((value) => ({ value, label: capital(value) }));
