/** Dims the whole screen for dark booths; over everything, and in nobody's way. */
'use client';
import { useEffect } from 'react';
import type { Look } from '@/core/crew/look';
import { useLook } from '../state/look';

/** Whether the hand is on the pointer or on the keys: what was clicked needs no ring, what is gone to by keys does. */
function useHand(): void {
  useEffect(() => {
    const on = (hand: 'pointer' | 'keys') => () => {
      document.documentElement.dataset.hand = hand;
    };
    const [pointer, keys] = [on('pointer'), on('keys')];
    window.addEventListener('pointerdown', pointer, true);
    window.addEventListener('keydown', keys, true);
    return () => {
      window.removeEventListener('pointerdown', pointer, true);
      window.removeEventListener('keydown', keys, true);
    };
  }, []);
}

/** @param first the look that the page was written in */
export function ScreenLight({ first }: { first: Look }) {
  useEffect(() => useLook.setState(first), [first]);
  useHand();
  const light = useLook((s) => s.light);
  return light < 1 ? (
    <div
      aria-hidden="true"
      data-testid="screen-light"
      className="pointer-events-none fixed inset-0 z-[100] bg-black"
      style={{ opacity: 1 - light }}
    />
  ) : null;
}
