'use client';
import { useEffect, useRef } from 'react';

interface Drag<T> {
  pointer: number;
  start: T;
}

/**
 * One drag of one pointer, from its press to its end wherever that comes: outside of the window, by a gesture of the
 * system, or by another hand's press being ignored. The browser's own dragging is kept away (frame/no-native-drag.ts).
 * @param begin what the drag needs to know of its beginning, or null where it begins nothing
 * @param move each step, with what `begin` gave @param end once for every drag that began; `torn` where the system took
 * the pointer away: what is written only at the end of a drag stays as it was then
 */
export function useDrag<T>({
  begin,
  move,
  end,
}: {
  begin: (e: React.PointerEvent) => T | null;
  move: (start: T, e: React.PointerEvent) => void;
  end?: ((start: T, torn: boolean) => void) | undefined;
}) {
  const drag = useRef<Drag<T> | null>(null);
  const latest = useRef(end);
  useEffect(() => {
    latest.current = end;
  });
  // What goes away under a hand, as a piece of a sheet that another finger turns, is let go.
  useEffect(
    () => () => {
      const going = drag.current;
      drag.current = null;
      if (going) latest.current?.(going.start, true);
    },
    [],
  );
  const finish = (e: React.PointerEvent, torn: boolean): void => {
    if (drag.current?.pointer !== e.pointerId) return;
    const { start } = drag.current;
    drag.current = null;
    end?.(start, torn);
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
      if (e.buttons === 0) finish(e, false);
      else move(drag.current.start, e);
    },
    onPointerUp: (e: React.PointerEvent) => finish(e, false),
    onPointerCancel: (e: React.PointerEvent) => finish(e, true),
    onLostPointerCapture: (e: React.PointerEvent) => finish(e, true),
  };
}
