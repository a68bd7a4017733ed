'use client';
import { useState } from 'react';

const STEPS: Record<string, number> = { ArrowUp: 0.01, ArrowRight: 0.01, ArrowDown: -0.01, ArrowLeft: -0.01, PageUp: 0.1, PageDown: -0.1 };
const clamp = (level: number): number => Math.round(Math.min(1, Math.max(0, level)) * 1000) / 1000;

/**
 * An upright fader under a hand: it moves by as much as the hand does, so that a touch anywhere on it changes nothing yet.
 * @param level what it stands at, 0 to 1
 * @param knob_px how much of the track's height the knob takes
 * @returns where to draw the knob, which is under the hand while it is dragged, and the handlers of the track
 */
export function useFader(level: number, disabled: boolean, knob_px: number, onMove: (level: number) => void) {
  const [drag, setDrag] = useState<{ y: number; from: number; at: number } | null>(null);
  const end = (): void => setDrag(null);
  return {
    shown: drag?.at ?? level,
    handlers: {
      onPointerDown: (e: React.PointerEvent) => {
        if (disabled) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ y: e.clientY, from: level, at: level });
      },
      onPointerMove: (e: React.PointerEvent) => {
        const way = e.currentTarget.clientHeight - knob_px;
        if (!drag || disabled || way <= 0) return;
        const at = clamp(drag.from + (drag.y - e.clientY) / way);
        if (at === drag.at) return;
        setDrag({ ...drag, at });
        onMove(at);
      },
      onPointerUp: end,
      // A system gesture or a call may take the finger away.
      onPointerCancel: end,
      onWheel: (e: React.WheelEvent) => {
        if (!disabled) onMove(clamp(level - Math.sign(e.deltaY) * 0.01));
      },
      onKeyDown: (e: React.KeyboardEvent) => {
        const step = STEPS[e.key];
        if (disabled || (step === undefined && e.key !== 'Home' && e.key !== 'End')) return;
        onMove(step === undefined ? Number(e.key === 'End') : clamp(level + step));
        e.preventDefault();
        e.stopPropagation();
      },
    },
  };
}
