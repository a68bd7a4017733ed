/** What hands and keys do on the address map: selecting, carrying units to other addresses, patching where one points. */
'use client';
import { UNIVERSE_SLOTS } from '@/core/dmx';
import { clamp } from '@/core/numbers';
import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { absolute, formatPoint, fromAbsolute, type Occupied } from '@/core/fixtures/points';
import { LIMITS } from '@/core/show/fields';
import { useDrag } from '../../parts/use-drag';
import { select, toggleSelected } from '../../state/commands';
import { edit, tryEdit } from '../../state/edits';
import { seqNow, since } from '../../state/looked';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { takeOff } from '../FixtureMenu';
import { cellAt, gridIn, middleOf, type Block } from '../map-draw';
import {
  clearDraft,
  patchParams,
  setDraft,
  setUniverse,
  useRig,
  type RigState,
} from '../rig-state';
import { patched } from './prospects';
import { useParts } from '../../state/use-parts';

const ROW_CELLS = 32;
const DRAG_PX = 4;
/** Holding a carried unit over a universe's tab this long turns to it. */
const TURN_MS = 350;
/** Where the words stand of what is carried by keys, in pixels. */
const BY_KEYS = { x: 60, y: 24 };

/** Pixels of the map. */
export interface Box {
  x: number;
  y: number;
  toX: number;
  toY: number;
}

/** Units under the hand: by how many channels, and where the hand is in pixels. */
export interface Carry {
  by: number;
  x: number;
  y: number;
}

/** A block of the map, and the unit that it is. */
export type UnitBlock = Block & { range: Occupied };

interface Pressed {
  cell: number;
  x: number;
  y: number;
  id: string | null;
  additive: boolean;
  box: Box | null;
  /** Absolute address under the hand when it began, also after the map has turned to another universe. */
  from: number;
  by: number | null;
  /** The show's last change when it began. */
  seen: number;
}

const ARROWS: Readonly<Record<string, number>> = {
  ArrowRight: 1,
  ArrowLeft: -1,
  ArrowDown: ROW_CELLS,
  ArrowUp: -ROW_CELLS,
};

const clampCell = (cell: number): number => clamp(cell, 1, UNIVERSE_SLOTS);
const clampUniverse = (n: number): number => clamp(n, 1, LIMITS.universes);
const idsOf = (blocks: readonly UnitBlock[]): string[] => [
  ...new Set(blocks.map((b) => b.range.fixture.id)),
];

/** Units that have a channel in a box of pixels, in the order of their addresses. Touched is taken. */
function inBox(
  blocks: readonly UnitBlock[],
  size: { width: number; height: number },
  box: Box,
): string[] {
  const grid = gridIn(size.width, size.height);
  const touched = (cell: number): boolean => {
    const c = middleOf(grid, cell);
    return (
      c.x + grid.w / 2 >= Math.min(box.x, box.toX) &&
      c.x - grid.w / 2 <= Math.max(box.x, box.toX) &&
      c.y + grid.h / 2 >= Math.min(box.y, box.toY) &&
      c.y - grid.h / 2 <= Math.max(box.y, box.toY)
    );
  };
  const cells = (b: UnitBlock): number[] =>
    Array.from({ length: b.to - b.from + 1 }, (_, i) => b.from + i);
  return idsOf(blocks.filter((b) => cells(b).some(touched)));
}

/** Turns to the universe whose tab something is held over. */
function useTurning() {
  const turn = useRef<{ universe: number; timer: ReturnType<typeof setTimeout> } | null>(null);
  const stop = useCallback((): void => {
    if (turn.current) clearTimeout(turn.current.timer);
    turn.current = null;
  }, []);
  const over = useCallback(
    (e: { clientX: number; clientY: number }): void => {
      const tab = document.elementFromPoint(e.clientX, e.clientY)?.closest('[data-universe]');
      const number = tab ? Number(tab.getAttribute('data-universe')) : 0;
      if (number === (turn.current?.universe ?? 0)) return;
      stop();
      if (number > 0)
        turn.current = {
          universe: number,
          timer: setTimeout(() => setUniverse(number), TURN_MS),
        };
    },
    [stop],
  );
  return { over, stop };
}

/** Patches what the form has at an address, and empties the form. */
async function patchAt(
  address: number,
  of: RigState['picked'],
  draft: RigState['draft'],
): Promise<void> {
  const point = fromAbsolute(address);
  const params = patchParams(of, draft, point);
  if (!params) return;
  setDraft({ address: formatPoint(point) });
  if ('message' in tryEdit('patch-fixtures', params)) return;
  const answer = await edit('patch-fixtures', params);
  if ('seq' in answer) clearDraft();
}

