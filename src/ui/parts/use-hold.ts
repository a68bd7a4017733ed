'use client';
import { useEffect, useRef } from 'react';
import { useDrag } from './use-drag';

/**
 * A key that holds while it is pressed, by pointer, finger or keyboard: it ends with the finger that began it, also where
 * that is taken away by the system. A finger that stays on it asks for no menu.
 * @param hold told once when it goes down, and once when it is up: also where the key goes away meanwhile
 */
export function useHold(disabled: boolean, hold: (on: boolean) => void) {
  const keyed = useRef(false);
  const drag = useDrag<true>({
    begin: () => (disabled ? null : (hold(true), true)),
    move: () => undefined,
    end: () => hold(false),
  });
  const up = (): void => {
    if (keyed.current) hold(false);
    keyed.current = false;
  };
  const latest = useRef(up);
  useEffect(() => {
    latest.current = up;
  });
  useEffect(() => () => latest.current(), []);
  return {
    ...drag,
    onKeyDown: (e: React.KeyboardEvent) => {
      if ((e.key !== 'Enter' && e.key !== ' ') || e.repeat || disabled) return;
      e.preventDefault();
      e.stopPropagation();
      keyed.current = true;
      hold(true);
    },
    onKeyUp: up,
    onBlur: up,
    onPointerDown: (e: React.PointerEvent) => {
      if (e.pointerType === 'touch') e.stopPropagation();
      drag.onPointerDown(e);
    },
    onContextMenu: (e: React.MouseEvent) => {
      if ((e.nativeEvent as PointerEvent).pointerType !== 'touch') return;
      e.preventDefault();
      e.stopPropagation();
    },
  };
}
