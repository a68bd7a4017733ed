/** The layers of a drawn plan: the stage, drawn once; light, drawn while levels move; units with their marks, when those change. */
'use client';
import { clamp } from '@/core/numbers';
import { useEffect, type RefObject } from 'react';
import type { PieceRow } from '@/core/plan/rows';
import { shownCount, shownLevels } from '../state/shown';
import { levels } from '../state/levels';
import { useScreen } from '../state/store';
import type { Background } from './background';
import { drawFixtures, drawLight, drawStage, type Marks } from './draw';
import type { Lamp } from './light';
import type { View } from './view';

/** Levels come 25 times a second; in between the picture moves towards them, so that a fade looks like one. */
const FOLLOW_MS = 45;
/** Light is soft: half the pixels each way look the same and cost a quarter. */
const LIGHT_SCALE = 0.5;
/** Where a picture of very many units takes longer than a frame, every second or third frame has one, and the controls stay quick. */
const LONG_FRAME_MS = 24;
const SHORT_FRAME_MS = 18;
const LONGEST_STRIDE = 3;
/** So much of long or short frames, and the stride changes. */
const ENOUGH = 60;
/** Nearer than this a level is there. */
const NEAR = 0.002;
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

/** What is drawn, and where. */
export interface Drawn {
  view: View;
  size: { width: number; height: number };
  lamps: readonly Lamp[];
  pieces: readonly PieceRow[];
  background: Background | undefined;
  marks: Marks;
  /** The line of the plan that is chosen. */
  chosen: string | null;
}
/** Ground, light and units, each drawn when it changes. */
export interface Canvases {
  ground: RefObject<HTMLCanvasElement | null>;
  light: RefObject<HTMLCanvasElement | null>;
  units: RefObject<HTMLCanvasElement | null>;
}

/** Draws now, and once more when the faces of the words have arrived. @returns to stop it */
function withFonts(draw: () => void): () => void {
  let stopped = false;
  draw();
  void document.fonts.ready.then(() => !stopped && draw());
  return () => {
    stopped = true;
  };
}

/** Moves shown levels towards the wanted ones by this share of the gap. @returns whether they are there */
function follow(shown: Float32Array, wanted: Float32Array, share: number): boolean {
  let there = true;
  for (let i = 0; i < shown.length; i++) {
    const gap = (wanted[i] as number) - (shown[i] as number);
    if (gap === 0) continue;
    if (Math.abs(gap) < NEAR) shown[i] = wanted[i] as number;
    else {
      shown[i] = (shown[i] as number) + gap * share;
      there = false;
    }
  }
  return there;
}

/** What a frame of this length adds to the wish for fewer pictures. */
function weightOf(frame_ms: number): number {
  if (frame_ms > LONG_FRAME_MS) return 4;
  return frame_ms < SHORT_FRAME_MS ? -1 : 0;
}

/** Where frames take long, every second or third has a picture; short ones bring the others back. */
class Stride {
  private length = 1;
  private turn = 0;
  private weight = 0;
  private drew = false;
  private last = performance.now();

  /** Of a frame at this moment: whether it has a picture, where there is something to draw. */
  takes(now_ms: number, wants: boolean): boolean {
    const frame_ms = now_ms - this.last;
    this.last = now_ms;
    if (this.drew) this.weight += weightOf(frame_ms);
    this.drew = false;
    if (Math.abs(this.weight) > ENOUGH) {
      this.length = clamp(this.length + Math.sign(this.weight), 1, LONGEST_STRIDE);
      this.weight = 0;
    }
    this.drew = wants && ++this.turn % this.length === 0;
    return this.drew;
  }
}

/** Light follows the levels until it is there, and is drawn no more until they move again. @returns to stop it */
function runLight(
  context: CanvasRenderingContext2D,
  { view, size, lamps }: Pick<Drawn, 'view' | 'size' | 'lamps'>,
): () => void {
  let shown = new Float32Array(shownLevels());
  let frames: string | number = -1;
  let last = performance.now();
  let settled = false;
  let request = 0;
  const stride = new Stride();
  const draw = (now: number): void => {
    request = requestAnimationFrame(draw);
    if (shown.length !== levels.now.length) shown = new Float32Array(shownLevels());
    if (frames !== shownCount()) {
      frames = shownCount();
      settled = false;
    }
    if (!stride.takes(now, !settled)) {
      if (settled) last = now;
      return;
    }
    settled = follow(shown, shownLevels(), Math.min(1, (now - last) / FOLLOW_MS));
    last = now;
    context.clearRect(0, 0, size.width, size.height);
    drawLight(context, view, lamps, shown);
    drawn.count++;
  };
  request = requestAnimationFrame(draw);
  return () => cancelAnimationFrame(request);
}

/** Draws them. */
export function useLayers({ ground, light, units }: Canvases, what: Drawn): void {
  const { view, size, lamps, pieces, background, marks, chosen } = what;
  const blind = useScreen((s) => s.programmer.blind);
  const held = useScreen((s) => s.values);
  useEffect(
    () =>
      withFonts(() => {
        const context = prepare(ground.current, size, 1);
        if (context) drawStage(context, view, pieces, background, chosen);
      }),
    [ground, size, view, pieces, background, chosen],
  );
  useEffect(
    () =>
      withFonts(() => {
        const context = prepare(units.current, size, 1);
        if (context) drawFixtures(context, view, lamps, marks);
      }),
    [units, size, view, lamps, marks],
  );
  // Blind, what you hold is drawn as well, also when no level moves.
  const mine = blind ? held : null;
  useEffect(() => {
    void mine;
    const context = prepare(light.current, size, LIGHT_SCALE);
    return context ? runLight(context, { view, size, lamps }) : undefined;
  }, [light, size, view, lamps, mine]);
}

/** Frames drawn since the page was opened, for measuring. */
const drawn = { count: 0 };
if (typeof window !== 'undefined')
  (window as typeof window & { wingmanDrawn?: typeof drawn }).wingmanDrawn = drawn;
