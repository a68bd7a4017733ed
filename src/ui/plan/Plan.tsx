/** The stage view: canvases fed by level frames, drawn only when something has changed, at the screen's own rate. */
'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { PieceRow } from '@/core/plan/rows';
import { shownCount, shownLevels } from '../state/shown';
import { useScreen, useShow } from '../state/store';
import { useStage } from '../state/stage';
import { levels } from '../state/levels';
import { useBox } from '../parts/use-box';
import { drawFixtures, drawLight, drawStage } from './draw';
import { useGestures, type Moving } from './gestures';
import { lampsOf, type Lamp } from './light';
import { useMarks } from './marks';
import { useBackground } from './background';
import { boundsOf, pointsOfPieces, toPixel, viewOf, type View } from './view';

/** Levels come 25 times a second; in between the picture moves towards them, so that a fade looks like one. */
const FOLLOW_MS = 45;
/** Light is soft: half the pixels each way look the same and cost a quarter. */
const LIGHT_SCALE = 0.5;
/** Where a picture of very many units takes longer than a frame, every second or third frame has one, and the controls stay quick. */
const LONG_FRAME_MS = 24;
const SHORT_FRAME_MS = 18;
const LONGEST_STRIDE = 3;
const NO_PIECES: readonly PieceRow[] = [];

/** A cleared canvas of this size whose units are the page's pixels. */
function prepare(
  canvas: HTMLCanvasElement | null,
  size: { width: number; height: number },
  scale: number,
): CanvasRenderingContext2D | undefined {
  const g = canvas?.getContext('2d');
  if (!canvas || !g || size.width === 0) return undefined;
  const ratio = (window.devicePixelRatio || 1) * scale;
  canvas.width = Math.round(size.width * ratio);
  canvas.height = Math.round(size.height * ratio);
  g.scale(ratio, ratio);
  return g;
}

type Placed = FixtureRow['position'];
const put = (lamp: Lamp, at: Partial<Placed>): Lamp => ({
  ...lamp,
  fixture: { ...lamp.fixture, position: { ...lamp.fixture.position, ...at } },
});

/** Lamps where this layout draws them, and what is under the hand where the hand has it. */
function useLamps(
  layoutPlaces: Record<string, { x: number; y: number }> | undefined,
  moving: Moving | null,
): { lamps: readonly Lamp[]; placed: readonly Lamp[] } {
  const show = useShow();
  const index = useScreen((s) => s.index);
  // The lamps follow the rig; the show's version of its rows says when.
  const rigVersion = `${show.version('fixtures')}/${show.version('types')}`;
  const lamps = useMemo(() => {
    void rigVersion;
    const all = lampsOf(show, index);
    return layoutPlaces
      ? all
          .filter((l) => layoutPlaces[l.fixture.id])
          .map((l) => put(l, layoutPlaces[l.fixture.id] ?? {}))
      : all;
  }, [show, index, rigVersion, layoutPlaces]);
  const placed = useMemo(
    () =>
      moving?.fixtures
        ? lamps.map((l) =>
            moving.fixtures?.has(l.fixture.id)
              ? put(l, moving.fixtures.get(l.fixture.id) ?? {})
              : l,
          )
        : lamps,
    [lamps, moving],
  );
  return { lamps, placed };
}

export function Plan({ arrange }: { arrange?: boolean }) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const blind = useScreen((s) => s.programmer.blind);
  const held = useScreen((s) => s.values);
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
  const [moving, setMoving] = useState<Moving | null>(null);
  // In Rig it is always the stage's own plan.
  const layout = arrange || layoutId === null ? undefined : show.layouts.get(layoutId);
  const { lamps, placed } = useLamps(layout?.places, moving);
  const background = useBackground(layout);
  const pieceVersion = show.version('pieces');
  const pieces = useMemo(() => {
    void pieceVersion;
    if (layout?.places) return NO_PIECES;
    const all = [...show.pieces.values()];
    const under = moving?.piece;
    return under ? all.map((p) => (p.id === under.id ? under : p)) : all;
  }, [show, pieceVersion, layout, moving]);
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
    moving,
    setMoving,
    fixed: arrange === true,
  });
  const marks = useMarks(g.hover?.fixture.id ?? null);

  // Three layers: the stage, drawn once; light, drawn while levels move; fixtures with their marks, when those change.
  useEffect(() => {
    const draw = (): void => {
      const context = prepare(ground.current, size, 1);
      if (context) drawStage(context, view, pieces, background, g.piece);
    };
    draw();
    // The faces of the words may arrive after the first drawing.
    let stopped = false;
    void document.fonts.ready.then(() => !stopped && draw());
    return () => {
      stopped = true;
    };
  }, [size, view, pieces, background, g.piece]);

  useEffect(() => {
    const draw = (): void => {
      const context = prepare(canvas.current, size, 1);
      if (context) drawFixtures(context, view, placed, marks);
    };
    draw();
    let stopped = false;
    void document.fonts.ready.then(() => !stopped && draw());
    return () => {
      stopped = true;
    };
  }, [size, view, placed, marks]);

  // Blind, what you hold is drawn as well, also when no level moves.
  const mine = blind ? held : null;
  useEffect(() => {
    void mine;
    const context = prepare(light.current, size, LIGHT_SCALE);
    if (!context) return;
    let shown = new Float32Array(shownLevels());
    let frames: string | number = -1;
    let last = performance.now();
    let settled = false;
    let request = 0;
    let [stride, turn, drew, weight, lastFrame] = [1, 0, false, 0, last];
    const draw = (now: number): void => {
      request = requestAnimationFrame(draw);
      if (shown.length !== levels.now.length) shown = new Float32Array(shownLevels());
      if (frames !== shownCount()) {
        frames = shownCount();
        settled = false;
      }
      const frame = now - lastFrame;
      lastFrame = now;
      if (drew) weight += frame > LONG_FRAME_MS ? 4 : frame < SHORT_FRAME_MS ? -1 : 0;
      drew = false;
      if (Math.abs(weight) > 60) {
        stride = Math.min(LONGEST_STRIDE, Math.max(1, stride + Math.sign(weight)));
        weight = 0;
      }
      if (settled) {
        last = now;
        return;
      }
      if (++turn % stride !== 0) return;
      const share = Math.min(1, (now - last) / FOLLOW_MS);
      last = now;
      settled = true;
      drew = true;
      const wanted = shownLevels();
      for (let i = 0; i < shown.length; i++) {
        const gap = (wanted[i] as number) - (shown[i] as number);
        if (gap === 0) continue;
        if (Math.abs(gap) < 0.002) shown[i] = wanted[i] as number;
        else {
          shown[i] = (shown[i] as number) + gap * share;
          settled = false;
        }
      }
      context.clearRect(0, 0, size.width, size.height);
      drawLight(context, view, placed, shown);
      drawn.count++;
    };
    request = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(request);
  }, [size, view, placed, mine]);

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
      {g.hover && hovered && !rubber && (
        <div
          className="pointer-events-none absolute z-10 -translate-x-1/2 -translate-y-full rounded-md bg-text px-2 py-0.5 text-[12px] font-medium whitespace-nowrap text-ink"
          style={{ left: hovered.x, top: hovered.y - 20 }}
        >
          <span className="num">{g.hover.fixture.number}</span> {g.hover.fixture.label}
        </div>
      )}
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

/** Frames drawn since the page was opened, for measuring. */
const drawn = { count: 0 };
if (typeof window !== 'undefined')
  (window as typeof window & { wingmanDrawn?: typeof drawn }).wingmanDrawn = drawn;
