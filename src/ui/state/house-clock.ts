/** The time of day as the house has it: what has passed since something is right on devices whose clocks are wrong. */
'use client';
import { formatClock } from '@/core/cues/clock';
import { useNow } from '../parts/use-now';
import { useScreen } from './store';

/** @returns ms since 1970 */
export function useHouseNow(every_ms = 1000): number {
  const ahead = useScreen((s) => s.clockAhead_ms);
  return useNow(every_ms) + ahead;
}

/** As a clock on the wall shows it. @param ms since 1970 */
export function timeOfDay(ms: number): string {
  const d = new Date(ms);
  return formatClock(d.getHours() * 3600 + d.getMinutes() * 60 + d.getSeconds());
}
