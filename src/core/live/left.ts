/** Why somebody's light is for others to decide about, in words after their name. */
import type { LeftLight } from './messages.ts';

/** Why light has nobody who holds it, in words. */
export const LEFT_WORDS: Record<LeftLight['why'], string> = {
  away: 'is not here',
  out: 'has signed out',
  removed: 'is no longer in the show',
  role: 'may not play any more',
};
