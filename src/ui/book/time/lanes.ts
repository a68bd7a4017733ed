/** Cues along time as they lie under each other: each in the first lane where its words lie over no other’s. */
import type { TimedCue } from '@/core/time/timed';

export interface Laid {
  cue: TimedCue;
  lane: number;
  /** Pixels from the left edge of the track. */
  x: number;
  width: number;
}

/** Room that a cue's number and name take, whatever its fade. */
const WORDS_PX = 118;
export const MOST_LANES = 4;

/** @param fadeOf seconds that a cue takes @param x pixels of a moment */
export function laidOut(
  cues: readonly TimedCue[],
  fadeOf: (cue: TimedCue) => number,
  x: (at_s: number) => number,
): Laid[] {
  const free: number[] = Array.from({ length: MOST_LANES }, () => -Infinity);
  return cues.map((cue) => {
    const from = x(cue.at_s);
    const width = x(cue.at_s + fadeOf(cue)) - from;
    // Where all are full, the one that is free first.
    const fits = free.findIndex((end) => end <= from);
    const lane = fits >= 0 ? fits : free.indexOf(Math.min(...free));
    free[lane] = from + Math.max(width + 34, WORDS_PX);
    return { cue, lane, x: from, width };
  });
}

const STEPS_S = [0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800] as const;
const LEAST_PX = 84;

/** How far apart the moments of a ruler stand that are written out, in seconds. */
export const rulerStep = (scale: number): number =>
  STEPS_S.find((s) => s * scale >= LEAST_PX) ?? 3600;

/** Bars that are written out stand so many apart: 1, 2, 4, 8 … */
export function barStep(bar_s: number, scale: number): number {
  let step = 1;
  while (step * bar_s * scale < LEAST_PX && step < 4096) step *= 2;
  return step;
}
