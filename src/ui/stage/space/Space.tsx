/** The stage in space: fixtures where they hang, their light on floor, cyc and set; turned with the hand, clicked to select or aim. */
'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { lampsOf } from '../../plan/light';
import { boundsOf, pointsOfPieces } from '../../plan/view';
import { said, select, toggleSelected } from '../../state/actions';
import { levels } from '../../state/levels';
import { shownCount, shownLevels } from '../../state/shown';
import { askSpot } from '../../state/sheets';
import { useStage, type StageState } from '../../state/stage';
import { useScreen, useShow } from '../../state/store';
import { buildScene, type SpaceScene } from './scene';

const FOLLOW_MS = 60;
const HIT_PX = 22;
const DRAG_PX = 5;
/** Where the picture does not keep up with 30 a second, fewer pixels are drawn. */
const SLOW_MS = 36;
/** A longer pause is no slow picture: nothing moved. */
const PAUSE_MS = 400;
const LEAST_RATIO = 0.33;
const SLOW_FRAMES = 6;
/** A picture that stands still this long is drawn once more with every pixel. */
const STILL_MS = 250;
/** Where a processor does the work of a graphics card, smooth edges cost more than they show. */
const SOFTWARE_RATIO = 0.5;
function drawnInSoftware(): boolean {
  const gl = document.createElement('canvas').getContext('webgl2');
  const info = gl?.getExtension('WEBGL_debug_renderer_info');
  const name = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  gl?.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software|basic render/i.test(name);
}

/** Eye and what it looks at, in world metres (x, up, towards the audience). */
const CAMERAS: Record<
  Exclude<StageState['camera'], 'free'>,
  [eye: [number, number, number], at: [number, number, number]]
> = {
  front: [
    [0, 4.2, 14],
    [0, 2.2, -3],
  ],
  seat: [
    [2.6, 1.25, 9.5],
    [0, 2, -4],
  ],
  side: [
    [-13, 4, 1.5],
    [0, 2, -4],
  ],
  top: [
    [0, 21, -1.9],
    [0, 0, -2],
  ],
};

/** Drawn frames and how long they took, for measuring. */
const spaceStats = { frames: 0, ms: [] as number[], ratio: 1 };
if (typeof window !== 'undefined')
  (window as typeof window & { wingmanSpace?: typeof spaceStats }).wingmanSpace = spaceStats;

