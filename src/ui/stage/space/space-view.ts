/** The stage in space on a canvas: an eye that a hand turns, levels that it follows, and what is under a pixel. */
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { shownCount, shownLevels } from '../../state/shown';
import { Pixels } from './pixels';
import type { SpaceScene } from './scene';

const FOLLOW_MS = 60;
/** Nearer to its level than this it is there. */
const THERE = 0.002;
const HIT_PX = 22;
/** An eye that a hand has moved less than this has not been moved, in metres. */
const MOVED_M = 0.01;
const MOST_RATIO = 2;
const KEPT_FRAMES = 600;

type Triple = [x: number, y: number, z: number];
/** An eye and what it looks at, in world metres (x, up, towards the audience). */
export type Look = readonly [eye: Triple, at: Triple];

/** Drawn frames and how long they took, for measuring. */
const spaceStats = { frames: 0, ms: [] as number[], ratio: 1 };
if (typeof window !== 'undefined')
  (window as typeof window & { wingmanSpace?: typeof spaceStats }).wingmanSpace = spaceStats;

function drawnInSoftware(): boolean {
  const gl = document.createElement('canvas').getContext('webgl2');
  const info = gl?.getExtension('WEBGL_debug_renderer_info');
  const name = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  gl?.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software|basic render/i.test(name);
}

/** Levels as they are drawn: led after those that are known, so that 44 steps a second are one movement. */
class Followed {
  levels = new Float32Array(shownLevels());
  private counted: string | number = -1;
  private last_ms = performance.now();

  /** @returns whether any of them moved */
  goTo(now_ms: number): boolean {
    const wanted = shownLevels();
    if (this.levels.length !== wanted.length) this.levels = new Float32Array(wanted);
    let moved = this.counted !== shownCount();
    this.counted = shownCount();
    const share = Math.min(1, (now_ms - this.last_ms) / FOLLOW_MS);
    this.last_ms = now_ms;
    for (let i = 0; i < wanted.length; i++) {
      const to = wanted[i] as number;
      const from = this.levels[i] as number;
      if (to === from) continue;
      moved = true;
      this.levels[i] = Math.abs(to - from) < THERE ? to : from + (to - from) * share;
    }
    return moved;
  }
}

/** Space on a canvas, seen from an eye that people move. */
export class SpaceView {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly eye = new THREE.PerspectiveCamera(42, 1, 0.1, 120);
  private readonly controls: OrbitControls;
  private readonly observer: ResizeObserver;
  private readonly pixels: Pixels;
  private readonly followed = new Followed();
  private dirty = true;
  private request = 0;

  /**
   * @param onTurned a hand has turned it
   * @throws where this browser draws nothing in space
   */
  constructor(
    private readonly element: HTMLElement,
    private readonly made: SpaceScene,
    onTurned: () => void,
  ) {
    const whole = Math.min(window.devicePixelRatio || 1, MOST_RATIO);
    const software = drawnInSoftware();
    this.renderer = new THREE.WebGLRenderer({
      antialias: !software && whole < MOST_RATIO,
      powerPreference: 'high-performance',
    });
    this.pixels = new Pixels(whole, software);
    const { domElement } = this.renderer;
    domElement.setAttribute('aria-hidden', 'true');
    element.appendChild(domElement);
    this.controls = this.turnedByHand(domElement, onTurned);
    this.observer = new ResizeObserver(this.size);
    this.observer.observe(element);
    this.size();
    made.light(this.followed.levels);
    this.request = requestAnimationFrame(this.frame);
  }

