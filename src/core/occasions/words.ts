/** When an occasion comes, in words. */
import { sayDay } from '../dates.ts';
import type { OccasionRow } from './rows.ts';

/** By their number in `days`: 0 is Sunday. */
export const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const;

const sign = (n: number): string => (n < 0 ? '−' : '+');
/** `19:30:00`, `sunset − 10 min`. */
export function sayAt(at: OccasionRow['at']): string {
  if (at.by === 'clock') return at.time;
  if (at.plus_min === 0) return at.event;
  return `${at.event} ${sign(at.plus_min)} ${Math.abs(at.plus_min)} min`;
}

/** From Monday on, as a week of rehearsals goes: `Mon Tue Sun`. */
const sayDays = (days: readonly number[]): string =>
  [...days]
    .sort((a, b) => ((a + 6) % 7) - ((b + 6) % 7))
    .map((d) => WEEKDAYS[d])
    .join(' ');

/** `24 Dec 2026 to 6 Jan 2027`, `from 24 Dec 2026`, `until 6 Jan 2027`, `on 24 Dec 2026`; undefined for all of time. */
function sayDates({ from, to }: Pick<OccasionRow, 'from' | 'to'>): string | undefined {
  if (from !== undefined && to !== undefined)
    return from === to ? `on ${sayDay(from)}` : `${sayDay(from)} to ${sayDay(to)}`;
  if (from !== undefined) return `from ${sayDay(from)}`;
  return to === undefined ? undefined : `until ${sayDay(to)}`;
}

/** `19:30:00, Fri Sat, 24 Dec 2026 to 6 Jan 2027`. */
export const sayWhen = (o: Pick<OccasionRow, 'at' | 'days' | 'from' | 'to'>): string =>
  [sayAt(o.at), o.days && sayDays(o.days), sayDates(o)].filter(Boolean).join(', ');
