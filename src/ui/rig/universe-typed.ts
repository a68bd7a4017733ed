import { LIMITS } from '@/core/show/fields';
import { notice } from '../state/messages';

/** A universe as it is typed, 1 to the last one; undefined, and said, where there is none of this number. */
export function universeTyped(text: string): number | undefined {
  const n = Number(text);
  if (text.trim() !== '' && Number.isInteger(n) && n >= 1 && n <= LIMITS.universes) return n;
  notice.error(`There is no universe “${text.trim()}”: they are 1 to ${LIMITS.universes}.`);
  return undefined;
}
