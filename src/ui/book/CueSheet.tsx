/** The cue sheet with ties: rows are cues, columns are groups and fixtures; a pill is set, a line tracks from it. Cells are drawn, cues are rows. */
'use client';
import { ContextMenu } from 'radix-ui';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import type { Column } from '@/core/cues/sheet';
import { FAMILIES, type Family } from '@/core/show/fields';
import { capital } from '@/core/words';
import { CellEditor } from '../parts/CellEditor';
import { useSteady } from '../parts/use-steady';
import { actedOn, useBook, useBookList, type Cells } from '../state/book';
import { CellTimes } from './CellTimes';
import { CueMenu } from './CueMenu';
import { HEAD, ROW } from './draw-sheet';
import { CellMenu, PaletteNames } from './sheet/CellMenu';
import { pickCue } from './sheet/choose';
import { CueLine } from './sheet/CueLine';
import { MovedCues } from './sheet/MovedCues';
import { SheetHead } from './sheet/SheetHead';
import { LEFT } from './sheet/use-canvas';
import { inCells, type useCells } from './sheet/use-cells';
import {
  useCueSheet,
  type OwnField,
  type Places,
  type Sheet,
  type Sights,
} from './sheet/use-cue-sheet';
import { cellHand, useLiked, useOthers, type Ghost } from './sheet/use-marks';

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

/** Room for a cue's number, its name, and its times. Numbers keep off the names, however long they are. */
function templateFor(cues: readonly CueRow[]): string {
  const longest = Math.max(1, ...cues.map((c) => formatCueNumber(c.number).length));
  return `${Math.max(42, 22 + longest * 7.6)}px 1fr 48px 74px`;
}

/** The sheet, with what is said below it. */
export function CueSheet() {
  const sheet = useCueSheet();
  const { cues, columns, places, hands } = sheet;
  const [timing, setTiming] = useState(false);
  return (
    <div className="relative flex h-full min-h-0 flex-col">
      <Grid sheet={sheet} onTimes={() => setTiming(true)} />
      {timing && hands.cells && (
        <Times cells={hands.cells} cues={cues} columns={columns} onClose={() => setTiming(false)} />
      )}
      <Says says={sheet.says} found={places.found.length} />
    </div>
  );
}

/** Opens the menu where the menu key asks for it. */
function useMenuKey({ scroll, canvas, hands }: Sheet) {
  const { cue } = useBookList();
  return (e: React.MouseEvent): void => {
    if (e.target !== scroll.current) return;
    e.preventDefault();
    if (hands.cells) openMenu(canvas.current, 40, 40);
    else {
      const number = cue ? formatCueNumber(cue.number) : '';
      openMenu(scroll.current?.querySelector(`[data-sheet-cue="${number}"]`), 60, ROW / 2);
    }
  };
}

/** Rows and columns in their own scroll, with their menus. */
function Grid({ sheet, onTimes }: { sheet: Sheet; onTimes: () => void }) {
  const { scroll, cues, columns, wide, may, sights, pending, hands } = sheet;
  const { rows, across } = sights;
  const { cells, hover } = hands;
  const family = useBook((s) => s.family);
  const { ghosts, here } = useOthers(cues, columns);
  const template = templateFor(cues);
  const byMenuKey = useMenuKey(sheet);
  return (
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
      onContextMenu={byMenuKey}
      onScroll={sheet.draw}
      className="relative min-h-0 flex-1 overflow-auto focus-visible:outline-offset-[-2px]"
    >
      <ContextMenu.Root>
        <div
          role="rowgroup"
          className="relative"
          style={{ width: LEFT + columns.length * wide, height: HEAD + rows.getTotalSize() }}
        >
          <SheetHead
            columns={columns}
            across={across}
            wide={wide}
            template={template}
            hover={hover?.column}
            pending={pending}
          />
          <CellCanvas sheet={sheet} />
          <CueRows sheet={sheet} template={template} here={here} />
          <Ghosts ghosts={ghosts} wide={wide} />
          <TypedCell hands={hands} cues={cues} columns={columns} wide={wide} />
        </div>
        <PaletteNames family={family} />
        <CellMenu
          disabled={!may || !cells}
          onType={() => hands.setTyping('')}
          onWrite={(text) => void hands.write(text)}
          onTimes={onTimes}
        />
      </ContextMenu.Root>
    </div>
  );
}

/** The drawn cells; they stay in sight while their rows go by. */
function CellCanvas({ sheet: { canvas, columns, wide, sights, hands } }: { sheet: Sheet }) {
  return (
    <div
      className="absolute"
      style={{
        top: HEAD,
        left: LEFT,
        width: columns.length * wide,
        height: sights.rows.getTotalSize(),
      }}
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
  );
}

/** Cues at the left, with a menu of their own; they can be carried to other places. */
function CueRows({
  sheet: { cues, may, sights, places, field },
  template,
  here,
}: {
  sheet: Sheet;
  template: string;
  here: ReturnType<typeof useOthers>['here'];
}) {
  const { chosen } = useBookList();
  return (
    <CueMenu>
      <div className="sticky left-0 z-10" style={{ width: LEFT, height: 0 }}>
        <MovedCues cues={cues} chosen={chosen} may={may}>
          <Lines sights={sights} places={places} template={template} here={here} field={field} />
        </MovedCues>
      </div>
    </CueMenu>
  );
}

/** The line below: the cell under the hand, what a search has found, or how one goes on. */
function Says({ says, found }: { says: string; found: number }) {
  const search = useBook((s) => s.search).trim();
  const { chosen } = useBookList();
  return (
    <p
      id="sheet-says"
      data-testid="sheet-says"
      aria-live="polite"
      className={`h-7 flex-none truncate border-t border-line px-3 leading-7 ${says ? 'text-[13px] text-text' : 'text-[12px] text-muted'}`}
    >
      {search === '' ? says || chosenWords(chosen) : `${foundWords(found)} “${search}”`}
    </p>
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
  places: Places;
  template: string;
  here: ReturnType<typeof useOthers>['here'];
  field: OwnField;
}) {
  const { status, cues, chosen } = useBookList();
  const liked = useLiked();
  const onStage = status?.cueNumber ?? null;
  const begin = useSteady(field.begin);
  const leave = useSteady(field.leave);
  const step = useSteady(field.step);
  const pick = useSteady((e: React.MouseEvent, id: string) => pickCue(e, id, cues));
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
          onBegin={begin}
          onDone={leave}
          onStep={step}
          onPick={pick}
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

/** Families that the sheet shows, one at a time. */
export const FAMILY_TABS: { value: Family; label: string }[] = FAMILIES.filter(
  (f) => f !== 'control',
).map((value) => ({ value, label: capital(value) }));
