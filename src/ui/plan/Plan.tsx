/** The stage view: a canvas fed by level frames, drawn only when something has changed, at the screen's own rate. */
'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Lamp } from './light';
import { lampsOf } from './light';
import { drawFixtures, drawLight, drawStage, fit, toMetre, toPixel, type View } from './draw';
import { edit, select, toggleSelected } from '../state/actions';
import { levels } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';

/** Levels come 25 times a second; in between the picture moves towards them, so that a fade looks like one. */
const FOLLOW_MS = 45;
const HIT_PX = 17;
const DRAG_PX = 4;

/** Light is soft: half the pixels each way look the same and cost a quarter. */
const LIGHT_SCALE = 0.5;

/** A fixture under the hand, not yet put down. */
interface Moving {
  id: string;
  x: number;
  y: number;
}

const placed = (lamps: readonly Lamp[], moving: Moving | null): readonly Lamp[] =>
  moving ? lamps.map((l) => (l.fixture.id === moving.id ? { ...l, fixture: { ...l.fixture, position: { ...l.fixture.position, x: moving.x, y: moving.y } } } : l)) : lamps;

/** A cleared canvas of this size whose units are the page's pixels. */
function prepare(canvas: HTMLCanvasElement | null, size: { width: number; height: number }, scale: number): CanvasRenderingContext2D | undefined {
  const g = canvas?.getContext('2d');
  if (!canvas || !g || size.width === 0) return undefined;
  const ratio = (window.devicePixelRatio || 1) * scale;
  canvas.width = Math.round(size.width * ratio);
  canvas.height = Math.round(size.height * ratio);
  g.scale(ratio, ratio);
  return g;
}

interface Gesture {
  x: number;
  y: number;
  /** The fixture under the pointer, when the rig is being arranged or clicked. */
  lamp: Lamp | null;
  moved: boolean;
  additive: boolean;
}

