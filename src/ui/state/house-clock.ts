/** The time of day as the house has it: what has passed since something is right on devices whose clocks are wrong. */
'use client';
import { useNow } from '../parts/use-now';
import { useScreen } from './store';

/** @returns ms since 1970 */
export function useHouseNow(every_ms = 1000): number {
  const ahead = useScreen((s) => s.clockAhead_ms);
  return useNow(every_ms) + ahead;
}
