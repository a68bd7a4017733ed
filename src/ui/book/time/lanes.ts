/** Cues along time as they lie under each other: each in the first lane where its words lie over no other’s. */
import type { TimedCue } from '@/core/time/timed';

/** A cue in its lane. */
export interface Laid {
  cue: TimedCue;
  lane: number;
  /** Pixels from the left edge of the track. */
  x: number;
  width: number;
  /** Pixels from its start to that of the next one in its lane; Infinity for the last. */
  room: number;
}

/** Room that a cue's number and name take, whatever its fade. */
const WORDS_PX = 118;
/** Lanes that cues are laid into. */
export const MOST_LANES = 4;

/** @param fadeOf seconds that a cue takes @param x pixels of a moment */
export function laidOut(
  cues: readonly TimedCue[],
  fadeOf: (cue: TimedCue) => number,
  x: (at_s: number) => number,
): Laid[] {
  const free: number[] = Array.from({ length: MOST_LANES }, () => -Infinity);
  const laid = cues.map((cue) => {
    const from = x(cue.at_s);
    const width = x(cue.at_s + fadeOf(cue)) - from;
    // Where all are full, the one that is free first.
    const fits = free.findIndex((end) => end <= from);
    const lane = fits >= 0 ? fits : free.indexOf(Math.min(...free));
    free[lane] = from + Math.max(width + 34, WORDS_PX);
    return { cue, lane, x: from, width, room: Infinity };
  });
  const next = new Map<number, number>();
  for (const l of laid.toReversed()) {
    l.room = (next.get(l.lane) ?? Infinity) - l.x;
    next.set(l.lane, l.x);
  }
  return laid;
}

/** Fewer letters of a name say nothing. */
const LEAST_LETTERS = 3;

/** Words as they fit into so many pixels, cut or left out, so that they lie over nothing else. @param letter_px what a letter takes, about */
export function fitting(words: string, room_px: number, letter_px: number): string {
  const letters = Math.floor(room_px / letter_px);
  if (words.length <= letters) return words;
  return letters > LEAST_LETTERS ? `${words.slice(0, letters - 1)}…` : '';
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
