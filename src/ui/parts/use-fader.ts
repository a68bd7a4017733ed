'use client';
import { clamp } from '@/core/numbers';
import { useState } from 'react';
import { useDrag } from './use-drag';

const STEPS: Record<string, number> = {
  ArrowUp: 0.01,
  ArrowRight: 0.01,
  ArrowDown: -0.01,
  ArrowLeft: -0.01,
  PageUp: 0.1,
  PageDown: -0.1,
};
/** A level to the thousandth. */
const levelOf = (level: number): number => Math.round(clamp(level) * 1000) / 1000;

interface Grip {
  x: number;
  y: number;
  from: number;
  way_px: number;
}

/**
 * A fader under a hand: it moves by as much as the hand does, so that a touch anywhere on it changes nothing yet.
 * @param level what it stands at, 0 to 1
 * @param knob_px how much of the track's length the knob takes
 * @param lies along the line instead of upright
 * @param onMove each step; false ends this drag: what it belonged to is over
 * @returns where to draw the knob, which is under the hand while it is dragged, and the handlers of the track
 */
export function useFader(
  level: number,
  disabled: boolean,
  knob_px: number,
  onMove: (level: number) => unknown,
  {
    lies = false,
    onBegin,
    onEnd,
  }: { lies?: boolean; onBegin?: () => void; onEnd?: () => void } = {},
) {
  const [held, setHeld] = useState<number | null>(null);
  const handlers = useDrag<Grip & { at: number; over: boolean }>({
    begin: (e) => {
      if (disabled) return null;
      const way_px = (lies ? e.currentTarget.clientWidth : e.currentTarget.clientHeight) - knob_px;
      if (way_px <= 0) return null;
      onBegin?.();
      setHeld(level);
      return { x: e.clientX, y: e.clientY, from: level, way_px, at: level, over: false };
    },
    move: (grip, e) => {
      if (grip.over || disabled) return;
      const at = levelOf(
        grip.from + (lies ? e.clientX - grip.x : grip.y - e.clientY) / grip.way_px,
      );
      if (at === grip.at) return;
      grip.at = at;
      setHeld(at);
      if (onMove(at) !== false) return;
      grip.over = true;
      setHeld(null);
    },
    end: () => {
      setHeld(null);
      onEnd?.();
    },
  });
  return {
    shown: held ?? level,
    held: held !== null,
    handlers: {
      ...handlers,
      onWheel: (e: React.WheelEvent) => {
        if (!disabled) onMove(levelOf(level - Math.sign(e.deltaY) * 0.01));
      },
      onKeyDown: (e: React.KeyboardEvent) => {
        const step = STEPS[e.key];
        if (disabled || (step === undefined && e.key !== 'Home' && e.key !== 'End')) return;
        onMove(step === undefined ? Number(e.key === 'End') : levelOf(level + step));
        e.preventDefault();
        e.stopPropagation();
      },
    },
  };
}