interface Needs {
  canvas: RefObject<HTMLCanvasElement | null>;
  size: { width: number; height: number };
  blocks: readonly UnitBlock[];
  /** Absolute address before the first of this universe. */
  base: number;
  /** Who stands at a cell. */
  at: (cell: number) => Occupied | undefined;
}

/** Under a pointer: pixels of the map, and the cell there. */
type Local = { x: number; y: number; cell: number | undefined };

/** A type carried from the list: followed over the whole window, put down where it is let go. */
export function useCarriedType(
  local: (e: PointerEvent) => Local,
  base: number,
  overTab: (e: PointerEvent) => void,
) {
  const { carrying, draft } = useParts(useRig, 'carrying', 'draft');
  const [drop, setDrop] = useState<number | null>(null);
  const now = useRef({ base, draft });
  useEffect(() => {
    now.current = { base, draft };
  });
  useEffect(() => {
    if (!carrying) return undefined;
    const over = (e: PointerEvent): void => {
      setDrop(local(e).cell ?? null);
      overTab(e);
    };
    const up = (e: PointerEvent): void => {
      const { cell } = local(e);
      useRig.setState({ carrying: null, picked: carrying });
      setDrop(null);
      if (cell !== undefined) void patchAt(now.current.base + cell, carrying, now.current.draft);
    };
    // Taken away by the system, or thought better of: nothing is patched, and nothing stays in the hand.
    const torn = (): void => {
      useRig.setState({ carrying: null });
      setDrop(null);
    };
    const escape = (e: KeyboardEvent): void => {
      if (e.key !== 'Escape') return;
      e.preventDefault();
      torn();
    };
    window.addEventListener('pointermove', over);
    window.addEventListener('pointerup', up);
    window.addEventListener('pointercancel', torn);
    window.addEventListener('keydown', escape, true);
    return () => {
      window.removeEventListener('pointermove', over);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('pointercancel', torn);
      window.removeEventListener('keydown', escape, true);
    };
  }, [carrying, local, overTab]);
  return drop;
}

/** What the hands on the map share: who may do what with what, and where things are for the moment. */
function useMap({ canvas, size, blocks, base, at }: Needs) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const { universe, picked, draft } = useParts(useRig, 'universe', 'picked', 'draft');
  /** The cell that keys have come to, and where a row of cells that they choose began. */
  const [cursor, setCursor] = useState<number | null>(null);
  const [anchor, setAnchor] = useState<number | null>(null);
  const [carry, setCarry] = useState<Carry | null>(null);

  const local = useCallback(
    (e: { clientX: number; clientY: number }): Local => {
      const r = canvas.current?.getBoundingClientRect();
      const x = e.clientX - (r?.left ?? 0);
      const y = e.clientY - (r?.top ?? 0);
      return { x, y, cell: cellAt(gridIn(size.width, size.height), x, y) };
    },
    [canvas, size],
  );
  const carried = (): string[] => patched(show, selection);
  const commit = (by: number): void => {
    const ids = carried();
    setCarry(null);
    if (by !== 0 && ids.length > 0) void edit('move-fixtures', { ids, to: { by } });
  };
  const patch = (cell: number): void => void patchAt(base + cell, picked, draft);
  return {
    show,
    selection,
    editable,
    universe,
    size,
    blocks,
    base,
    at,
    local,
    cursor,
    setCursor,
    anchor,
    setAnchor,
    carry,
    setCarry,
    carried,
    commit,
    patch,
  };
}
type MapState = ReturnType<typeof useMap>;

/** What was pointed at becomes the selection, or the form's address where nothing stands. */
function click(p: Pressed): void {
  if (p.id && p.additive) toggleSelected(p.id);
  else if (p.id) select([p.id]);
  else if (!p.additive) setDraft({ address: formatPoint(fromAbsolute(p.from)) });
}

/** Units carried by hand, and boxes drawn over them. */
function useMapDrag(map: MapState, turning: ReturnType<typeof useTurning>) {
  const { selection, editable, base, size, blocks, local, setCarry, carried } = map;
  const [box, setBox] = useState<Box | null>(null);
  const drag = useDrag<Pressed>({
    begin: (e) => {
      const { x, y, cell } = local(e);
      if (cell === undefined) return null;
      map.setCursor(null);
      map.setAnchor(null);
      const id = map.at(cell)?.fixture.id ?? null;
      const additive = e.ctrlKey || e.metaKey || e.shiftKey;
      if (id && !selection.includes(id) && !additive) select([id]);
      return { cell, x, y, id, additive, box: null, from: base + cell, by: null, seen: seqNow() };
    },
    move: (p, e) => {
      const { x, y, cell } = local(e);
      if (p.by === null && !p.box && Math.hypot(x - p.x, y - p.y) < DRAG_PX) return;
      if (!p.id) {
        p.box = { x: p.x, y: p.y, toX: x, toY: y };
        setBox(p.box);
        return;
      }
      if (p.additive || !editable) return;
      turning.over(e);
      p.by = cell === undefined ? (p.by ?? 0) : base + cell - p.from;
      setCarry({ by: p.by, x, y });
    },
    end: (p, torn) => {
      const by = p.by ?? 0;
      const plan = by === 0 ? null : tryEdit('move-fixtures', { ids: carried(), to: { by } });
      turning.stop();
      setCarry(null);
      setBox(null);
      if (torn) return;
      if (p.box) {
        const found = inBox(blocks, size, p.box);
        select(p.additive ? [...new Set([...selection, ...found])] : found);
      } else if (p.by === null) click(p);
      else if (plan && !('message' in plan)) since(p.seen, () => map.commit(by));
    },
  });
  return { box, drag };
}

