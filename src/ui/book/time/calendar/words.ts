/** What an occasion does, in words. */
import { formatCueNumber } from '@/core/cues/number';
import type { OccasionRow } from '@/core/occasions/rows';
import type { Show } from '@/core/show/show';

/** What an occasion does, in words. */
export const DOES_WORDS = {
  go: 'GO on',
  goto: 'to a cue of',
  play: 'plays along time',
  release: 'releases',
} as const satisfies Record<OccasionRow['does'], string>;

/** The same with its list and cue. */
export function sayDoes(show: Show, o: OccasionRow): string {
  const list = show.lists.get(o.list)?.name ?? 'a list that is gone';
  const cue = show.cues.get(o.cue ?? '');
  return o.does === 'goto'
    ? `${list} to ${cue ? formatCueNumber(cue.number) : '?'}`
    : `${DOES_WORDS[o.does]} ${list}`;
}
