/** What plays, as a screen keeps it: parts that did not change stay the same objects, and time that passes is no change. */
import type { ListStatus, PlaybackState } from '@/core/live/messages';
import { asBefore } from './as-before';
import { positionAt } from './player-clock';

/** A list as it was told at a moment of this page (`performance.now()`): what has passed since is counted here. */
export interface HeardList extends ListStatus {
  heard_ms: number;
}
/** What plays, as this screen counts it on. */
export interface Playback extends Omit<PlaybackState, 'lists'> {
  lists: HeardList[];
}

/** Messages take more or less long: so much earlier or later is no other fade. */
const SAME_MOMENT_S = 0.06;
const SAME_POSITION_S = 0.0005;

/** Seconds of a list’s fade that have gone, as far as it runs. */
export const elapsedAt = (list: HeardList, now_ms: number): number =>
  list.paused || list.hand !== null
    ? list.elapsed_s
    : Math.min(list.total_s, list.elapsed_s + since_s(list, now_ms));

/** Seconds until a list goes on by itself; null where nothing follows. */
export const followAt = (list: HeardList, now_ms: number): number | null =>
  list.followIn_s === null || list.paused
    ? list.followIn_s
    : Math.max(0, list.followIn_s - since_s(list, now_ms));

const since_s = ({ heard_ms, rate }: HeardList, now_ms: number): number =>
  ((now_ms - heard_ms) / 1000) * rate;

/** @param was as this screen has it @param told by the player @param now_ms here, when it came */
export function heardPlayback(was: Playback, told: PlaybackState, now_ms: number): Playback {
  const lists = told.lists.map((list) => {
    const before = was.lists.find((l) => l.id === list.id);
    return before ? heardList(before, list, now_ms) : { ...list, heard_ms: now_ms };
  });
  return asBefore(was, { ...told, lists });
}

/** What of a list must be as it was, so that it goes on by the same line. */
const SAME_WAY = ['cueId', 'total_s', 'running', 'paused', 'hand', 'rate'] as const;

/** A list that only went on is as it was: it counts on by itself. */
function heardList(before: HeardList, told: ListStatus, now_ms: number): HeardList {
  const goesOn = SAME_WAY.every((k) => before[k] === told[k]);
  const { elapsed_s, followIn_s, heard_ms } = before;
  const onLine =
    goesOn &&
    isNear(elapsedAt(before, now_ms), told.elapsed_s) &&
    isNear(followAt(before, now_ms), told.followIn_s);
  return {
    ...told,
    heard_ms: now_ms,
    ...(onLine && { elapsed_s, followIn_s, heard_ms }),
    track: heardTrack(before, told),
  };
}

/** The player tells of a track by its own clock, to the float: on the same line it is the same. */
function heardTrack(before: HeardList, { track, rate }: ListStatus): ListStatus['track'] {
  if (!track || !before.track || track.runs !== before.track.runs || rate !== before.rate)
    return track;
  const { position_s, told_ms } = before.track;
  const off_s = positionAt(before.track, rate, track.told_ms) - track.position_s;
  return Math.abs(off_s) <= SAME_POSITION_S ? { ...track, position_s, told_ms } : track;
}

const isNear = (a: number | null, b: number | null): boolean =>
  a === null || b === null ? a === b : Math.abs(a - b) <= SAME_MOMENT_S;
