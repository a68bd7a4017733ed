/** Rows that people count, each with a number of its own. */
import { refuse, type Refusal } from '../refusal.ts';

/** In the order of their numbers. */
export const rowsByNumber = <T extends { number: number }>(rows: ReadonlyMap<string, T>): T[] =>
  [...rows.values()].sort((a, b) => a.number - b.number);

interface Numbered {
  id: string;
  number: number;
  name: string;
}

/** The number after the highest; 1 where there is none yet. */
export const numberAfter = (rows: Iterable<Pick<Numbered, 'number'>>): number =>
  Math.max(0, ...[...rows].map((r) => r.number)) + 1;

/**
 * Why a row cannot have a number; undefined where it can.
 * @param what a row of these is called, as at the beginning of a sentence
 * @param id the row that is to have it, which may have it already; undefined for a new one
 */
export function numberTaken(
  what: string,
  rows: Iterable<Numbered>,
  number: number | undefined,
  id: string | undefined,
): Refusal | undefined {
  const twin = [...rows].find((r) => r.number === number && r.id !== id);
  return (
    twin &&
    refuse('clash', `${what} ${twin.number} is “${twin.name}” already.`, { number: 'Taken.' })
  );
}
