/**
 * The player’s own clock as it is read here: what plays is counted by it. Of the last answers the one that came back soonest
 * says it best; half of its way is how old it was.
 */

const KEPT = 16;
interface Reading {
  ahead_ms: number;
  way_ms: number;
}
let readings: Reading[] = [];
let best: Reading | undefined;

/** @param at when it was asked @param ticks the player’s clock when it answered @param now_ms here, when that came */
export function heardPong(at: number, ticks: number, now_ms: number): void {
  const way_ms = now_ms - at;
  readings = [...readings.slice(1 - KEPT), { ahead_ms: ticks - (at + way_ms / 2), way_ms }];
  best = readings.reduce((a, b) => (b.way_ms < a.way_ms ? b : a));
}

/** Another player, or the same after a while away: its clock may be any. */
export function newPlayer(): void {
  readings = [];
  best = undefined;
}

/** Milliseconds of the player’s clock; undefined before it has answered. */
export const playerNow = (here_ms = performance.now()): number | undefined =>
  best && here_ms + best.ahead_ms;

/** How well it is known, in milliseconds; Infinity before it has answered. */
export const clockWithin = (): number => (best ? best.way_ms / 2 : Infinity);

/** Where a track is at a moment of the player’s clock, in seconds. */
export const positionAt = (
  told: { position_s: number; told_ms: number; runs: boolean },
  rate: number,
  now_ms: number | undefined,
): number =>
  told.position_s +
  (told.runs && now_ms !== undefined ? ((now_ms - told.told_ms) / 1000) * rate : 0);
