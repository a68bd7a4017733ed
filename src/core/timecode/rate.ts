/** Timecode: hours, minutes, seconds and frames at a rate, as seconds and back (SMPTE ST 12-1). */

import type { Rate } from './rows.ts';

/** Frames that a second of its counting has. */
export const COUNTS: Readonly<Record<Rate, number>> = {
  '24': 24,
  '25': 25,
  '29.97 drop': 30,
  '30': 30,
};
/** Frames that go by in a second of a clock. */
export const FRAMES_A_SECOND: Readonly<Record<Rate, number>> = {
  '24': 24,
  '25': 25,
  '29.97 drop': 30_000 / 1001,
  '30': 30,
};
const HOURS = 24;

/** Hours, minutes, seconds and frames, at their rate. */
export interface Timecode {
  h: number;
  m: number;
  s: number;
  f: number;
  rate: Rate;
}

/** Of each minute but every tenth, drop-frame counts no frame 0 and 1. */
const dropped = (minutes: number): number => 2 * (minutes - Math.floor(minutes / 10));

/** Frames since 00:00:00:00 that really went by. */
export function framesOf({ h, m, s, f, rate }: Timecode): number {
  const count = COUNTS[rate];
  const minutes = h * 60 + m;
  return (minutes * 60 + s) * count + f - (rate === '29.97 drop' ? dropped(minutes) : 0);
}

const framesOfDay = (rate: Rate): number =>
  HOURS * 3600 * COUNTS[rate] - (rate === '29.97 drop' ? dropped(HOURS * 60) : 0);

/** Seconds after which timecode begins again at 00:00:00:00. */
export const dayOf = (rate: Rate): number => framesOfDay(rate) / FRAMES_A_SECOND[rate];

/** Seconds of a clock since 00:00:00:00. */
export const secondsOf = (t: Timecode): number => framesOf(t) / FRAMES_A_SECOND[t.rate];

/** @param frames since 00:00:00:00; a day goes round */
export function timecodeOf(frames: number, rate: Rate): Timecode {
  const count = COUNTS[rate];
  const isDrop = rate === '29.97 drop';
  const day = framesOfDay(rate);
  let n = ((Math.floor(frames) % day) + day) % day;
  if (isDrop) {
    const TEN = 17_982;
    const tens = Math.floor(n / TEN);
    const rest = n % TEN;
    n += 18 * tens + (rest < 1800 ? 0 : 2 * Math.floor((rest - 1800) / 1798 + 1));
  }
  return {
    h: Math.floor(n / (3600 * count)),
    m: Math.floor(n / (60 * count)) % 60,
    s: Math.floor(n / count) % 60,
    f: n % count,
    rate,
  };
}

/** Whether there is such a time: 00:01:00:00 is none in drop-frame. */
export const isTimecode = ({ h, m, s, f, rate }: Timecode): boolean =>
  h >= 0 &&
  h < HOURS &&
  m >= 0 &&
  m < 60 &&
  s >= 0 &&
  s < 60 &&
  f >= 0 &&
  f < COUNTS[rate] &&
  !(rate === '29.97 drop' && m % 10 !== 0 && s === 0 && f < 2);

const two = (n: number): string => String(n).padStart(2, '0');
/** `01:00:12:05`; drop-frame with a semicolon before the frames. */
export const formatTimecode = ({ h, m, s, f, rate }: Timecode): string =>
  `${two(h)}:${two(m)}:${two(s)}${rate === '29.97 drop' ? ';' : ':'}${two(f)}`;

/** A moment of a day as its timecode. @param at_s seconds since 00:00:00:00 */
export const sayTimecode = (at_s: number, rate: Rate): string =>
  formatTimecode(timecodeOf(Math.round(at_s * FRAMES_A_SECOND[rate]), rate));

/**
 * `01:00:00:12` or `01:00:00;12`, `01:00:00`, or whole seconds.
 * @returns seconds since 00:00:00:00; undefined for what is none, as 00:01:00;00 in drop-frame
 */
export function readTimecode(text: string, rate: Rate): number | undefined {
  const parts = /^(\d{1,2}):([0-5]?\d):([0-5]?\d)(?:[:;.](\d{1,2}))?$/.exec(text.trim());
  if (!parts) return /^\d{1,5}$/.test(text.trim()) ? Number(text) : undefined;
  const [, h = 0, m = 0, s = 0, f = 0] = parts.map((p) => Number(p ?? 0));
  const code = { h, m, s, f, rate };
  return isTimecode(code) ? secondsOf(code) : undefined;
}