export function Space() {
  const show = useShow();
  const index = useScreen((s) => s.index);
  const selection = useScreen((s) => s.selection);
  const blind = useScreen((s) => s.programmer.blind);
  const camera = useStage((s) => s.camera);
  const tool = useStage((s) => s.tool);
  const box = useRef<HTMLDivElement>(null);
  const built = useRef<SpaceScene | null>(null);
  const view = useRef<{
    camera: THREE.PerspectiveCamera;
    controls: OrbitControls;
    again: () => void;
  } | null>(null);
  const [failed, setFailed] = useState(false);
  const [hover, setHover] = useState<{ x: number; y: number; text: string } | null>(null);
  const rigVersion = `${show.version('fixtures')}/${show.version('types')}/${show.version('pieces')}`;
  const { lamps, pieces, bounds } = useMemo(() => {
    void rigVersion;
    const all = lampsOf(show, index);
    const rows = [...show.pieces.values()];
    return {
      lamps: all,
      pieces: rows,
      bounds: boundsOf([...pointsOfPieces(rows), ...all.map((l) => l.fixture.position)]),
    };
  }, [show, index, rigVersion]);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    let renderer: THREE.WebGLRenderer;
    const software = drawnInSoftware();
    try {
      renderer = new THREE.WebGLRenderer({
        antialias: !software && (window.devicePixelRatio || 1) < 2,
        powerPreference: 'high-performance',
      });
    } catch {
      setFailed(true);
      return;
    }
    const made = buildScene(lamps, pieces, bounds);
    built.current = made;
    const eye = new THREE.PerspectiveCamera(42, 1, 0.1, 120);
    const controls = new OrbitControls(eye, renderer.domElement);
    controls.maxPolarAngle = Math.PI * 0.53;
    controls.minDistance = 1.5;
    controls.maxDistance = 45;
    controls.mouseButtons = {
      LEFT: THREE.MOUSE.ROTATE,
      MIDDLE: THREE.MOUSE.PAN,
      RIGHT: THREE.MOUSE.PAN,
    };
    element.appendChild(renderer.domElement);
    renderer.domElement.setAttribute('aria-hidden', 'true');
    let lastDrawn = 0;
    const whole = Math.min(window.devicePixelRatio || 1, 2);
    let [dirty, stopped, request, ratio, slow] = [
      true,
      false,
      0,
      software ? SOFTWARE_RATIO : whole,
      0,
    ];
    let sharp = ratio >= whole;
    let shown = new Float32Array(shownLevels());
    let counted: string | number = -1;
    let last = performance.now();
    const again = (): void => void (dirty = true);
    const size = (): void => {
      const { clientWidth: w, clientHeight: h } = element;
      if (w === 0 || h === 0) return;
      renderer.setPixelRatio(sharp ? whole : ratio);
      renderer.setSize(w, h);
      eye.aspect = w / h;
      eye.updateProjectionMatrix();
      again();
    };
    const observer = new ResizeObserver(size);
    observer.observe(element);
    size();
    controls.addEventListener('change', again);
    const before = new THREE.Vector3();
    controls.addEventListener('start', () => before.copy(eye.position));
    controls.addEventListener(
      'end',
      () => before.distanceTo(eye.position) > 0.01 && useStage.setState({ camera: 'free' }),
    );
    view.current = { camera: eye, controls, again };
    const draw = (now: number): void => {
      if (stopped) return;
      request = requestAnimationFrame(draw);
      controls.update();
      if (shown.length !== levels.now.length) shown = new Float32Array(shownLevels());
      let moved = counted !== shownCount();
      counted = shownCount();
      const share = Math.min(1, (now - last) / FOLLOW_MS);
      last = now;
      const wanted = shownLevels();
      for (let i = 0; i < shown.length; i++) {
        const gap = (wanted[i] as number) - (shown[i] as number);
        if (gap === 0) continue;
        moved = true;
        shown[i] =
          Math.abs(gap) < 0.002 ? (wanted[i] as number) : (shown[i] as number) + gap * share;
      }
      const since = now - lastDrawn;
      if (!moved && !dirty) {
        if (sharp || since < STILL_MS) return;
        sharp = true;
        renderer.setPixelRatio(whole);
        renderer.render(made.scene, eye);
        return;
      }
      if (sharp && ratio < whole && (moved || since < PAUSE_MS)) {
        sharp = false;
        renderer.setPixelRatio(ratio);
      }
      const start = performance.now();
      if (moved) made.light(shown);
      dirty = false;
      renderer.render(made.scene, eye);
      spaceStats.frames++;
      spaceStats.ms.push(performance.now() - start);
      if (spaceStats.ms.length > 600) spaceStats.ms.shift();
      // While it keeps drawing, the time from one picture to the next says what a picture costs, wherever it is made.
      lastDrawn = now;
      slow = since > PAUSE_MS ? 0 : since > SLOW_MS ? slow + 1 : Math.max(0, slow - 1);
      if (slow >= SLOW_FRAMES && ratio > LEAST_RATIO) {
        ratio = Math.max(LEAST_RATIO, ratio * 0.8);
        spaceStats.ratio = ratio;
        slow = 0;
        size();
      }
    };
    made.light(shown);
    request = requestAnimationFrame(draw);
    return () => {
      stopped = true;
      cancelAnimationFrame(request);
      observer.disconnect();
      controls.dispose();
      made.dispose();
      renderer.dispose();
      renderer.domElement.remove();
      built.current = null;
      view.current = null;
    };
  }, [lamps, pieces, bounds]);

  useEffect(() => {
    const now = view.current;
    if (!now || camera === 'free') return;
    const [from, at] = CAMERAS[camera];
    now.camera.position.set(...from);
    now.controls.target.set(...at);
    now.controls.update();
    now.again();
  }, [camera, lamps]);

  useEffect(() => {
    built.current?.mark(new Set(selection));
    view.current?.again();
  }, [selection, lamps]);
  useEffect(() => view.current?.again(), [blind]);

  /** The fixture near a pixel, and its place on the screen. */
  const near = (x: number, y: number): { id: string; x: number; y: number } | undefined => {
    const [now, element] = [view.current, box.current];
    if (!now || !element || !built.current) return undefined;
    let best: { id: string; x: number; y: number } | undefined;
    let distance = HIT_PX;
    for (const { id, at } of built.current.positions()) {
      const p = at.project(now.camera);
      if (p.z > 1) continue;
      const q = {
        x: ((p.x + 1) / 2) * element.clientWidth,
        y: ((1 - p.y) / 2) * element.clientHeight,
      };
      const d = Math.hypot(q.x - x, q.y - y);
      if (d < distance) {
        distance = d;
        best = { id, ...q };
      }
    }
    return best;
  };
  const onFloor = (x: number, y: number): { x: number; y: number } | undefined => {
    const [now, element] = [view.current, box.current];
    if (!now || !element || !built.current) return undefined;
    const ray = new THREE.Raycaster();
    ray.setFromCamera(
      new THREE.Vector2((x / element.clientWidth) * 2 - 1, 1 - (y / element.clientHeight) * 2),
      now.camera,
    );
    const hit = ray.ray.intersectPlane(built.current.floor, new THREE.Vector3());
    return hit ? { x: hit.x, y: -hit.z } : undefined;
  };

  const down = useRef<{ x: number; y: number } | null>(null);
  const place = (e: React.PointerEvent): { x: number; y: number } => {
    const r = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - r.left, y: e.clientY - r.top };
  };
  if (failed) {
    return (
      <div className="grid h-full place-items-center p-8 text-center text-muted">
        <div className="max-w-sm">
          <p className="font-semibold text-soft">
            This browser has no way to draw the stage in space
          </p>
          <p className="mt-1">The plan shows the same light.</p>
          <button
            type="button"
            onClick={() => useStage.setState({ view: 'plan' })}
            className="mt-3 h-8 rounded-md bg-raised px-3 text-soft hover:bg-lift"
          >
            Open the plan
          </button>
        </div>
      </div>
    );
  }
  return (
    <div
      ref={box}
      data-testid="space"
      data-theme="night"
      role="img"
      aria-label={`The stage in space with ${lamps.length} fixtures, ${selection.length} selected. Drag to look round, click to select.`}
      className="relative size-full touch-none overflow-hidden bg-ink text-text"
      style={{ cursor: tool === 'aim' || tool === 'spot' ? 'crosshair' : 'default' }}
      onPointerDown={(e) => (down.current = place(e))}
      onPointerMove={(e) => {
        if (e.buttons !== 0) return;
        const p = place(e);
        const found = near(p.x, p.y);
        const fixture = found ? show.fixtures.get(found.id) : undefined;
        setHover(
          found && fixture
            ? { x: found.x, y: found.y, text: `${fixture.number} ${fixture.label}` }
            : null,
        );
      }}
      onPointerUp={(e) => {
        const from = down.current;
        down.current = null;
        const p = place(e);
        if (!from || Math.hypot(p.x - from.x, p.y - from.y) > DRAG_PX || e.button !== 0) return;
        if (tool === 'spot') {
          const at = onFloor(p.x, p.y);
          if (at) askSpot(at);
          return;
        }
        if (tool === 'aim') {
          const at = onFloor(p.x, p.y);
          if (at)
            void said({
              command: 'aim',
              points: [{ x: Math.round(at.x * 100) / 100, y: Math.round(at.y * 100) / 100, z: 0 }],
              flip: false,
            });
          return;
        }
        const found = near(p.x, p.y);
        if (!found) {
          if (selection.length > 0 && !e.ctrlKey && !e.metaKey && !e.shiftKey) select([]);
        } else if (e.ctrlKey || e.metaKey || e.shiftKey) toggleSelected(found.id);
        else select(selection.length === 1 && selection[0] === found.id ? [] : [found.id]);
      }}
      onPointerLeave={() => setHover(null)}
    >
      {hover && (
        <div
          className="pointer-events-none absolute z-10 -translate-x-1/2 -translate-y-full rounded-md bg-text px-2 py-0.5 text-[12px] font-medium whitespace-nowrap text-ink"
          style={{ left: hover.x, top: hover.y - 14 }}
        >
          {hover.text}
        </div>
      )}
    </div>
  );
}
