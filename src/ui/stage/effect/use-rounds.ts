'use client';
import { useEffect } from 'react';
import { hertz } from '@/core/effects/wave';
import { useScreen } from '../../state/store';
import type { EffectDraft } from '../../state/trying';

/**
 * Draws with every frame of the screen; once, where people want nothing to move.
 * @param draw told how many rounds have gone by; the same function until what it draws changes
 */
export function useRounds(speed: EffectDraft['speed'], draw: (rounds: number) => void): void {
  const tempo = useScreen((s) => s.playback.tempo_bpm);
  useEffect(() => {
    const hz = hertz(speed, tempo);
    const began = performance.now();
    let request = 0;
    const next = (now: number): void => {
      draw(((now - began) / 1000) * hz);
      if (!window.matchMedia('(prefers-reduced-motion: reduce)').matches)
        request = requestAnimationFrame(next);
    };
    request = requestAnimationFrame(next);
    return () => cancelAnimationFrame(request);
  }, [speed, tempo, draw]);
}
