/**
 * Following timecode: when it is locked, runs on through a loss, is lost; and what a list does by it. Nothing here knows
 * a clock: it is told when things came.
 */
import { dayOf, FRAMES_A_SECOND, secondsOf, type Timecode } from './rate.ts';

/** Times in a row before it is believed: one by itself may be anything. */
const LOCKS_AFTER = 3;
/** So many frames without one, and it is not there just now. */
const MISSED_FRAMES = 6;
/** Further from where it should be than this is a jump. */
const JUMP_S = 0.12;

/** How one source of timecode is followed. */
export interface Following {
  /** The last time that came, when, and how many came in a row as they should. */
  last: { at_s: number; heard_ms: number; time: Timecode; stands: boolean; way: 1 | -1 } | null;
  inRow: number;
  /** It was locked before it was lost. */
  wasLocked: boolean;
}
/** A timecode of which nothing has been heard. */
export const freshFollowing = (): Following => ({ last: null, inRow: 0, wasLocked: false });

/** Between two times of a day the shorter way: from a second before midnight to one behind it are two. */
const nearest = (apart_s: number, day_s: number): number =>
  apart_s - day_s * Math.round(apart_s / day_s);

/** A time came. @param stands it was told as a whole, and does not run @param way backwards while it is wound back */
export function heardTimecode(
  f: Following,
  time: Timecode,
  now_ms: number,
  { stands = false, way = 1 }: { stands?: boolean; way?: 1 | -1 } = {},
): void {
  const at_s = secondsOf(time);
  const { last } = f;
  const expected =
    last && !last.stands ? last.at_s + (way * (now_ms - last.heard_ms)) / 1000 : null;
  const isNext = expected !== null && Math.abs(nearest(at_s - expected, dayOf(time.rate))) < JUMP_S;
  f.inRow = isNext ? f.inRow + 1 : 1;
  f.wasLocked ||= f.inRow >= LOCKS_AFTER;
  f.last = { at_s, heard_ms: now_ms, time, stands, way };
}

/** How well a source is followed, in the words that screens show. */
export type FollowState = 'none' | 'locking' | 'locked' | 'stands' | 'runs on' | 'lost';

/** @param runOn_s how long it goes on without */
export function followState(f: Following, now_ms: number, runOn_s: number): FollowState {
  const { last } = f;
  if (!last) return 'none';
  if (last.stands) return 'stands';
  const gone_s = (now_ms - last.heard_ms) / 1000;
  const missing = gone_s > MISSED_FRAMES / FRAMES_A_SECOND[last.time.rate];
  if (!missing) return f.inRow >= LOCKS_AFTER ? 'locked' : 'locking';
  if (!f.wasLocked) return 'lost';
  return gone_s <= runOn_s ? 'runs on' : 'lost';
}

/** Seconds of the timecode just now, as it runs; where it stood where it does not. */
export function timecodeNow(f: Following, now_ms: number, runOn_s: number): number | null {
  const { last } = f;
  if (!last) return null;
  const state = followState(f, now_ms, runOn_s);
  if (state === 'stands') return last.at_s;
  const gone_s = Math.max(0, now_ms - last.heard_ms) / 1000;
  return Math.max(0, last.at_s + last.way * Math.min(gone_s, state === 'lost' ? runOn_s : gone_s));
}

/** What a list that follows is to do. */
export type FollowDoes =
  | { do: 'nothing' }
  /** Go on from here, as if it had been played to there. */
  | { do: 'play'; at_s: number }
  | { do: 'stand'; at_s: number };

/** Nearer than this to where it should be it is left alone: a frame of the output is 23 ms. */
const NEAR_S = 0.04;

/** Where on its track a list is to be, also over midnight; null where its timecode is not on that track at all. */
function wantedOn(
  code: number,
  day_s: number,
  { offset_s, end_s, loops = false }: { offset_s: number; end_s: number; loops?: boolean },
): { at_s: number; isPast: boolean } | null {
  const at_s = nearest(code - offset_s, day_s);
  if (at_s < 0) return null;
  if (at_s <= end_s) return { at_s, isPast: false };
  return loops && end_s > 0 ? { at_s: at_s % end_s, isPast: false } : { at_s: end_s, isPast: true };
}

/**
 * @param at where the list is on its track, and whether it runs there; null where it is not on it
 * @param offset_s timecode at the beginning of the track
 * @param end_s where the track ends: timecode goes on to the next number, and leaves this list alone
 * @param loops it begins again at its end
 */
export function followDoes(
  f: Following,
  at: { position_s: number; runs: boolean } | null,
  now_ms: number,
  o: { offset_s: number; runOn_s: number; end_s: number; loops?: boolean },
): FollowDoes {
  const state = followState(f, now_ms, o.runOn_s);
  const code = timecodeNow(f, now_ms, o.runOn_s);
  if (code === null || state === 'none' || state === 'locking') return { do: 'nothing' };
  const on = wantedOn(code, dayOf(f.last?.time.rate ?? '25'), o);
  // Of several numbers on one timecode only the one that is played is put on stage by it.
  if (at === null && (!on || on.isPast)) return { do: 'nothing' };
  // Before its beginning it waits there; behind its end it stands there.
  if (!on || on.isPast) {
    const at_s = on?.at_s ?? 0;
    const isThere = at !== null && !at.runs && Math.abs(at.position_s - at_s) < NEAR_S;
    return isThere ? { do: 'nothing' } : { do: 'stand', at_s };
  }
  const wanted = on.at_s;
  if (state === 'stands' || state === 'lost') {
    const isThere =
      at !== null && !at.runs && (state === 'lost' || Math.abs(at.position_s - wanted) < NEAR_S);
    return isThere
      ? { do: 'nothing' }
      : { do: 'stand', at_s: state === 'lost' && at ? at.position_s : wanted };
  }
  // Backwards the list stands at each moment: it would run the other way in between.
  if (f.last?.way === -1)
    return at && !at.runs && Math.abs(at.position_s - wanted) < NEAR_S
      ? { do: 'nothing' }
      : { do: 'stand', at_s: wanted };
  const isThere = at?.runs === true && Math.abs(at.position_s - wanted) < NEAR_S;
  return isThere ? { do: 'nothing' } : { do: 'play', at_s: wanted };
}
