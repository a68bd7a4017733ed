/** The live plan on a sheet: units with their light, areas of the floor; a touch selects, or asks who lights the spot. */
'use client';
import { listed } from '@/core/words';
import { useMemo, useState } from 'react';
import { inOrder } from '@/core/plan/edits';
import type { PieceRow as Line } from '@/core/plan/rows';
import type { Part, PieceIs, PieceRow } from '@/core/sheets/rows';
import type { Show } from '@/core/show/show';
import { useBackground } from '../../plan/background';
import type { Lamp } from '../../plan/light';
import { labelsOf } from '../../plan/labels';
import { useMarks } from '../../plan/marks';
import { lampAt, lampsWithin } from '../../plan/pick';
import { LayerCanvases, useCanvases } from '../../plan/use-canvases';
import { useLamps } from '../../plan/use-lamps';
import { useLayers } from '../../plan/use-layers';
import {
  boundsOf,
  pointsOfPieces,
  toMetre,
  toPixel,
  viewOf,
  type Bounds,
  type View,
} from '../../plan/view';
import { useDrag } from '../../parts/use-drag';
import { select, toggleSelected } from '../../state/commands';
import { areaAt, askArea, askSpot, useSheets } from '../../state/sheets';
import { mayPlay, useScreen, useShow } from '../../state/store';

interface Metre {
  x: number;
  y: number;
}
type Turn = Extract<PieceIs, { kind: 'plan' }>['turn_deg'];

/** A place of the stage as it lies on a plan that is turned, clockwise; and back again. */
export function turned({ x, y }: Metre, turn_deg: Turn): Metre {
  switch (turn_deg) {
    case 90:
      return { x: y, y: -x };
    case 180:
      return { x: -x, y: -y };
    case 270:
      return { x: -y, y: x };
    default:
      return { x, y };
  }
}
const back = (at: Metre, turn_deg: Turn): Metre => turned(at, ((360 - turn_deg) % 360) as Turn);

const turnLamp = (lamp: Lamp, turn_deg: Turn): Lamp =>
  turn_deg === 0
    ? lamp
    : {
        ...lamp,
        fixture: {
          ...lamp.fixture,
          rotation: (lamp.fixture.rotation + turn_deg) % 360,
          position: { ...lamp.fixture.position, ...turned(lamp.fixture.position, turn_deg) },
        },
      };
const turnLine = (line: Line, turn_deg: Turn): Line =>
  turn_deg === 0 ? line : { ...line, points: line.points.map((p) => turned(p, turn_deg)) };

const DRAG_PX = 5;

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** A tap selects or asks; a drag selects all that it goes round. */
function useHand({
  view,
  lamps,
  turn_deg,
}: {
  view: View;
  lamps: readonly Lamp[];
  turn_deg: Turn;
}) {
  const tool = useSheets((s) => s.tool);
  const playing = useScreen((s) => mayPlay(s.you.role));
  const [box, setBox] = useState<Box | null>(null);
  const at = (e: React.PointerEvent): Metre => {
    const r = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - r.left, y: e.clientY - r.top };
  };
  const tap = (p: Metre, add: boolean): void => {
    const spot = back(toMetre(view, p), turn_deg);
    if (tool === 'spot') {
      askSpot(spot);
      return;
    }
    const lamp = lampAt(lamps, view, p);
    const area = lamp ? undefined : areaAt(spot);
    if (lamp && add) toggleSelected(lamp.fixture.id);
    else if (lamp) {
      const { selection } = useScreen.getState();
      const isAlone = selection.length === 1 && selection[0] === lamp.fixture.id;
      select(isAlone ? [] : [lamp.fixture.id]);
    } else if (area) askArea(area);
    else if (!add) select([]);
  };
  const drag = useDrag<{ from: Metre; add: boolean; to: Metre | null }>({
    begin: (e) =>
      playing ? { from: at(e), add: e.ctrlKey || e.metaKey || e.shiftKey, to: null } : null,
    move: (d, e) => {
      const p = at(e);
      if (d.to === null && Math.hypot(p.x - d.from.x, p.y - d.from.y) < DRAG_PX) return;
      d.to = p;
      setBox({
        x: Math.min(p.x, d.from.x),
        y: Math.min(p.y, d.from.y),
        w: Math.abs(p.x - d.from.x),
        h: Math.abs(p.y - d.from.y),
      });
    },
    end: (d, torn) => {
      setBox(null);
      if (torn) return;
      const { from, to } = d;
      if (to === null) {
        tap(from, d.add);
        return;
      }
      const holds = (q: Metre): boolean =>
        q.x >= Math.min(from.x, to.x) &&
        q.x <= Math.max(from.x, to.x) &&
        q.y >= Math.min(from.y, to.y) &&
        q.y <= Math.max(from.y, to.y);
      const ids = lampsWithin(lamps, view, holds);
      const { selection } = useScreen.getState();
      select(d.add ? [...new Set([...selection, ...ids])] : ids);
    },
  });
  /** Whatever hand it is: a long touch or the right button asks what lies there. */
  const onPointerDownCapture = (e: React.PointerEvent): void =>
    useSheets.setState({ under: lampAt(lamps, view, at(e))?.fixture.id ?? null });
  return { drag: { ...drag, onPointerDownCapture }, box, tool };
}

