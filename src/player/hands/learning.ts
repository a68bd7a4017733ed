/** Hands at this machine that somebody learns with: they play nothing meanwhile. */
import type { CommandOf } from '../../core/live/commands.ts';
import { refuse } from '../../core/refusal.ts';
import type { Show } from '../../core/show/show.ts';
import type { Answer } from '../answer.ts';

/** A screen that was closed while it learned stands in the way no longer than this. */
const LEARNS_MS = 120_000;

/** Until when, in milliseconds that count on, by the hand’s id. */
export type Learning = Map<string, number>;

/** Lets a hand’s controls be told to a screen instead of played, for a while. */
export function learn(
  { show, learning }: { show: Show; learning: Learning },
  { hand, on }: CommandOf<'learn'>,
): Answer {
  if (!show.hands.has(hand)) return refuse('not-found', 'This hand has been deleted meanwhile.');
  if (on) learning.set(hand, performance.now() + LEARNS_MS);
  else learning.delete(hand);
  return { ok: true };
}

/** Whether that is so now. */
export const isLearned = (learning: Learning, hand: string, now_ms: number): boolean =>
  (learning.get(hand) ?? -Infinity) > now_ms;