export function Plan({ arrange = false }: { arrange?: boolean }) {
  const show = useShow();
  const { index, selection, values, you } = useScreen();
  const ground = useRef<HTMLCanvasElement>(null);
  const light = useRef<HTMLCanvasElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [hover, setHover] = useState<Lamp | null>(null);
  const [rubber, setRubber] = useState<{ x: number; y: number; w: number; h: number } | null>(null);
  const gesture = useRef<Gesture | null>(null);
  const [moving, setMoving] = useState<Moving | null>(null);

  // The lamps follow the rig; the show's version of its rows says when.
  const rigVersion = `${show.version('fixtures')}/${show.version('types')}`;
  const lamps = useMemo(() => {
    void rigVersion;
    return lampsOf(show, index);
  }, [show, index, rigVersion]);
  const pieces = useMemo(() => [...show.pieces.values()], [show]);
  const marks = useMemo(
    () => ({ selected: new Map(selection.map((id, i) => [id, i + 1])), unrecorded: new Set([...values.values()].filter((v) => !v.recorded).map((v) => v.fixtureId)), hover: hover?.fixture.id ?? null }),
    [selection, values, hover],
  );
  const view: View = useMemo(() => fit(size.width, size.height), [size]);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);

  // Three layers: the stage, drawn once; light, drawn while levels move; fixtures with their marks, when those change.
  useEffect(() => {
    const g = prepare(ground.current, size, 1);
    if (g) drawStage(g, view, pieces);
    // The faces of the words may arrive after the first drawing.
    void document.fonts.ready.then(() => {
      const again = prepare(ground.current, size, 1);
      if (again) drawStage(again, view, pieces);
    });
  }, [size, view, pieces]);

  useEffect(() => {
    const draw = (): void => {
      const g = prepare(canvas.current, size, 1);
      if (g) drawFixtures(g, view, placed(lamps, moving), marks);
    };
    draw();
    let stopped = false;
    void document.fonts.ready.then(() => !stopped && draw());
    return () => {
      stopped = true;
    };
  }, [size, view, lamps, marks, moving]);

  useEffect(() => {
    const g = prepare(light.current, size, LIGHT_SCALE);
    if (!g) return;
    let shown = new Float32Array(levels.now);
    let frames = -1;
    let last = performance.now();
    let settled = false;
    let request = 0;
    const where = placed(lamps, moving);
    const draw = (now: number): void => {
      request = requestAnimationFrame(draw);
      if (shown.length !== levels.now.length) shown = new Float32Array(levels.now);
      if (frames !== levels.frames) {
        frames = levels.frames;
        settled = false;
      }
      const share = Math.min(1, (now - last) / FOLLOW_MS);
      last = now;
      if (settled) return;
      settled = true;
      for (let i = 0; i < shown.length; i++) {
        const gap = (levels.now[i] as number) - (shown[i] as number);
        if (gap === 0) continue;
        if (Math.abs(gap) < 0.002) shown[i] = levels.now[i] as number;
        else {
          shown[i] = (shown[i] as number) + gap * share;
          settled = false;
        }
      }
      g.clearRect(0, 0, size.width, size.height);
      drawLight(g, view, where, shown);
      drawn.count++;
    };
    request = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(request);
  }, [size, view, lamps, moving]);

  const place = (e: React.PointerEvent): { x: number; y: number } => {
    const r = canvas.current?.getBoundingClientRect();
    return { x: e.clientX - (r?.left ?? 0), y: e.clientY - (r?.top ?? 0) };
  };
  const hit = (p: { x: number; y: number }): Lamp | null => {
    let best: Lamp | null = null;
    let distance = Infinity;
    for (const lamp of lamps) {
      const at = toPixel(view, lamp.fixture.position);
      const dx = Math.abs(at.x - p.x) / (lamp.shape === 'strip' ? 1.8 : 1);
      const d = Math.hypot(dx, at.y - p.y);
      if (d < HIT_PX && d < distance) {
        best = lamp;
        distance = d;
      }
    }
    return best;
  };

  return (
    <div ref={box} className="relative size-full">
      <canvas ref={ground} aria-hidden="true" style={{ width: size.width, height: size.height }} className="absolute left-0 top-0" />
      <canvas ref={light} aria-hidden="true" style={{ width: size.width, height: size.height }} className="absolute left-0 top-0" />
      <canvas
        ref={canvas}
        data-testid="plan"
        role="img"
        aria-label={`Plan of the stage with ${lamps.length} fixtures, ${selection.length} selected. Select by numbers on the command line.`}
        style={{ width: size.width, height: size.height }}
        className="relative block touch-none"
        onPointerDown={(e) => {
          const p = place(e);
          e.currentTarget.setPointerCapture(e.pointerId);
          gesture.current = { ...p, lamp: hit(p), moved: false, additive: e.ctrlKey || e.metaKey || e.shiftKey };
        }}
        onPointerMove={(e) => {
          const p = place(e);
          const now = gesture.current;
          if (!now) {
            setHover(hit(p));
            return;
          }
          if (!now.moved && Math.hypot(p.x - now.x, p.y - now.y) < DRAG_PX) return;
          now.moved = true;
          if (now.lamp && arrange && mayEdit(you.role)) {
            const m = toMetre(view, p);
            setMoving({ id: now.lamp.fixture.id, x: Math.round(m.x * 10) / 10, y: Math.round(m.y * 10) / 10 });
          } else if (!now.lamp || !arrange) setRubber({ x: Math.min(p.x, now.x), y: Math.min(p.y, now.y), w: Math.abs(p.x - now.x), h: Math.abs(p.y - now.y) });
        }}
        onPointerUp={() => {
          const done = gesture.current;
          gesture.current = null;
          if (!done) return;
          if (moving) {
            const fixture = show.fixtures.get(moving.id);
            if (fixture) void edit('change-fixtures', { fixtures: [{ id: moving.id, set: { position: { ...fixture.position, x: moving.x, y: moving.y } } }] }, { quiet: true }).finally(() => setMoving(null));
          } else if (rubber) {
            const inside = lamps
              .filter(({ fixture }) => {
                const at = toPixel(view, fixture.position);
                return at.x >= rubber.x && at.x <= rubber.x + rubber.w && at.y >= rubber.y && at.y <= rubber.y + rubber.h;
              })
              .map((l) => l.fixture)
              .sort((a, b) => a.number - b.number)
              .map((f) => f.id);
            select(done.additive ? [...new Set([...selection, ...inside])] : inside);
          } else if (done.lamp) {
            if (done.additive) toggleSelected(done.lamp.fixture.id);
            else select(selection.length === 1 && selection[0] === done.lamp.fixture.id ? [] : [done.lamp.fixture.id]);
          } else if (selection.length > 0) select([]);
          setRubber(null);
        }}
        onPointerLeave={() => setHover(null)}
      />
      {rubber && <div className="pointer-events-none absolute rounded border border-standby bg-[#86c8ff14]" style={{ left: rubber.x, top: rubber.y, width: rubber.w, height: rubber.h }} />}
      {hover && !rubber && (
        <div className="pointer-events-none absolute z-10 -translate-x-1/2 -translate-y-full whitespace-nowrap rounded-md bg-[#e8f0ea] px-2 py-0.5 text-[12px] font-medium text-ink" style={{ left: toPixel(view, hover.fixture.position).x, top: toPixel(view, hover.fixture.position).y - 20 }}>
          <span className="num">{hover.fixture.number}</span> {hover.fixture.label}
        </div>
      )}
      {lamps.length === 0 && <p className="pointer-events-none absolute inset-x-0 top-1/3 mx-auto w-72 rounded-lg bg-[#141e1be0] p-3 text-center text-muted">Nothing hangs here yet. Patch fixtures in Rig, and they appear on this plan.</p>}
    </div>
  );
}

/** Frames drawn since the page was opened, for measuring. */
const drawn = { count: 0 };
if (typeof window !== 'undefined') (window as typeof window & { wingmanDrawn?: typeof drawn }).wingmanDrawn = drawn;
