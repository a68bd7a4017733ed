/** What is drawn along a track beside its cues: the storyboard of light, and where it is. */
'use client';
import { useCallback, useLayoutEffect, useMemo, useRef } from 'react';
import { useTrackView } from '../../state/track';
import type { Ribbon } from './ribbon';
import { useFrames, type Position } from './use-position';

/** Moments of a storyboard. */
export const SAMPLES = 900;
/** Height of a strip. */
export const STRIP_PX = 18;

/** The whole storyboard, a pixel a moment, to be drawn from. */
function pictureOf(ribbons: readonly Ribbon[]): HTMLCanvasElement {
  const c = document.createElement('canvas');
  c.width = SAMPLES;
  c.height = Math.max(1, ribbons.length * STRIP_PX);
  const g = c.getContext('2d');
  ribbons.forEach(({ rgb }, row) => {
    for (let i = 0; g && i < SAMPLES; i++) {
      g.fillStyle = `rgb(${rgb[i * 3] ?? 0} ${rgb[i * 3 + 1] ?? 0} ${rgb[i * 3 + 2] ?? 0})`;
      g.fillRect(i, row * STRIP_PX + 1, 1, STRIP_PX - 2);
    }
  });
  return c;
}

/** One strip a part of the rig: what of it is in sight, and no more, however far it is zoomed in. */
export function Strips({
  ribbons,
  x,
  width,
  to_s,
}: {
  ribbons: readonly Ribbon[];
  x: (s: number) => number;
  width: number;
  to_s: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const picture = useMemo(
    () => (typeof document === 'undefined' ? null : pictureOf(ribbons)),
    [ribbons],
  );
  const [left, right] = [x(0), Math.max(x(0) + 1, x(to_s))];
  const height = Math.max(1, ribbons.length * STRIP_PX);
  useLayoutEffect(() => {
    const c = canvas.current;
    const g = c?.getContext('2d');
    if (!c || !g || !picture) return;
    if (c.width !== width || c.height !== height) [c.width, c.height] = [width, height];
    g.clearRect(0, 0, width, height);
    const [from, to] = [Math.max(0, left), Math.min(width, right)];
    if (to <= from) return;
    const each = SAMPLES / (right - left);
    g.drawImage(
      picture,
      (from - left) * each,
      0,
      (to - from) * each,
      height,
      from,
      0,
      to - from,
      height,
    );
  }, [picture, left, right, width, height]);
  return (
    <canvas
      ref={canvas}
      data-testid="track-ribbon"
      aria-label={`What the light does along the track: ${ribbons.map((r) => r.name).join(', ')}`}
      role="img"
      className="absolute top-0 left-0 max-w-none"
      style={{ width, height }}
    />
  );
}

/** Where the list is, and where the cursor stands. */
export function Lines({
  position,
  x,
  height,
}: {
  position: Position;
  x: (s: number) => number;
  height: number;
}) {
  const head = useRef<HTMLDivElement>(null);
  const cursor_s = useTrackView((s) => s.cursor_s);
  const draw = useCallback(() => {
    const at = position.now();
    if (!head.current) return;
    head.current.style.display = at === null ? 'none' : 'block';
    if (at !== null) head.current.style.transform = `translateX(${x(at)}px)`;
  }, [position, x]);
  useFrames(position.runs, draw);
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" style={{ height }}>
      <div className="absolute inset-y-0 w-px bg-standby" style={{ left: x(cursor_s) }} />
      <div ref={head} data-testid="track-head" className="absolute inset-y-0 left-0 w-0.5 bg-lime">
        <i className="absolute top-0 left-1/2 -translate-x-1/2 border-x-[6px] border-t-8 border-x-transparent border-t-lime" />
      </div>
    </div>
  );
}
