/** Pages of eight faders, and as many whole ones side by side as a screen has room for. */
import type { FaderRow } from '@/core/faders/rows';
import { FADERS_A_PAGE } from '@/core/live/thing';

/** The page of a fader, counted from 1. */
const pageOf = ({ number }: Pick<FaderRow, 'number'>): number => Math.ceil(number / FADERS_A_PAGE);

/** Faders that are shown together, and the pages that they are of. */
export interface FaderScreen<F> {
  faders: F[];
  pages: number[];
}

/**
 * Faders in screens of at most `room`: whole pages while they fit, and a page that is wider than the room cut.
 * @param faders in the order of their numbers @param room at least 1
 */
export function screensOf<F extends Pick<FaderRow, 'number'>>(
  faders: readonly F[],
  room: number,
): FaderScreen<F>[] {
  const screens: FaderScreen<F>[] = [];
  for (const page of new Set(faders.map(pageOf))) {
    const own = faders.filter((f) => pageOf(f) === page);
    for (let from = 0; from < own.length; from += room) {
      const some = own.slice(from, from + room);
      const last = screens.at(-1);
      if (last && last.faders.length + some.length <= room && own.length <= room) {
        last.faders.push(...some);
        last.pages.push(page);
      } else screens.push({ faders: some, pages: [page] });
    }
  }
  return screens;
}

/** What pages are called: their names, or the numbers of their faders. */
export const sayPages = (
  pages: readonly number[],
  names: Readonly<Record<string, string>> | undefined,
): string =>
  pages
    .map((p) => names?.[String(p)] ?? `${(p - 1) * FADERS_A_PAGE + 1}–${p * FADERS_A_PAGE}`)
    .join(' · ');
