/** The address map: one universe, what stands where, and units moved or patched by hand or by keys. */
'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { willDo } from '@/core/edits/will';
import { clashAt, occupied } from '@/core/rig/addresses';
import {
  absolute,
  formatPoint,
  fromAbsolute,
  modeOf,
  widthAt,
  type Occupied,
} from '@/core/fixtures/points';
import { attributeInfo } from '@/core/rig/attributes';
import type { PatchPoint } from '@/core/fixtures/rows';
import { edit, select, toggleSelected, tryEdit } from '../state/actions';
import { seqNow, since } from '../state/looked';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useDrag } from '../parts/use-drag';
import { FixtureMenu, takeOff } from './FixtureMenu';
import { cellAt, drawMap, gridIn, middleOf, type Block, type Ghost } from './map-draw';
import { clearDraft, patchParams, setDraft, setUniverse, useRig } from './rig-state';
import { coloursAt } from '../parts/tokens';
import { useLook } from '../state/look';

const DRAG_PX = 4;
/** Holding a carried unit over a universe's tab this long turns to it. */
const TURN_MS = 350;

/** Pixels of the map. */
interface Box {
  x: number;
  y: number;
  toX: number;
  toY: number;
}

interface Carry {
  /** Absolute address under the hand when it began. */
  from: number;
  by: number;
  x: number;
  y: number;
}

/** A plan and where its units would come to stand. */
interface Prospect {
  says: string;
  bad: boolean;
  points: { number: string; from: number; to: number }[];
}

