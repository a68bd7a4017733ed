/** The cues of a list along its time. */
import { numberAfter, numbersBetween } from '../cues/number.ts';
import { timingOf } from '../cues/times.ts';
import { soundEnd, trackSoundOf } from '../sounds/track-sound.ts';
import type { CueRow } from '../cues/rows.ts';
import type { ListTime } from './rows.ts';
import type { Show } from '../show/show.ts';

/** A cue that has a moment on its list’s track, seconds. */
export type TimedCue = CueRow & { at_s: number };

/** Whether a cue stands on its track. */
export const isTimed = (cue: CueRow): cue is TimedCue => cue.at_s !== undefined;

/** In the order in which they come; of two at one moment the one with the lower number is first. */
export const timedCues = (show: Pick<Show, 'cuesOf'>, listId: string): TimedCue[] =>
  show
    .cuesOf(listId)
    .filter(isTimed)
    .sort((a, b) => a.at_s - b.at_s || a.number - b.number);

/**
 * The number of a new cue at a moment: between the one that is before it in time and the one that is behind that in the
 * list; where none fits there, behind all.
 */
export function numberAtMoment(show: Pick<Show, 'cuesOf'>, listId: string, at_s: number): number {
  const all = show.cuesOf(listId);
  const low = timedCues(show, listId).findLast((c) => c.at_s <= at_s)?.number ?? 0;
  const high = all.find((c) => c.number > low)?.number;
  return numbersBetween(low, high, 1)?.[0] ?? numberAfter(all.at(-1)?.number);
}

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

/** Whether a moment lies behind the end that a track was given: what stands there never comes. */
export const isBehindEnd = (time: Pick<ListTime, 'end_s'> | undefined, at_s: number): boolean =>
  time?.end_s !== undefined && at_s > time.end_s;

/** Cues that stand behind the end of their track. */
export const behindEnd = (show: Pick<Show, 'cuesOf' | 'lists'>, listId: string): TimedCue[] =>
  timedCues(show, listId).filter((c) => isBehindEnd(show.lists.get(listId)?.time, c.at_s));

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
