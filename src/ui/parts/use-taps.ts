'use client';
import { useRef } from 'react';

/** A longer pause begins a new count. */
const PAUSE_MS = 2500;
const TAPS_KEPT = 8;
const FEWEST = 3;

/** @param onBeat told from the third tap on, with the mean time between taps in seconds @returns to be called at each tap */
export function useTaps(onBeat: (beat_s: number) => void): () => void {
  const taps = useRef<number[]>([]);
  return () => {
    const now = performance.now();
    const last = taps.current.at(-1) ?? 0;
    taps.current = now - last > PAUSE_MS ? [now] : [...taps.current, now].slice(-TAPS_KEPT);
    const { length } = taps.current;
    if (length >= FEWEST) onBeat((now - (taps.current[0] ?? now)) / (length - 1) / 1000);
  };
}
