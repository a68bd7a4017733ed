/** A sheet while it is arranged: its grid, pieces that are taken hold of, and the box that goes round several. */
'use client';
import { useDroppable } from '@dnd-kit/core';
import { useRef, useState } from 'react';
import { nameOf } from '@/core/sheets/pieces';
import type { PieceRow, SheetRow } from '@/core/sheets/rows';
import type { Box } from '@/core/sheets/arrange';
import { useBox } from '../../parts/use-box';
import { useDrag } from '../../parts/use-drag';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { PieceView } from '../pieces/PieceView';
import { placed, stepOf } from '../Surface';
import { KIND_WORDS } from '../words';
import type { Arranged } from './use-arranged';

/** What the board is called where things are dropped. */
export const BOARD = 'sheet-board';
const DRAG_PX = 3;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** With Shift a piece goes a tenth of a step. */
const FINE = 0.1;

interface Hold {
  x: number;
  y: number;
  went: boolean;
  add: boolean;
}
const adds = (e: React.PointerEvent): boolean => e.ctrlKey || e.metaKey || e.shiftKey;

/** A piece, or its corner, in a hand. */
function useHold(arranged: Arranged, step: number, piece: PieceRow, kind: 'move' | 'size') {
  const { chosen, choose } = arranged;
  const isChosen = chosen.includes(piece.id);
  return useDrag<Hold>({
    begin: (e) => {
      e.stopPropagation();
      const add = adds(e);
      const fresh = add ? [...chosen, piece.id] : [piece.id];
      const ids = isChosen && !add ? chosen : fresh;
      if (!isChosen) choose(ids);
      arranged.begin(kind, kind === 'size' ? [piece.id] : [piece.id, ...ids]);
      return { x: e.clientX, y: e.clientY, went: false, add: add && isChosen };
    },
    move: (hold, e) => {
      const [dx, dy] = [e.clientX - hold.x, e.clientY - hold.y];
      if (!hold.went && Math.hypot(dx, dy) < DRAG_PX) return;
      hold.went = true;
      arranged.goOn({ x: dx / step, y: dy / step }, e.altKey);
    },
    end: (hold, torn) => {
      // A press with Ctrl on one that is chosen takes it out again.
      if (!hold.went && hold.add) choose(chosen.filter((id) => id !== piece.id));
      arranged.end(torn || !hold.went);
    },
  });
}

function Corner({ arranged, step, piece }: { arranged: Arranged; step: number; piece: PieceRow }) {
  const hold = useHold(arranged, step, piece, 'size');
  return (
    <span
      data-corner={piece.id}
      title="Drag: its size"
      className="absolute -right-2 -bottom-2 z-10 size-5 cursor-nwse-resize touch-none rounded-full border-2 border-ink bg-standby"
      {...hold}
    />
  );
}

function Taken({ arranged, step, piece }: { arranged: Arranged; step: number; piece: PieceRow }) {
  const show = useShow();
  const hold = useHold(arranged, step, piece, 'move');
  const isChosen = arranged.chosen.includes(piece.id);
  const name = nameOf(show, piece) || KIND_WORDS[piece.is.kind];
  return (
    <div
      data-piece={piece.id}
      data-kind={piece.is.kind}
      role="option"
      aria-selected={isChosen}
      aria-label={name}
      tabIndex={0}
      onFocus={() => !isChosen && arranged.choose([piece.id])}
      className={`[container-type:size] absolute cursor-grab touch-none rounded-lg active:cursor-grabbing ${isChosen ? 'outline-2 outline-offset-1 outline-standby' : 'outline-1 outline-edge/60 hover:outline-soft'} outline-dashed`}
      style={placed(piece, step)}
      {...hold}
    >
      <div inert className="pointer-events-none size-full overflow-hidden opacity-90">
        <PieceView piece={piece} />
      </div>
      {isChosen && <Corner arranged={arranged} step={step} piece={piece} />}
    </div>
  );
}

/** A box round several, in steps. */
function useRubber(arranged: Arranged, step: number) {
  const [box, setBox] = useState<Box | null>(null);
  const drag = useDrag<{ x: number; y: number; add: boolean; box: Box | null; corner: DOMRect }>({
    begin: (e) => ({
      x: e.clientX,
      y: e.clientY,
      add: adds(e),
      box: null,
      corner: e.currentTarget.getBoundingClientRect(),
    }),
    move: (d, e) => {
      const [x, y] = [
        Math.min(e.clientX, d.x) - d.corner.left,
        Math.min(e.clientY, d.y) - d.corner.top,
      ];
      d.box = {
        x: x / step,
        y: y / step,
        w: Math.abs(e.clientX - d.x) / step,
        h: Math.abs(e.clientY - d.y) / step,
      };
      setBox(d.box);
    },
    end: (d) => {
      setBox(null);
      const found = d.box ? arranged.within(d.box) : [];
      arranged.choose(d.add ? [...arranged.chosen, ...found] : found);
    },
  });
  return { box, drag };
}

/** The sheet on which pieces are laid. */
export function Board({
  sheet,
  arranged,
  onCopy,
}: {
  sheet: SheetRow;
  arranged: Arranged;
  onCopy: () => void;
}) {
  const room = useRef<HTMLDivElement>(null);
  const size = useBox(room);
  const step = stepOf(sheet, size);
  const { setNodeRef } = useDroppable({ id: BOARD });
  const rubber = useRubber(arranged, step);
  const { chosen } = arranged;
  const keys = (e: React.KeyboardEvent): void => {
    const way = ARROWS[e.key];
    const all = e.key === 'a' && (e.ctrlKey || e.metaKey);
    const copies = e.key === 'd' && (e.ctrlKey || e.metaKey);
    if (way && chosen.length > 0) {
      const far = e.shiftKey ? FINE : 1;
      arranged.nudge({ x: way[0] * far, y: way[1] * far });
    } else if ((e.key === 'Delete' || e.key === 'Backspace') && chosen.length > 0)
      void arranged.flush().then(() => edit('delete-pieces', { ids: chosen }));
    else if (all) arranged.choose(arranged.pieces.map((p) => p.id));
    else if (copies && chosen.length > 0) onCopy();
    else if (e.key === 'Escape' && chosen.length > 0) arranged.choose([]);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div ref={room} className="size-full overflow-auto">
      <div
        ref={setNodeRef}
        data-testid="sheet"
        data-step={step}
        data-takes-digits
        role="listbox"
        aria-multiselectable
        aria-label={`Pieces of ${sheet.name}`}
        tabIndex={0}
        onKeyDown={keys}
        {...rubber.drag}
        className="relative touch-none rounded-lg outline-1 outline-line"
        style={{
          width: sheet.columns * step,
          height: sheet.rows * step,
          backgroundImage: `radial-gradient(circle at 0.5px 0.5px, var(--color-edge) 0.7px, transparent 1px)`,
          backgroundSize: `${step}px ${step}px`,
        }}
      >
        {arranged.pieces.map((piece) => (
          <Taken key={piece.id} arranged={arranged} step={step} piece={piece} />
        ))}
        {rubber.box && (
          <div
            className="pointer-events-none absolute rounded border border-standby bg-standby/10"
            style={placed({ ...rubber.box, z: 99_999 }, step)}
          />
        )}
      </div>
    </div>
  );
}