export function AddressMap() {
  const show = useShow();
  const { selection, you, revision } = useScreen();
  const { universe, picked, draft, carrying } = useRig();
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [hover, setHover] = useState<{ cell: number; x: number; y: number } | null>(null);
  const [cursor, setCursor] = useState<number | null>(null);
  const [carry, setCarry] = useState<Carry | null>(null);
  const [drop, setDrop] = useState<number | null>(null);
  const [box_, setBox] = useState<Box | null>(null);
  const [anchor, setAnchor] = useState<number | null>(null);
  const turn = useRef<{ universe: number; timer: ReturnType<typeof setTimeout> } | null>(null);
  const editable = mayEdit(you.role);

  useEffect(() => {
    const element = box.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  const base = (universe - 1) * 512;
  const selected = useMemo(() => new Set(selection), [selection]);
  const blocks = useMemo((): (Block & { range: Occupied })[] => {
    void revision;
    return occupied(show)
      .filter((r) => r.to > base && r.from <= base + 512)
      .map((range) => ({
        from: range.from - base,
        to: range.to - base,
        number: String(range.fixture.number),
        shape: show.types.get(range.fixture.typeId)?.shape ?? 'profile',
        selected: selected.has(range.fixture.id),
        faded: false,
        range,
      }));
  }, [show, revision, base, selected]);
  const at = (cell: number): Occupied | undefined =>
    clashAt(occupied(show), base + cell, base + cell);

  /** Where the selection would stand, moved by so many channels. */
  const moved = useMemo((): Prospect | null => {
    void revision;
    if (!carry || carry.by === 0) return null;
    const ids = selection.filter((id) => (show.fixtures.get(id)?.patch.length ?? 0) > 0);
    const plan = tryEdit('move-fixtures', { ids, to: { by: carry.by } });
    const points = ids.flatMap((id) => {
      const f = show.fixtures.get(id);
      return (f?.patch ?? []).map((p) => ({
        number: String(f?.number),
        from: absolute(p) + carry.by,
        to: absolute(p) + carry.by + widthAt(f ? modeOf(show, f) : undefined, p) - 1,
      }));
    });
    return {
      says: 'message' in plan ? plan.message : willDo(plan.summary),
      bad: 'message' in plan,
      points,
    };
  }, [carry, selection, show, revision]);

  /** Where the form's units would stand: at the cell under the hand, or where the form says. */
  const prepared = useMemo((): Prospect | null => {
    void revision;
    if (carry) return null;
    const point = drop === null ? undefined : fromAbsolute(base + drop);
    const params = patchParams(carrying ?? picked, draft, point);
    if (!params || (!carrying && drop === null && !editable)) return null;
    const plan = tryEdit('patch-fixtures', params);
    if ('message' in plan) {
      const target =
        point ??
        (params.universe
          ? { universe: Number(params.universe), address: Number(params.address) }
          : undefined);
      const mode = (carrying ?? picked)?.mode;
      if (!target || !mode) return { says: plan.message, bad: true, points: [] };
      const count = Number(params.quantity);
      const step = mode.footprint + Number(params.gap);
      return {
        says: plan.message,
        bad: true,
        points: Array.from({ length: Math.min(count, 512) }, (_, i) => ({
          number: '',
          from: absolute(target) + i * step,
          to: absolute(target) + i * step + mode.footprint - 1,
        })),
      };
    }
    const rows = plan.changes.flatMap((c) => (c.table === 'fixtures' && c.after ? [c.after] : []));
    const widthOf = (p: PatchPoint): number => widthAt((carrying ?? picked)?.mode, p);
    return {
      says: willDo(plan.summary),
      bad: false,
      points: rows.flatMap((r) =>
        r.patch.map((p) => ({
          number: String(r.number),
          from: absolute(p),
          to: absolute(p) + widthOf(p) - 1,
        })),
      ),
    };
  }, [carry, carrying, picked, draft, drop, base, revision, editable]);

  const prospect = moved ?? prepared;
  const ghosts = useMemo((): Ghost[] => {
    const standing = occupied(show, moved ? new Set(selection) : undefined);
    return (prospect?.points ?? [])
      .filter((p) => p.to > base && p.from <= base + 512)
      .map((p) => ({
        from: p.from - base,
        to: p.to - base,
        number: p.number,
        clash: (a) => clashAt(standing, base + a, base + a) !== undefined,
      }));
  }, [prospect, moved, selection, show, base]);

  const theme = useLook((s) => s.theme);
  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d');
    if (!element || !g || size.width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(size.width * ratio);
    element.height = Math.round(size.height * ratio);
    g.scale(ratio, ratio);
    void theme;
    drawMap(g, size.width, size.height, {
      colours: coloursAt(element),
      blocks,
      ghosts,
      carried: moved !== null || drop !== null,
      hover: hover?.cell,
      cursor: cursor ?? undefined,
    });
  }, [theme, size, blocks, ghosts, moved, drop, hover, cursor]);

  const local = useCallback(
    (e: {
      clientX: number;
      clientY: number;
    }): { x: number; y: number; cell: number | undefined } => {
      const r = canvas.current?.getBoundingClientRect();
      const x = e.clientX - (r?.left ?? 0);
      const y = e.clientY - (r?.top ?? 0);
      return { x, y, cell: cellAt(gridIn(size.width, size.height), x, y) };
    },
    [size],
  );

  const patchAt = async (cell: number, from: typeof picked): Promise<void> => {
    const params = patchParams(from, draft, fromAbsolute(base + cell));
    if (!params) return;
    setDraft({ address: formatPoint(fromAbsolute(base + cell)) });
    if ('message' in tryEdit('patch-fixtures', params)) return;
    const answer = await edit('patch-fixtures', params);
    if ('seq' in answer) clearDraft();
  };
  const patchCarried = useRef(patchAt);
  patchCarried.current = patchAt;

  // A type carried from the list: followed over the whole window, put down where it is let go.
  useEffect(() => {
    if (!carrying) return undefined;
    const over = (e: PointerEvent): void => {
      const { cell } = local(e);
      setDrop(cell ?? null);
      overTab(e);
    };
    const up = (e: PointerEvent): void => {
      const { cell } = local(e);
      useRig.setState({ carrying: null, picked: carrying });
      setDrop(null);
      if (cell !== undefined) void patchCarried.current(cell, carrying);
    };
    window.addEventListener('pointermove', over);
    window.addEventListener('pointerup', up);
    return () => {
      window.removeEventListener('pointermove', over);
      window.removeEventListener('pointerup', up);
    };
  }, [carrying, local]);

  function overTab(e: { clientX: number; clientY: number }): void {
    const tab = document.elementFromPoint(e.clientX, e.clientY)?.closest('[data-universe]');
    const number = tab ? Number(tab.getAttribute('data-universe')) : 0;
    if (number === (turn.current?.universe ?? 0)) return;
    if (turn.current) clearTimeout(turn.current.timer);
    turn.current =
      number > 0
        ? { universe: number, timer: setTimeout(() => setUniverse(number), TURN_MS) }
        : null;
  }

  /** Selected units that stand at an address. */
  const carried = (): string[] =>
    selection.filter((id) => (show.fixtures.get(id)?.patch.length ?? 0) > 0);
  const commit = (by: number): void => {
    const ids = carried();
    setCarry(null);
    if (by !== 0 && ids.length > 0) void edit('move-fixtures', { ids, to: { by } });
  };

  const step = (by: number, carrying: boolean): void => {
    if (carrying) {
      if (!editable || selection.length === 0) return;
      setCarry((c) => ({ from: c?.from ?? 0, by: (c?.by ?? 0) + by, x: 60, y: 24 }));
      const first = selection.flatMap((id) => show.fixtures.get(id)?.patch ?? [])[0];
      if (first)
        setUniverse(
          Math.min(
            256,
            Math.max(
              1,
              fromAbsolute(Math.max(1, absolute(first) + (carry?.by ?? 0) + by)).universe,
            ),
          ),
        );
    } else setCursor((c) => Math.min(512, Math.max(1, (c ?? 1) + (c === null ? 0 : by))));
  };

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
  /** Units that have a channel in the box of cells, in the order of their addresses. */
  const within = (b: Box): string[] => {
    const grid = gridIn(size.width, size.height);
    const inside = (cell: number): boolean => {
      const c = middleOf(grid, cell);
      // Touched is taken.
      return (
        c.x + grid.w / 2 >= Math.min(b.x, b.toX) &&
        c.x - grid.w / 2 <= Math.max(b.x, b.toX) &&
        c.y + grid.h / 2 >= Math.min(b.y, b.toY) &&
        c.y - grid.h / 2 <= Math.max(b.y, b.toY)
      );
    };
    return [
      ...new Set(
        blocks
          .filter((r) =>
            Array.from({ length: r.to - r.from + 1 }, (_, i) => r.from + i).some(inside),
          )
          .map((r) => r.range.fixture.id),
      ),
    ];
  };
  const ended = (): void => {
    if (turn.current) clearTimeout(turn.current.timer);
    turn.current = null;
    setCarry(null);
    setBox(null);
  };
  const drag = useDrag<Pressed>({
    begin: (e) => {
      const { x, y, cell } = local(e);
      if (cell === undefined) return null;
      setCursor(null);
      setAnchor(null);
      const id = at(cell)?.fixture.id ?? null;
      const additive = e.ctrlKey || e.metaKey || e.shiftKey;
      if (id && !selected.has(id) && !additive) select([id]);
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
      overTab(e);
      p.by = cell === undefined ? (p.by ?? 0) : base + cell - p.from;
      setCarry({ from: p.from, by: p.by, x, y });
    },
    end: (p, torn) => {
      const plan =
        p.by === null || p.by === 0
          ? undefined
          : tryEdit('move-fixtures', { ids: carried(), to: { by: p.by } });
      ended();
      if (torn) return;
      if (p.box) {
        const found = within(p.box);
        select(p.additive ? [...new Set([...selection, ...found])] : found);
      } else if (p.by !== null) {
        if (plan && !('message' in plan)) since(p.seen, () => commit(p.by ?? 0));
      } else if (p.id && p.additive) toggleSelected(p.id);
      else if (p.id) select([p.id]);
      else if (!p.additive) setDraft({ address: formatPoint(fromAbsolute(base + p.cell)) });
    },
  });

  const ARROWS: Record<string, number> = {
    ArrowRight: 1,
    ArrowLeft: -1,
    ArrowDown: 32,
    ArrowUp: -32,
  };
  const under = cursor === null ? undefined : at(cursor);
  const says = prospect?.bad || moved ? prospect?.says : undefined;
  const tip =
    hover && !carry && drop === null ? describe(at(hover.cell), base + hover.cell) : undefined;
  function describe(range: Occupied | undefined, address: number): string {
    if (!range) return `${formatPoint(fromAbsolute(address))} · free`;
    const mode = modeOf(show, range.fixture);
    const channel = mode?.channels.find((c) => c.offset.includes(address - range.from + 1));
    const fine = channel && channel.offset.indexOf(address - range.from + 1) > 0 ? ' fine' : '';
    return `${formatPoint(fromAbsolute(address))} · ${range.fixture.number} ${range.fixture.label}${channel ? ` · ${attributeInfo(channel.attribute).label}${fine}` : ''}`;
  }

  return (
    <div ref={box} className="relative h-full min-h-0 overflow-hidden">
      <FixtureMenu>
        <canvas
          ref={canvas}
          role="application"
          tabIndex={0}
          aria-label={`Addresses of universe ${universe}. Arrows move the cursor, Enter selects or patches, Alt and arrows carry the selection, Enter puts it down. Shift and arrows take more, Delete takes them off the rig.`}
          data-testid="address-map"
          style={{ width: size.width, height: size.height }}
          className="absolute inset-0 touch-none outline-offset-[-2px]"
          {...drag}
          onPointerMove={(e) => {
            const { x, y, cell } = local(e);
            setHover(cell === undefined ? null : { cell, x, y });
            drag.onPointerMove(e);
          }}
          onPointerLeave={() => setHover(null)}
          onContextMenu={(e) => {
            // From the keyboard the menu is about what is selected, or what the cursor stands on.
            const cell = e.button === 2 ? local(e).cell : (cursor ?? undefined);
            const id = cell === undefined ? undefined : at(cell)?.fixture.id;
            if (id && !selected.has(id)) select([id]);
          }}
          onDoubleClick={(e) => {
            const { cell } = local(e);
            if (cell !== undefined && !at(cell) && editable) void patchAt(cell, picked);
          }}
          onKeyDown={(e) => {
            const by = ARROWS[e.key];
            if (by !== undefined && e.shiftKey && !e.altKey) {
              const [from, to] = [
                anchor ?? cursor ?? 1,
                Math.min(512, Math.max(1, (cursor ?? 1) + by)),
              ];
              setAnchor(from);
              setCursor(to);
              select([
                ...new Set(
                  blocks
                    .filter((r) => r.to >= Math.min(from, to) && r.from <= Math.max(from, to))
                    .map((r) => r.range.fixture.id),
                ),
              ]);
            } else if (by !== undefined) {
              setAnchor(null);
              step(by, e.altKey);
            } else if (e.key === 'Delete' && editable && carried().length > 0)
              takeOff(carried().flatMap((id) => show.fixtures.get(id) ?? []));
            else if (e.key === 'PageDown') setUniverse(Math.min(256, universe + 1));
            else if (e.key === 'PageUp') setUniverse(Math.max(1, universe - 1));
            else if (e.key === 'Enter' && carry) {
              if (!moved?.bad) commit(carry.by);
            } else if (e.key === 'Enter' && cursor !== null) {
              if (under) select([under.fixture.id]);
              else if (editable) void patchAt(cursor, picked);
            } else if (e.key === 'Escape' && (carry || cursor !== null)) {
              setCarry(null);
              setCursor(null);
            } else return;
            e.preventDefault();
            e.stopPropagation();
          }}
        />
      </FixtureMenu>
      {box_ && (
        <i
          aria-hidden="true"
          className="pointer-events-none absolute rounded-sm bg-standby/10 shadow-[inset_0_0_0_1px_var(--color-standby)]"
          style={{
            left: Math.min(box_.x, box_.toX),
            top: Math.min(box_.y, box_.toY),
            width: Math.abs(box_.toX - box_.x),
            height: Math.abs(box_.toY - box_.y),
          }}
        />
      )}
      <output aria-live="polite" className="sr-only">
        {says ?? (cursor === null ? '' : describe(under, base + cursor))}
      </output>
      {(carry ?? drop) !== null && prospect && (
        <p
          role="status"
          data-testid="map-says"
          className={`pointer-events-none absolute z-10 max-w-[280px] rounded-md px-3 py-1.5 text-[12.5px] leading-[18px] shadow-pop ${prospect.bad ? 'bg-danger-wash text-text' : 'bg-raised text-soft'}`}
          style={{
            left: Math.min(
              Math.max(8, (carry?.x ?? hover?.x ?? 40) - 30),
              Math.max(8, size.width - 290),
            ),
            top: Math.min((carry?.y ?? hover?.y ?? 40) + 26, size.height - 60),
          }}
        >
          {prospect.says}
        </p>
      )}
      {tip && hover && (
        <p
          className="pointer-events-none absolute z-10 rounded bg-raised px-2 py-0.5 text-[11.5px] whitespace-nowrap text-soft shadow-[0_0_0_1px_var(--color-edge)]"
          style={{
            left: Math.min(hover.x + 12, size.width - 240),
            top: hover.y > size.height - 40 ? hover.y - 30 : hover.y + 18,
          }}
        >
          {tip}
        </p>
      )}
    </div>
  );
}