/** Areas as outlines with their names, and the spot that was asked for. */
export function Areas({
  view,
  turn_deg,
  shown,
  lamps,
}: {
  view: View;
  turn_deg: Turn;
  shown: boolean;
  lamps: readonly Lamp[];
}) {
  const show = useShow();
  const spot = useSheets((s) => s.spot);
  const pixel = (p: Metre): Metre => toPixel(view, turned(p, turn_deg));
  const areas = (shown ? inOrder(show.areas.values()) : []).map(({ id, name, corners }) => ({
    id,
    name,
    corners: corners.map(pixel),
  }));
  const labels = labelsOf(
    areas,
    lamps.map((l) => toPixel(view, l.fixture.position)),
  );
  const asked = spot?.at && pixel(spot.at);
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      {areas.map((area, i) => {
        const isAsked = spot?.areaId === area.id;
        return (
          <g key={area.id}>
            <polygon
              points={area.corners.map((c) => `${c.x},${c.y}`).join(' ')}
              className={isAsked ? 'fill-standby/15' : 'fill-none'}
              stroke={isAsked ? 'var(--color-standby)' : 'var(--color-edge)'}
              strokeDasharray={isAsked ? undefined : '5 5'}
            />
            <text
              x={labels[i]?.x}
              y={labels[i]?.y}
              fontSize={12}
              paintOrder="stroke"
              stroke="var(--color-ink)"
              strokeWidth={4}
              fill={isAsked ? 'var(--color-standby)' : 'var(--color-muted)'}
            >
              {area.name}
            </text>
          </g>
        );
      })}
      {asked && (
        <g stroke="var(--color-standby)" strokeWidth={1.6} fill="none">
          <circle cx={asked.x} cy={asked.y} r={6} />
          <path
            d={`M${asked.x - 20} ${asked.y}h10m20 0h10M${asked.x} ${asked.y - 20}v10m0 20v10`}
          />
        </g>
      )}
    </svg>
  );
}

/** Less than this is not written at its unit: it would lie over those that matter. */
const SHOWN_SHARE = 0.03;

/** Shares of the light on the spot that was asked for, at the units that give it. */
function Shares({ view, lamps }: { view: View; lamps: readonly Lamp[] }) {
  const gives = useSheets((s) => s.spot?.lighting.gives);
  if (!gives) return null;
  const seen = gives
    .filter((g) => g.share >= SHOWN_SHARE)
    .flatMap(({ fixtureId, share }) => {
      const lamp = lamps.find((l) => l.fixture.id === fixtureId);
      return lamp ? [{ lamp, share, at: toPixel(view, lamp.fixture.position) }] : [];
    });
  return apart(seen).map(({ lamp, share, at }) => (
    <span
      key={lamp.fixture.id}
      data-share={lamp.fixture.number}
      className="num pointer-events-none absolute -translate-x-1/2 rounded bg-standby px-1 text-[11px] leading-4 font-semibold text-ink"
      style={{ left: at.x, top: at.y - 32 }}
    >
      {Math.round(share * 100)} %
    </span>
  ));
}