  private turnedByHand(canvas: HTMLElement, onTurned: () => void): OrbitControls {
    const controls = new OrbitControls(this.eye, canvas);
    controls.maxPolarAngle = Math.PI * 0.53;
    controls.minDistance = 1.5;
    controls.maxDistance = 45;
    controls.mouseButtons = {
      LEFT: THREE.MOUSE.ROTATE,
      MIDDLE: THREE.MOUSE.PAN,
      RIGHT: THREE.MOUSE.PAN,
    };
    const before = new THREE.Vector3();
    controls.addEventListener('change', this.again);
    controls.addEventListener('start', () => before.copy(this.eye.position));
    controls.addEventListener('end', () => {
      this.tellLook();
      if (before.distanceTo(this.eye.position) > MOVED_M) onTurned();
    });
    return controls;
  }

  readonly again = (): void => {
    this.dirty = true;
  };

  private readonly size = (): void => {
    const { clientWidth: w, clientHeight: h } = this.element;
    if (w === 0 || h === 0) return;
    this.renderer.setPixelRatio(this.pixels.now);
    this.renderer.setSize(w, h);
    this.eye.aspect = w / h;
    this.eye.updateProjectionMatrix();
    this.again();
  };

  private readonly frame = (now_ms: number): void => {
    this.request = requestAnimationFrame(this.frame);
    this.controls.update();
    const moved = this.followed.goTo(now_ms);
    if (moved || this.dirty) this.draw(now_ms, moved);
    else if (this.pixels.rests(now_ms)) {
      this.renderer.setPixelRatio(this.pixels.now);
      this.renderer.render(this.made.scene, this.eye);
    }
  };

  private draw(now_ms: number, moved: boolean): void {
    if (this.pixels.begins(now_ms, moved)) this.renderer.setPixelRatio(this.pixels.now);
    const start_ms = performance.now();
    if (moved) this.made.light(this.followed.levels);
    this.dirty = false;
    this.renderer.render(this.made.scene, this.eye);
    spaceStats.frames++;
    spaceStats.ms.push(performance.now() - start_ms);
    if (spaceStats.ms.length > KEPT_FRAMES) spaceStats.ms.shift();
    if (!this.pixels.ended(now_ms)) return;
    spaceStats.ratio = this.pixels.ratio;
    this.size();
  }

  get look(): Look {
    return [this.eye.position.toArray(), this.controls.target.toArray()];
  }

  lookFrom([eye, at]: Look): void {
    this.eye.position.set(...eye);
    this.controls.target.set(...at);
    this.controls.update();
    this.tellLook();
    this.again();
  }

  /** What is looked at cannot be read from a picture. */
  private tellLook(): void {
    this.renderer.domElement.dataset.look = this.look.map((p) => p.map((m) => m.toFixed(2))).join();
  }

  /** Units that are selected. */
  mark(ids: ReadonlySet<string>): void {
    this.made.mark(ids);
    this.again();
  }

  /** The fixture near a pixel of its element, and where that is there. */
  near(x: number, y: number): { id: string; x: number; y: number } | undefined {
    const { clientWidth, clientHeight } = this.element;
    let best: { id: string; x: number; y: number } | undefined;
    let nearest = HIT_PX;
    for (const { id, at } of this.made.positions()) {
      const p = at.project(this.eye);
      if (p.z > 1) continue;
      const q = { x: ((p.x + 1) / 2) * clientWidth, y: ((1 - p.y) / 2) * clientHeight };
      const away = Math.hypot(q.x - x, q.y - y);
      if (away >= nearest) continue;
      nearest = away;
      best = { id, ...q };
    }
    return best;
  }

  /** The place of the stage floor under a pixel, in metres of the plan; undefined in the sky. */
  onFloor(x: number, y: number): { x: number; y: number } | undefined {
    const { clientWidth, clientHeight } = this.element;
    const ray = new THREE.Raycaster();
    ray.setFromCamera(
      new THREE.Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2),
      this.eye,
    );
    const hit = ray.ray.intersectPlane(this.made.floor, new THREE.Vector3());
    return hit ? { x: hit.x, y: -hit.z } : undefined;
  }

  dispose(): void {
    cancelAnimationFrame(this.request);
    this.observer.disconnect();
    this.controls.dispose();
    this.made.dispose();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }
}