/** What keys do on the map. @returns of a key, whether it did anything; `bad` where what is carried cannot be put down */
function keysOn(map: MapState): (e: React.KeyboardEvent, bad: boolean) => boolean {
  const { show, selection, editable, universe, blocks, at, carried } = map;
  const { cursor, setCursor, anchor, setAnchor, carry, setCarry } = map;

  /** Carries the selection by channels, and turns to where it goes. */
  const carryBy = (by: number): void => {
    if (!editable || selection.length === 0) return;
    const all = (carry?.by ?? 0) + by;
    setCarry({ by: all, ...BY_KEYS });
    const [first] = selection.flatMap((id) => show.fixtures.get(id)?.patch ?? []);
    if (first)
      setUniverse(clampUniverse(fromAbsolute(Math.max(1, absolute(first) + all)).universe));
  };
  const extend = (by: number): void => {
    const from = anchor ?? cursor ?? 1;
    const to = clampCell((cursor ?? 1) + by);
    setAnchor(from);
    setCursor(to);
    const [low, high] = [Math.min(from, to), Math.max(from, to)];
    select(idsOf(blocks.filter((b) => b.to >= low && b.from <= high)));
  };
  const arrow = (by: number, e: React.KeyboardEvent): void => {
    if (e.shiftKey && !e.altKey) {
      extend(by);
      return;
    }
    setAnchor(null);
    if (e.altKey) carryBy(by);
    else setCursor((c) => (c === null ? 1 : clampCell(c + by)));
  };
  const enter = (bad: boolean): boolean => {
    if (carry) {
      if (!bad) map.commit(carry.by);
      return true;
    }
    if (cursor === null) return false;
    const under = at(cursor);
    if (under) select([under.fixture.id]);
    else if (editable) map.patch(cursor);
    return true;
  };

  return (e, bad) => {
    const by = ARROWS[e.key];
    if (by !== undefined) arrow(by, e);
    else if (e.key === 'Delete' && editable && carried().length > 0)
      takeOff(carried().flatMap((id) => show.fixtures.get(id) ?? []));
    else if (e.key === 'PageDown') setUniverse(clampUniverse(universe + 1));
    else if (e.key === 'PageUp') setUniverse(clampUniverse(universe - 1));
    else if (e.key === 'Enter') return enter(bad);
    else if (e.key === 'Escape' && (carry || cursor !== null)) {
      setCarry(null);
      setCursor(null);
    } else return false;
    return true;
  };
}

/** Pointer and keys on the map of addresses. */
export function useMapHands(needs: Needs) {
  const map = useMap(needs);
  const { local, at, cursor, carry } = map;
  const [hover, setHover] = useState<{ cell: number; x: number; y: number } | null>(null);
  const turning = useTurning();
  const drop = useCarriedType(local, needs.base, turning.over);
  const { box, drag } = useMapDrag(map, turning);
  const byKey = keysOn(map);

  const handlers = (bad: boolean) => ({
    ...drag,
    onPointerMove: (e: React.PointerEvent): void => {
      const { x, y, cell } = local(e);
      setHover(cell === undefined ? null : { cell, x, y });
      drag.onPointerMove(e);
    },
    onPointerLeave: (): void => setHover(null),
    onContextMenu: (e: React.MouseEvent): void => {
      // From the keyboard the menu is about what is selected, or what the cursor stands on.
      const cell = e.button === 2 ? local(e).cell : (cursor ?? undefined);
      const id = cell === undefined ? undefined : at(cell)?.fixture.id;
      if (id && !map.selection.includes(id)) select([id]);
    },
    onDoubleClick: (e: React.MouseEvent): void => {
      const { cell } = local(e);
      if (cell !== undefined && !at(cell) && map.editable) map.patch(cell);
    },
    onKeyDown: (e: React.KeyboardEvent): void => {
      if (!byKey(e, bad)) return;
      e.preventDefault();
      e.stopPropagation();
    },
  });

  return { hover, cursor, carry, box, drop, handlers };
}
