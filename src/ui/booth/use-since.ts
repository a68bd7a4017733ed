'use client';
import { useNow } from '../parts/use-now';
import { useScreen } from '../state/store';

/** Seconds of something that the player told as of when it told it: clocks of devices may be wrong, what has passed is not. */
export function useSince(): (since_s: number) => number {
  const at = useScreen((s) => s.playbackAt);
  useNow(500);
  return (since_s) => since_s + (performance.now() - at) / 1000;
}
