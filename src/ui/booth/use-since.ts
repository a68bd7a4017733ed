'use client';
import { useNow } from '../parts/use-now';
import { useScreen } from '../state/store';

/** Seconds of something that the player told as of when it told it: clocks of devices may be wrong, what has passed is not. */
export function useSince(): (since_s: number) => number {
  useNow(500);
  // With every message what has passed is told anew; who shows it is drawn by that, and by the clock.
  const at = useScreen.getState().playbackAt;
  return (since_s) => since_s + (performance.now() - at) / 1000;
}
