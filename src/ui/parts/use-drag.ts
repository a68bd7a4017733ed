'use client';
import { useRef } from 'react';

interface Drag<T> {
  pointer: number;
  start: T;
}

/**
 * One drag of one pointer, from its press to its end wherever that comes: outside of the window, by a gesture of the
 * system, or by another hand's press being ignored. The browser's own dragging is kept away (frame/no-native-drag.ts).
 * @param begin what the drag needs to know of its beginning, or null where it begins nothing
 * @param move each step, with what `begin` gave @param end once for every drag that began
 */
export function useDrag<T>({ begin, move, end }: { begin: (e: React.PointerEvent) => T | null; move: (start: T, e: React.PointerEvent) => void; end?: ((start: T) => void) | undefined }) {
  const drag = useRef<Drag<T> | null>(null);
  const finish = (e: React.PointerEvent): void => {
    if (drag.current?.pointer !== e.pointerId) return;
    const { start } = drag.current;
    drag.current = null;
    end?.(start);
  };
  return {
    onPointerDown: (e: React.PointerEvent) => {
      // The main button, the pen's tip or the first finger on this part.
      if (e.button !== 0 || drag.current) return;
      const start = begin(e);
      if (start === null) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { pointer: e.pointerId, start };
    },
    onPointerMove: (e: React.PointerEvent) => {
      if (drag.current?.pointer !== e.pointerId) return;
      // Let go where nobody told us.
      if (e.buttons === 0) finish(e);
      else move(drag.current.start, e);
    },
    onPointerUp: finish,
    onPointerCancel: finish,
    onLostPointerCapture: finish,
  };
}
