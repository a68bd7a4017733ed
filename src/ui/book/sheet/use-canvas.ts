/** The canvas of the sheet's cells: as large as what is in sight, drawn again when anything on it changes. */
'use client';
import { useCallback, useEffect, useLayoutEffect, type RefObject } from 'react';
import { coloursAt } from '../../parts/tokens';
import { useLook } from '../../state/look';
import { drawSheet, HEAD, type Drawn } from '../draw-sheet';

/** The columns that every cue has: number, name, times, trigger. */
export const LEFT = 256;

/** What the canvas shows; without numbers while they are made. */
export type Picture = Omit<Drawn, 'colours' | 'x' | 'y' | 'width' | 'height' | 'sheet'> & {
  sheet: Drawn['sheet'] | null;
};

/** Gives a canvas the size of what it shows, in the pixels of this screen. */
function fit(canvas: HTMLCanvasElement, width: number, height: number, scale: number): void {
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
  if (canvas.width === w && canvas.height === h) return;
  canvas.width = w;
  canvas.height = h;
  canvas.style.width = `${width}px`;
  canvas.style.height = `${height}px`;
}

/** @param picture kept by the caller: a new one is drawn @returns what draws it again, for a scroll */
export function useSheetCanvas(
  scroll: RefObject<HTMLDivElement | null>,
  canvas: RefObject<HTMLCanvasElement | null>,
  size: { width: number; height: number },
  picture: Picture,
): () => void {
  const theme = useLook((s) => s.theme);
  const draw = useCallback(() => {
    const [element, box] = [canvas.current, scroll.current];
    const g = element?.getContext('2d');
    if (!element || !box || !g) return;
    const width = Math.max(0, box.clientWidth - LEFT);
    const height = Math.max(0, box.clientHeight - HEAD);
    const scale = window.devicePixelRatio || 1;
    fit(element, width, height, scale);
    g.setTransform(scale, 0, 0, scale, 0, 0);
    const { sheet } = picture;
    if (!sheet) {
      g.clearRect(0, 0, width, height);
      return;
    }
    const at = { x: box.scrollLeft, y: box.scrollTop, width, height };
    drawSheet(g, { ...picture, sheet, colours: coloursAt(element), ...at });
  }, [picture, scroll, canvas]);
  useLayoutEffect(draw, [draw, size, theme]);
  // The faces of the numbers may arrive after the first drawing.
  useEffect(() => {
    let stopped = false;
    void document.fonts.ready.then(() => !stopped && draw());
    return () => {
      stopped = true;
    };
  }, [draw]);
  return draw;
}
