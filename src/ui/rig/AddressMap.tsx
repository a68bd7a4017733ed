/** The address map: one universe, what stands where, and units moved or patched by hand or by keys. */
'use client';
import { UNIVERSE_SLOTS } from '@/core/dmx';
import { useEffect, useMemo, useRef, type RefObject } from 'react';
import type { Occupied } from '@/core/fixtures/points';
import { clashAt, occupied } from '@/core/rig/addresses';
import { coloursAt } from '../parts/tokens';
import { useBox } from '../parts/use-box';
import { useLook } from '../state/look';
import { mayEdit, useScreen, useShow } from '../state/store';
import { movedProspect, patched, preparedProspect, type Prospect } from './address-map/prospects';
import { sayAddress } from './address-map/say-address';
import { useMapHands, type Box, type Carry, type UnitBlock } from './address-map/use-hands';
import { FixtureMenu } from './FixtureMenu';
import { drawMap, type Ghost, type MapPicture } from './map-draw';
import { useRig } from './rig-state';
import { useParts } from '../state/use-parts';

/** The units of a universe. @param base absolute address before its first */
function useBlocks(base: number): UnitBlock[] {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const selection = useScreen((s) => s.selection);
  return useMemo(() => {
    void revision;
    const selected = new Set(selection);
    return occupied(show)
      .filter((r) => r.to > base && r.from <= base + UNIVERSE_SLOTS)
      .map((range) => ({
        from: range.from - base,
        to: range.to - base,
        number: String(range.fixture.number),
        shape: show.types.get(range.fixture.typeId)?.shape ?? 'profile',
        selected: selected.has(range.fixture.id),
        faded: false,
        range,
      }));
  }, [show, revision, base, selection]);
}

/** What would come to stand where: the carried selection, or what the form would patch. */
function useProspect(carry: Carry | null, drop: number | null, base: number) {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const selection = useScreen((s) => s.selection);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const { picked, draft, carrying } = useParts(useRig, 'picked', 'draft', 'carrying');
  const by = carry?.by ?? 0;
  const moved = useMemo(() => {
    void revision;
    return by === 0 ? null : movedProspect(show, patched(show, selection), by);
  }, [by, selection, show, revision]);
  const isCarrying = carry !== null;
  const prepared = useMemo(() => {
    void revision;
    if (isCarrying || (!carrying && drop === null && !editable)) return null;
    return preparedProspect(carrying ?? picked, draft, drop === null ? null : base + drop);
  }, [isCarrying, carrying, picked, draft, drop, base, revision, editable]);
  const prospect = moved ?? prepared;
  const ghosts = useMemo((): Ghost[] => {
    const standing = occupied(show, moved ? new Set(selection) : undefined);
    return (prospect?.points ?? [])
      .filter((p) => p.to > base && p.from <= base + UNIVERSE_SLOTS)
      .map((p) => ({
        from: p.from - base,
        to: p.to - base,
        number: p.number,
        clash: (a) => clashAt(standing, base + a, base + a) !== undefined,
      }));
  }, [prospect, moved, selection, show, base]);
  return { prospect, moved, ghosts };
}

function useMapCanvas(
  canvas: RefObject<HTMLCanvasElement | null>,
  size: { width: number; height: number },
  { blocks, ghosts, carried, hover, cursor }: Omit<MapPicture, 'colours'>,
): void {
  const theme = useLook((s) => s.theme);
  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d');
    if (!element || !g || size.width === 0) return;
    void theme;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(size.width * ratio);
    element.height = Math.round(size.height * ratio);
    g.scale(ratio, ratio);
    const colours = coloursAt(element);
    drawMap(g, size.width, size.height, { colours, blocks, ghosts, carried, hover, cursor });
  }, [canvas, theme, size, blocks, ghosts, carried, hover, cursor]);
}

/** Addresses of a universe; units are dragged to others. */
export function AddressMap() {
  const show = useShow();
  const { universe } = useParts(useRig, 'universe');
  const canvas = useRef<HTMLCanvasElement>(null);
  const part = useRef<HTMLDivElement>(null);
  const size = useBox(part);
  const base = (universe - 1) * UNIVERSE_SLOTS;
  const blocks = useBlocks(base);
  const at = (cell: number): Occupied | undefined =>
    clashAt(occupied(show), base + cell, base + cell);
  const { hover, cursor, carry, box, drop, handlers } = useMapHands({
    canvas,
    size,
    blocks,
    base,
    at,
  });
  const { prospect, moved, ghosts } = useProspect(carry, drop, base);
  useMapCanvas(canvas, size, {
    blocks,
    ghosts,
    carried: moved !== null || drop !== null,
    hover: hover?.cell,
    cursor: cursor ?? undefined,
  });
  const holding = carry !== null || drop !== null;
  const warns = prospect?.bad || moved ? prospect?.says : undefined;
  const say = (cell: number): string => sayAddress(show, base + cell, at(cell));
  return (
    <div ref={part} className="relative h-full min-h-0 overflow-hidden">
      <FixtureMenu>
        <canvas
          ref={canvas}
          role="application"
          tabIndex={0}
          aria-label={`Addresses of universe ${universe}. Arrows move the cursor, Enter selects or patches, Alt and arrows carry the selection, Enter puts it down. Shift and arrows take more, Delete takes them off the rig.`}
          data-testid="address-map"
          style={{ width: size.width, height: size.height }}
          className="absolute inset-0 touch-none outline-offset-[-2px]"
          {...handlers(moved?.bad === true)}
        />
      </FixtureMenu>
      {box && <Rubber box={box} />}
      <output aria-live="polite" className="sr-only">
        {warns ?? (cursor === null ? '' : say(cursor))}
      </output>
      {holding && prospect && <Says prospect={prospect} near={carry ?? hover} size={size} />}
      {hover && !holding && (
        <p
          className="pointer-events-none absolute z-10 rounded bg-raised px-2 py-0.5 text-[11.5px] whitespace-nowrap text-soft shadow-[0_0_0_1px_var(--color-edge)]"
          style={{
            left: Math.min(hover.x + 12, size.width - 240),
            top: hover.y > size.height - 40 ? hover.y - 30 : hover.y + 18,
          }}
        >
          {say(hover.cell)}
        </p>
      )}
    </div>
  );
}

function Rubber({ box }: { box: Box }) {
  return (
    <i
      aria-hidden="true"
      className="pointer-events-none absolute rounded-sm bg-standby/10 shadow-[inset_0_0_0_1px_var(--color-standby)]"
      style={{
        left: Math.min(box.x, box.toX),
        top: Math.min(box.y, box.toY),
        width: Math.abs(box.toX - box.x),
        height: Math.abs(box.toY - box.y),
      }}
    />
  );
}

/** What letting go here would do, beside the hand. */
function Says({
  prospect,
  near,
  size,
}: {
  prospect: Prospect;
  near: { x: number; y: number } | null;
  size: { width: number; height: number };
}) {
  const { x, y } = near ?? { x: 40, y: 40 };
  return (
    <p
      role="status"
      data-testid="map-says"
      className={`pointer-events-none absolute z-10 max-w-[280px] rounded-md px-3 py-1.5 text-[12.5px] leading-[18px] shadow-pop ${prospect.bad ? 'bg-danger-wash text-text' : 'bg-raised text-soft'}`}
      style={{
        left: Math.min(Math.max(8, x - 30), Math.max(8, size.width - 290)),
        top: Math.min(y + 26, size.height - 60),
      }}
    >
      {prospect.says}
    </p>
  );
}
