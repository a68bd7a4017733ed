/** The stage view: canvases fed by level frames, drawn only when something has changed, at the screen's own rate. */
'use client';
import { useMemo, useRef } from 'react';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { LayoutRow, PieceRow } from '@/core/plan/rows';
import { useScreen, useShow } from '../state/store';
import { useStage } from '../state/stage';
import { useBox } from '../parts/use-box';
import { useLed } from '../parts/use-led';
import { useGestures } from './gestures';
import type { Pixel } from './pick';
import type { Moving } from './moving';
import { useMarks } from './marks';
import { useBackground } from './background';
import { useLamps } from './use-lamps';
import { useLayers } from './use-layers';
import { boundsOf, pointsOfPieces, toPixel, viewOf, type View } from './view';

const NO_PIECES: readonly PieceRow[] = [];

type Gestures = ReturnType<typeof useGestures>;

/** What a hand draws over the plan. */
function Drawing({ rubber, lasso, line }: Pick<Gestures, 'rubber' | 'lasso' | 'line'>) {
  return (
    <>
      {rubber && (
        <div
          className="pointer-events-none absolute rounded border border-standby bg-standby/10"
          style={{ left: rubber.x, top: rubber.y, width: rubber.w, height: rubber.h }}
        />
      )}
      {(lasso || line) && (
        <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
          {lasso && (
            <polygon
              points={lasso.map((p) => `${p.x},${p.y}`).join(' ')}
              className="fill-standby/10"
              stroke="var(--color-standby)"
            />
          )}
          {line && (
            <line
              x1={line.from.x}
              y1={line.from.y}
              x2={line.to.x}
              y2={line.to.y}
              stroke="var(--color-standby)"
              strokeDasharray="5 4"
            />
          )}
          {line &&
            [line.from, line.to].map((p, i) => (
              <circle key={i} cx={p.x} cy={p.y} r={5} fill="none" stroke="var(--color-standby)" />
            ))}
        </svg>
      )}
    </>
  );
}

/** Which unit is under the pointer. */
function NameTag({ at, fixture }: { at: Pixel; fixture: FixtureRow }) {
  return (
    <div
      className="pointer-events-none absolute z-10 -translate-x-1/2 -translate-y-full rounded-md bg-text px-2 py-0.5 text-[12px] font-medium whitespace-nowrap text-ink"
      style={{ left: at.x, top: at.y - 20 }}
    >
      <span className="num">{fixture.number}</span> {fixture.label}
    </div>
  );
}

/** Set pieces on the stage's own plan, the one under a hand where the hand has it; a layout has none. */
function usePieces(layout: LayoutRow | undefined, under: PieceRow | undefined) {
  const show = useShow();
  const version = show.version('pieces');
  return useMemo(() => {
    void version;
    if (layout?.places) return NO_PIECES;
    const all = [...show.pieces.values()];
    return under ? all.map((p) => (p.id === under.id ? under : p)) : all;
  }, [show, version, layout, under]);
}

/** The plan of the stage as it plays; arranged, it is moved about. */
export function Plan({ arrange }: { arrange?: boolean }) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const looked = useStage((s) => s.view2d);
  const layoutId = useStage((s) => s.layoutId);
  const tool = useStage((s) => s.tool);
  const stageArrange = useStage((s) => s.arrange);
  const arranging = arrange ?? stageArrange;
  const ground = useRef<HTMLCanvasElement>(null);
  const light = useRef<HTMLCanvasElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const size = useBox(box);
  const led = useLed<Moving | null>(null);
  const moving = led.shown;
  // In Rig it is always the stage's own plan.
  const layout = arrange || layoutId === null ? undefined : show.layouts.get(layoutId);
  const { lamps, placed } = useLamps(layout?.places, moving);
  const background = useBackground(layout);
  const pieces = usePieces(layout, moving?.piece);
  const bounds = useMemo(
    () => boundsOf([...pointsOfPieces(pieces), ...lamps.map((l) => l.fixture.position)]),
    [pieces, lamps],
  );
  const view: View = useMemo(
    () => viewOf(bounds, size.width, size.height, arrange ? null : looked),
    [bounds, size, looked, arrange],
  );
  const g = useGestures({
    box,
    view,
    bounds,
    size,
    lamps: placed,
    pieces,
    arranging,
    layout,
    moving: led,
    fixed: arrange === true,
  });
  const marks = useMarks(g.hover?.fixture.id ?? null);

  useLayers(
    { ground, light, units: canvas },
    { view, size, lamps: placed, pieces, background, marks, chosen: g.piece },
  );

  const hand = tool === 'select' || arrange ? 'default' : 'crosshair';
  const { rubber, lasso, line } = g;
  const hovered = g.hover ? toPixel(view, g.hover.fixture.position) : null;
  return (
    <div
      ref={box}
      data-theme="night"
      className="relative size-full overflow-hidden bg-ink text-text"
    >
      <canvas
        ref={ground}
        aria-hidden="true"
        style={{ width: size.width, height: size.height }}
        className="absolute top-0 left-0"
      />
      <canvas
        ref={light}
        aria-hidden="true"
        style={{ width: size.width, height: size.height }}
        className="absolute top-0 left-0"
      />
      <canvas
        ref={canvas}
        data-testid="plan"
        role="img"
        aria-label={`Plan of the stage with ${lamps.length} fixtures, ${selection.length} selected. Select by numbers on the command line.`}
        data-view={`${view.scale},${view.ox},${view.oy}`}
        style={{ width: size.width, height: size.height, cursor: hand }}
        className="relative block touch-none"
        {...g.handlers}
      />
      <Drawing rubber={rubber} lasso={lasso} line={line} />
      {g.hover && hovered && !rubber && <NameTag at={hovered} fixture={g.hover.fixture} />}
      {moving?.says && (
        <div className="num pointer-events-none absolute bottom-2 left-2 rounded bg-panel/90 px-2 py-1 text-[12px] text-soft">
          {moving.says}
        </div>
      )}
      {lamps.length === 0 && (
        <p className="pointer-events-none absolute inset-x-0 top-1/3 mx-auto w-72 rounded-lg bg-panel/90 p-3 text-center text-muted">
          {layout
            ? 'Nothing is in this layout yet. Select fixtures and press “Put selection here”.'
            : 'Nothing hangs here yet. Patch fixtures in Rig, and they appear on this plan.'}
        </p>
      )}
    </div>
  );
}
