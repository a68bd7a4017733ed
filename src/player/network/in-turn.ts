/**
 * Not every desk says which universes it sends (E1.31-2018, clause 4.3 asks it of those made since): whoever sends one of
 * ours beside us is found by listening to ours, a few at a time, so that a house of hundreds of universes costs no more to
 * hear than one of four.
 */

/** Universes that are listened to at once. */
const AT_ONCE = 4;
/** A source that shows the same all the time says so once a second at least (E1.31-2018, clause 6.6.2). */
const TURN_MS = 2500;

/** @returns those of these universes whose turn it is; all of them, where they are few */
export function inTurn(universes: readonly number[], now_ms: number): number[] {
  if (universes.length <= AT_ONCE) return [...universes];
  const first = (Math.floor(now_ms / TURN_MS) * AT_ONCE) % universes.length;
  return Array.from({ length: AT_ONCE }, (_, i) => universes[(first + i) % universes.length] ?? 0);
}
