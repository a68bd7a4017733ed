/** In what time a value of a cue moves. */
import type { FadeCurve } from './rows.ts';
import type { CueRow, ValueRow } from './rows.ts';
import type { Family } from '../show/fields.ts';

/** How one value of a cue moves. */
export interface SlotTimes {
  /** Seconds. */
  up: number;
  down: number;
  delay: number;
  /** Absent: position eases in and out, the rest is linear. */
  curve: FadeCurve | undefined;
}

/** Its own time > its part's family time > its part's > the cue's family time > the cue's; delays likewise. */
export function slotTimes(
  value: Pick<ValueRow, 'fade_s' | 'delay_s' | 'part'>,
  cue: CueRow,
  family: Family,
): SlotTimes {
  const part =
    value.part === undefined ? undefined : cue.parts?.find((p) => p.number === value.part);
  const base = part ?? cue;
  const familyTime = base.family_s[family];
  return {
    up: value.fade_s ?? familyTime ?? base.up_s,
    // Families other than intensity take the up time for both ways (decision 0004).
    down: value.fade_s ?? familyTime ?? (family === 'intensity' ? base.down_s : base.up_s),
    delay: value.delay_s ?? (part ? part.delay_s : (cue.familyDelay_s?.[family] ?? cue.delay_s)),
    curve: part?.curve ?? cue.curve,
  };
}