/** Of a share as it is written. */
const WIDE_PX = 40;
const TALL_PX = 17;

/** Where units hang close together, the shares of those that give most are written: one over another is none. */
export function apart<S extends { share: number; at: Metre }>(shares: readonly S[]): S[] {
  const kept: S[] = [];
  for (const one of [...shares].sort((a, b) => b.share - a.share))
    if (
      kept.every(
        ({ at }) => Math.abs(at.x - one.at.x) >= WIDE_PX || Math.abs(at.y - one.at.y) >= TALL_PX,
      )
    )
      kept.push(one);
  return kept;
}

/** A part of the stage, as it lies on a plan that is turned. */
function partBounds({ left, right, near, far }: Part, turn_deg: Turn): Bounds {
  const corners = [turned({ x: left, y: near }, turn_deg), turned({ x: right, y: far }, turn_deg)];
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  return {
    left: Math.min(...xs),
    right: Math.max(...xs),
    bottom: Math.min(...ys),
    top: Math.max(...ys),
  };
}

/** So many of the selected are named one by one, in their order. */
const NAMED = 40;

function planWords(show: Show, units: number, selection: readonly string[]): string {
  const numbers = selection.map((id) => String(show.fixtures.get(id)?.number ?? '?'));
  return `Plan of the stage with ${units} fixtures; selected: ${listed(numbers, NAMED) || 'none'}`;
}

/** The live plan, or a part of it. */
export function PlanPiece({ piece }: { piece: PieceRow }) {
  const show = useShow();
  const is = piece.is as Extract<PieceIs, { kind: 'plan' }>;
  const { turn_deg } = is;
  const layout = is.layout === undefined ? undefined : show.layouts.get(is.layout);
  const { box, size, refs } = useCanvases();
  const { lamps: hung } = useLamps(layout?.places, null);
  const lamps = useMemo(() => hung.map((l) => turnLamp(l, turn_deg)), [hung, turn_deg]);
  const version = show.version('pieces');
  const lines = useMemo(() => {
    void version;
    return layout?.places ? [] : [...show.pieces.values()].map((p) => turnLine(p, turn_deg));
  }, [show, version, layout, turn_deg]);
  const bounds = useMemo(
    () =>
      is.part
        ? partBounds(is.part, turn_deg)
        : boundsOf([...pointsOfPieces(lines), ...lamps.map((l) => l.fixture.position)]),
    [lines, lamps, is.part, turn_deg],
  );
  const view = useMemo(
    () => viewOf(bounds, size.width, size.height, null),
    [bounds, size.width, size.height],
  );
  const background = useBackground(turn_deg === 0 ? layout : undefined);
  const marks = useMarks(null);
  const selection = useScreen((s) => s.selection);
  const hand = useHand({ view, lamps, turn_deg });
  useLayers(refs, { view, size, lamps, pieces: lines, background, marks, chosen: null });
  return (
    <div
      ref={box}
      data-theme="night"
      className="relative size-full overflow-hidden rounded-lg bg-ink text-text"
    >
      <LayerCanvases
        refs={refs}
        size={size}
        top={{
          role: 'img',
          'data-testid': 'sheet-plan',
          'data-view': `${view.scale},${view.ox},${view.oy}`,
          'aria-label': planWords(show, lamps.length, selection),
          style: { cursor: hand.tool === 'spot' ? 'crosshair' : 'default' },
          ...hand.drag,
        }}
      />
      {!layout?.places && <Areas view={view} turn_deg={turn_deg} shown={is.areas} lamps={lamps} />}
      <Shares view={view} lamps={lamps} />
      {hand.box && (
        <div
          className="pointer-events-none absolute rounded border border-standby bg-standby/10"
          style={{ left: hand.box.x, top: hand.box.y, width: hand.box.w, height: hand.box.h }}
        />
      )}
    </div>
  );
}
