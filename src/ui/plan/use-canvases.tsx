/** The three canvases that a plan is drawn on, and the room that they take. */
'use client';
import { useMemo, useRef } from 'react';
import { useBox } from '../parts/use-box';
import type { Canvases } from './use-layers';

/** The plan’s canvases, in their order from the ground. */
export function useCanvases() {
  const box = useRef<HTMLDivElement>(null);
  const ground = useRef<HTMLCanvasElement>(null);
  const light = useRef<HTMLCanvasElement>(null);
  const units = useRef<HTMLCanvasElement>(null);
  const refs = useMemo<Canvases>(() => ({ ground, light, units }), []);
  const size = useBox(box);
  return { box, size, refs };
}

/** @param units what lies on top and takes the hand; absent: nothing does */
export function LayerCanvases({
  refs: { ground, light, units },
  size: { width, height },
  top = {},
}: {
  refs: Canvases;
  size: { width: number; height: number };
  top?: React.CanvasHTMLAttributes<HTMLCanvasElement> & {
    'data-testid'?: string;
    'data-view'?: string;
  };
}) {
  const style = { width, height };
  const under = 'absolute top-0 left-0';
  return (
    <>
      <canvas ref={ground} aria-hidden="true" style={style} className={under} />
      <canvas ref={light} aria-hidden="true" style={style} className={under} />
      <canvas
        ref={units}
        {...(top.role === undefined ? { 'aria-hidden': true } : {})}
        {...top}
        style={{ ...style, ...top.style }}
        className="relative block touch-none"
      />
    </>
  );
}
