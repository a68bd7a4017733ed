/** How a cue comes and goes, in a few words. */
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';

/** What makes a cue go: the cue before it, a time of day, a word. */
export function triggerOf(
  cue: CueRow,
  before: CueRow | undefined,
): { short: string; long: string; spoken: boolean } {
  if (cue.clock)
    return { short: `at ${cue.clock}`, long: `goes by itself at ${cue.clock}`, spoken: false };
  if (before && !before.link && before.follow_s !== null)
    return {
      short: `follow ${formatTime(before.follow_s)} s`,
      long: `follows ${formatTime(before.follow_s)} s after GO of ${formatCueNumber(before.number)}`,
      spoken: false,
    };
  if (before && !before.link && before.after_s !== undefined)
    return {
      short: `after ${formatTime(before.after_s)} s`,
      long: `follows ${formatTime(before.after_s)} s after ${formatCueNumber(before.number)} has ended`,
      spoken: false,
    };
  if (cue.call) return { short: `“${cue.call}”`, long: `called on “${cue.call}”`, spoken: true };
  return { short: 'go', long: 'waits for GO', spoken: false };
}
