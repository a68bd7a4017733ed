/** The cues of a list along its time. */
import { timingOf } from '../cues/times.ts';
import { soundEnd, trackSoundOf } from '../sounds/track-sound.ts';
import type { CueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';

export type TimedCue = CueRow & { at_s: number };

export const isTimed = (cue: CueRow): cue is TimedCue => cue.at_s !== undefined;

/** In the order in which they come; of two at one moment the one with the lower number is first. */
export const timedCues = (show: Pick<Show, 'cuesOf'>, listId: string): TimedCue[] =>
  show
    .cuesOf(listId)
    .filter(isTimed)
    .sort((a, b) => a.at_s - b.at_s || a.number - b.number);

/** Whether a cue follows another in the list’s own order, so that its GO moves what it sets and nothing else. */
export const isInOrder = (
  before: CueRow | undefined,
  cue: CueRow,
  all: readonly CueRow[],
): boolean =>
  before === undefined
    ? all[0]?.id === cue.id
    : all.find((c) => c.number > before.number)?.id === cue.id;

/** Whether there is anything to go along: cues, or a sound to put them on. */
export const hasTrack = (
  show: Pick<Show, 'cuesOf' | 'lists' | 'sounds'>,
  listId: string,
): boolean =>
  trackSoundOf(show.sounds, show.lists.get(listId)?.time?.sound) !== undefined ||
  show.cuesOf(listId).some(isTimed);

/** Where a track ends: where it says, or with its last fade and its sound. */
export function endOf(show: Show, listId: string): number {
  const time = show.lists.get(listId)?.time;
  if (time?.end_s !== undefined) return time.end_s;
  const heard = trackSoundOf(show.sounds, time?.sound);
  return Math.max(
    heard ? soundEnd(heard.sound, heard.file.length_s) : 0,
    ...timedCues(show, listId).map((c) => c.at_s + timingOf(show, c).total_s),
  );
}
