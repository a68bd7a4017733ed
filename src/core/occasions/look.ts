/** Looking at the clock again and again: what has come since the last look, whatever the clock did meanwhile. */
import { addDays, startOfDay } from 'date-fns';

/** What was missed for longer, while the machine slept, is not made up for. */
const SLEPT_MS = 60_000;
/** A clock that is put right goes back by less; further back, and it was wrong before. */
const PUT_RIGHT_MS = 60_000;

/**
 * From when on what has come counts at this look, up to `now`: from the last look; not from further back than a minute; and
 * where the clock went back a little, nothing that has come comes once more until it is past where it was.
 * @param looked up to when it was looked last
 * @returns `from`, left out, and up to when it is looked now, which the next look is given
 */
export function lookFrom(looked: Date, now: Date): { from: Date; looked: Date } {
  const back_ms = looked.getTime() - now.getTime();
  if (back_ms > 0)
    return back_ms <= PUT_RIGHT_MS ? { from: looked, looked } : { from: now, looked: now };
  return { from: new Date(Math.max(looked.getTime(), now.getTime() - SLEPT_MS)), looked: now };
}

/**
 * A time of day on a day, in the time of this machine. An hour that summer time leaves out comes with the hour after it; of
 * one that comes twice the first counts.
 * @param time `19:30:00` @param day any moment of it
 */
export function momentOfDay(time: string, day: Date): Date {
  const [h = 0, m = 0, s = 0] = time.split(':').map(Number);
  return new Date(day.getFullYear(), day.getMonth(), day.getDate(), h, m, s);
}

/** When a time of day came between two moments that lie less than a day apart: after `from`, and not after `to`; undefined where it did not. */
export const cameBetween = (time: string, from: Date, to: Date): Date | undefined =>
  [-1, 0]
    .map((n) => momentOfDay(time, addDays(startOfDay(to), n)))
    .find((at) => at > from && at <= to);
