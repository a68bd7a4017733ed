/** A list that goes along its time: where it is, what comes next there, and how the clock is told. Functions over its state. */
import type { Sought } from '../../core/playback/list-moves.ts';
import type { PlayedTo, Way } from '../../core/time/played-to.ts';
import { endOf, timedCues, type TimedCue } from '../../core/time/timed.ts';
import type { Show } from '../../core/show/show.ts';

/** Where a list’s track is. */
export interface TrackState {
  /** Where it was at `since_ms`, in seconds of the track; there it stands while that is null. */
  position_s: number;
  since_ms: number | null;
  /** Position of the last GO: what follows counts from there on the list’s own clock. */
  base_s: number;
  /** The cue that was gone through last, in the order of time; what comes next comes after it. */
  passed?: string | undefined;
  loop?: Passage | undefined;
}
/** A part of a track that is played round and round, seconds. */
export interface Passage {
  from_s: number;
  to_s: number;
}

/** @param rate of the list, times */
export const positionOf = (t: TrackState, rate: number, now_ms: number): number =>
  t.since_ms === null ? t.position_s : t.position_s + ((now_ms - t.since_ms) / 1000) * rate;

/** That a moment has come is noticed at once by the clock, and so much later here, as a rule. */
const NOTICED_MS = 1;
/** Of what it is off by, so much is put right with each moment: one that was noticed late moves little. */
const PUT_RIGHT = 0.2;
/** Further off than this it has stood, or was led elsewhere. */
const ELSEWHERE_MS = 80;

/**
 * When the track was at a moment that has just come by the list’s clock: on the line that it goes along, led slowly after that
 * clock, so that sound beside it goes evenly however late that is heard.
 * @returns milliseconds, for `since_ms`
 */
export function wentThrough(t: TrackState, at_s: number, rate: number, now_ms: number): number {
  if (t.since_ms === null || rate <= 0) return now_ms;
  const expected_ms = t.since_ms + ((at_s - t.position_s) / rate) * 1000;
  const off_ms = now_ms - NOTICED_MS - expected_ms;
  return Math.abs(off_ms) > ELSEWHERE_MS ? now_ms : expected_ms + off_ms * PUT_RIGHT;
}

/**
 * How far a track is past its end, or that of its passage, when that is noticed: its next round begins so much later, so that
 * every round takes what it takes (track.test.ts). Further off than a moment it was led there, and begins anew.
 * @returns seconds of the track
 */
export function wentOver(t: TrackState, end_s: number, rate: number, now_ms: number): number {
  const over_s = positionOf(t, rate, now_ms) - end_s;
  return over_s > 0 && (over_s / rate) * 1000 <= ELSEWHERE_MS ? over_s : 0;
}

/** What a track meets on its way. */
export type TrackEvent =
  | { is: 'cue'; at_s: number; cue: TimedCue }
  | { is: 'loop'; at_s: number }
  | { is: 'end'; at_s: number };

/** Whether the end of a passage is still to come. */
const isBefore = (t: TrackState, loop: TrackState['loop']): loop is Passage =>
  loop !== undefined && t.position_s < loop.to_s;

/**
 * What comes after the cue that was passed last: a cue, the end of what is looped, the end of the track. A passage that it
 * was put behind is not gone back to: it plays on from there (track.test.ts).
 */
export function nextEvent(show: Show, listId: string, t: TrackState): TrackEvent {
  const cues = timedCues(show, listId);
  const passed = cues.findIndex((c) => c.id === t.passed);
  const cue =
    passed >= 0 ? cues[passed + 1] : cues.find((c) => c.at_s > t.base_s || t.passed === undefined);
  const end: TrackEvent = isBefore(t, t.loop)
    ? { is: 'loop', at_s: t.loop.to_s }
    : { is: 'end', at_s: endOf(show, listId) };
  // A cue at the very end is still played; one at the end of a loop is the loop’s beginning.
  const isFirst = cue && (end.is === 'end' ? cue.at_s <= end.at_s : cue.at_s < end.at_s);
  return cue && (isFirst || end.at_s < t.base_s) ? { is: 'cue', at_s: cue.at_s, cue } : end;
}

/** Seconds after the last GO at which something comes; null where nothing does any more. */
export function followOf(show: Show, listId: string, t: TrackState): number | null {
  const { at_s } = nextEvent(show, listId, t);
  return at_s < t.base_s ? null : at_s - t.base_s;
}

/** A slot that let go when not all of it was there any more is as one that began to let go earlier. */
const earlier = ({ to, span_s, share }: Way): number =>
  Number.isNaN(to) && share > 0 ? span_s / share - span_s : 0;

/** The ways of all slots as the clock takes them. @param at_s the moment that is sought */
export function soughtOf({ cue, ways, effects }: PlayedTo, at_s: number, total_s: number): Sought {
  const all = [...ways];
  return {
    slot: Uint32Array.from(all, ([slot]) => slot),
    from: Float32Array.from(all, ([, w]) => w.from),
    to: Float32Array.from(all, ([, w]) => w.to),
    ago: Float64Array.from(all, ([, w]) => at_s - w.start_s + earlier(w)),
    span: Float32Array.from(all, ([, w]) => w.span_s + earlier(w)),
    curve: Uint8Array.from(all, ([, w]) => w.curve),
    effects,
    at_s,
    ago_s: cue ? at_s - cue.at_s : 0,
    total_s,
  };
}
