/** Dates and times as people read them, in the time of the machine that shows them. */
import { endOfDay, format, isToday, parseISO } from 'date-fns';

type At = string | number | Date;

/** `27 Nov`. */
export const shortDay = (at: At): string => format(at, 'd MMM');
/** `27 Nov 2026`. */
export const fullDay = (at: At): string => format(at, 'd MMM yyyy');
/** A day as a date field has it, wherever the machine stands. @param day `2026-11-27` @returns `27 Nov 2026` */
export const sayDay = (day: string): string => fullDay(parseISO(day));
/** `27 November 2026`. */
export const longDay = (at: At): string => format(at, 'd MMMM yyyy');
/** `19:32`. */
export const hourMinute = (at: At): string => format(at, 'HH:mm');
/** `19:32:05`, as cues are told their time of day. */
export const timeOfDay = (at: At): string => format(at, 'HH:mm:ss');

/** When something was: today by the second, before that by the day. */
export const when = (at: At): string =>
  isToday(at) ? timeOfDay(at) : `${shortDay(at)}, ${hourMinute(at)}`;

/** When something was said or held: today to the minute, before that with its day. */
export const sinceWhen = (at: At): string => (isToday(at) ? hourMinute(at) : when(at));

/** The day of a moment, as a date field has it; of {@link lastMoment} the day that was given. */
export const dayField = (at: At): string => format(at, 'yyyy-MM-dd');

/**
 * The last moment of a day.
 * @param day as a date field has it, `2026-11-27`; empty for none
 */
export const lastMoment = (day: string): string | null =>
  day === '' ? null : endOfDay(parseISO(day)).toISOString();
