/** Cue numbers: whole thousandths inside, `2`, `2.5`, `10.125` for people. */
import { z } from 'zod';

/** The highest cue number, in thousandths. */
export const LAST_CUE = 99_999_999;

/** A cue’s number in thousandths: cue 2.5 is 2500. */
export const CUE_NUMBER = z
  .number()
  .int('A cue number has at most three decimals.')
  .min(1, 'Cue numbers start above 0.')
  .max(LAST_CUE, 'Cue numbers end at 99999.999.');

/** `2.5` -> 2500. Undefined when the text is not a cue number. */
export function parseCueNumber(text: string): number | undefined {
  const match = /^(\d{1,5})(?:\.(\d{1,3}))?$/.exec(text.trim());
  if (!match) return undefined;
  const number = Number(match[1]) * 1000 + Number((match[2] ?? '').padEnd(3, '0'));
  return number >= 1 && number <= LAST_CUE ? number : undefined;
}

/** 2500 -> `2.5`. */
export function formatCueNumber(number: number): string {
  const whole = Math.floor(number / 1000);
  const rest = String(number % 1000)
    .padStart(3, '0')
    .replace(/0+$/, '');
  return rest === '' ? String(whole) : `${whole}.${rest}`;
}

const STEPS = [1000, 500, 200, 100, 50, 20, 10, 5, 2, 1];
/** So many numbers after `low` and before `high`, as round as they fit; undefined when they do not. */
export function numbersBetween(
  low: number,
  high: number | undefined,
  count: number,
): number[] | undefined {
  for (const step of STEPS) {
    const first = (Math.floor(low / step) + 1) * step;
    const last = first + (count - 1) * step;
    if (last < (high ?? LAST_CUE + 1))
      return Array.from({ length: count }, (_, i) => first + i * step);
  }
  return undefined;
}

/** The number a new cue at the end of a list gets: the next whole one. */
export const numberAfter = (last: number | undefined): number =>
  last === undefined ? 1000 : (Math.floor(last / 1000) + 1) * 1000;

/** The number itself where it is free; else a tenth, a hundredth, a thousandth later, before the next whole number; else after all that are taken. */
export function freeCueNumber(taken: ReadonlySet<number>, wish: number): number {
  if (!taken.has(wish)) return wish;
  const end = (Math.floor(wish / 1000) + 1) * 1000;
  for (const step of [100, 10, 1])
    for (let n = wish + step; n < end; n += step) if (!taken.has(n)) return n;
  return (Math.floor(Math.max(...taken) / 1000) + 1) * 1000;
}
