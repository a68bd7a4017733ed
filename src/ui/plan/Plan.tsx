/** The stage view: a canvas fed by level frames, drawn only when something has changed, at the screen's own rate. */
'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Lamp } from './light';
import { lampsOf } from './light';
import { drawLight, drawStage, fit, toMetre, toPixel, type View } from './draw';
import { edit, select, toggleSelected } from '../state/actions';
import { levels } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';

/** Levels come 25 times a second; in between the picture moves towards them, so that a fade looks like one. */
const FOLLOW_MS = 45;
const HIT_PX = 17;
const DRAG_PX = 4;

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
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [hover, setHover] = useState<Lamp | null>(null);
  const [rubber, setRubber] = useState<{ x: number; y: number; w: number; h: number } | null>(null);
  const gesture = useRef<Gesture | null>(null);
  const dragged = useRef<{ id: string; x: number; y: number } | null>(null);
  const dirty = useRef(true);

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

  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d');
    if (!element || !g || size.width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = size.width * ratio;
    element.height = size.height * ratio;
    const still = document.createElement('canvas');
    still.width = element.width;
    still.height = element.height;
    const background = still.getContext('2d');
    if (background) {
      background.scale(ratio, ratio);
      drawStage(background, view, pieces);
    }
    let shown = new Float32Array(levels.now);
    let frames = -1;
    let last = performance.now();
    let settled = false;
    let request = 0;
    const draw = (now: number): void => {
      request = requestAnimationFrame(draw);
      if (shown.length !== levels.now.length) shown = new Float32Array(levels.now);
      if (frames !== levels.frames) {
        frames = levels.frames;
        settled = false;
      }
      if (settled && !dirty.current) {
        last = now;
        return;
      }
      const share = Math.min(1, (now - last) / FOLLOW_MS);
      last = now;
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
      dirty.current = false;
      g.setTransform(1, 0, 0, 1, 0, 0);
      g.clearRect(0, 0, element.width, element.height);
      g.drawImage(still, 0, 0);
      g.scale(ratio, ratio);
      const moving = dragged.current;
      drawLight(g, view, moving ? lamps.map((l) => (l.fixture.id === moving.id ? { ...l, fixture: { ...l.fixture, position: { ...l.fixture.position, x: moving.x, y: moving.y } } } : l)) : lamps, shown, marks);
      drawn.count++;
    };
    dirty.current = true;
    request = requestAnimationFrame(draw);
    // The faces of the numbers may arrive after the first frame.
    void document.fonts.ready.then(() => (dirty.current = true));
    return () => cancelAnimationFrame(request);
  }, [size, view, pieces, lamps, marks]);

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
      <canvas
        ref={canvas}
        data-testid="plan"
        role="img"
        aria-label={`Plan of the stage with ${lamps.length} fixtures, ${selection.length} selected. Select by numbers on the command line.`}
        style={{ width: size.width, height: size.height }}
        className="block touch-none"
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
            dragged.current = { id: now.lamp.fixture.id, x: Math.round(m.x * 10) / 10, y: Math.round(m.y * 10) / 10 };
            dirty.current = true;
          } else if (!now.lamp || !arrange) setRubber({ x: Math.min(p.x, now.x), y: Math.min(p.y, now.y), w: Math.abs(p.x - now.x), h: Math.abs(p.y - now.y) });
        }}
        onPointerUp={() => {
          const done = gesture.current;
          gesture.current = null;
          if (!done) return;
          const moving = dragged.current;
          if (moving) {
            const fixture = show.fixtures.get(moving.id);
            if (fixture) void edit('change-fixtures', { fixtures: [{ id: moving.id, set: { position: { ...fixture.position, x: moving.x, y: moving.y } } }] }, { quiet: true }).finally(() => ((dragged.current = null), (dirty.current = true)));
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
