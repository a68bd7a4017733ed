/** A list on its track: played, stopped, led elsewhere; what comes there, and what an edit changes of it (docs/playback.md). */
import type { ListRow } from '../../core/lists/rows.ts';
import { refuse } from '../../core/refusal.ts';
import type { RowChange } from '../../core/show/show.ts';
import { timingOf } from '../../core/cues/times.ts';
import { formatMoment } from '../../core/time/moment.ts';
import { playedTo } from '../../core/time/played-to.ts';
import { LEAST_LOOP_S } from '../../core/time/rows.ts';
import { endOf, hasTrack, isInOrder, timedCues } from '../../core/time/timed.ts';
import type { Answer } from '../answer.ts';
import { goInto, movesInto } from './stand.ts';
import type { ListState, ListStates } from './states.ts';
import {
  followOf,
  nextEvent,
  positionOf,
  soughtOf,
  wentOver,
  type Passage,
  type TrackEvent,
  type TrackState,
} from './track.ts';

/** What is wanted of a list’s track. */
export interface TrackChange {
  do: 'play' | 'pause' | 'leave';
  /** Absent: where it is, or the beginning. */
  at_s?: number | undefined;
  loop?: Passage | null | undefined;
}

/** Its cues wait for hands again; what is under way ends. */
export function leaveTime(lists: ListStates, listId: string): void {
  const state = lists.of(listId);
  if (!state.track) return;
  const { id: showId, tell } = lists.needs;
  delete state.track;
  tell({ do: 'follow', showId, listId, follow_s: null });
  tell({ do: 'pause', showId, listId, paused: false });
}

/**
 * What a GO by hand does in a list that goes by time: while time stands it goes on; while it runs the next cue comes early
 * and time goes on (undefined: an ordinary GO), or the list leaves time.
 */
export function goByTime(lists: ListStates, list: ListRow, state: ListState): Answer | undefined {
  if (state.track?.since_ms !== undefined && state.track.since_ms !== null) {
    if (list.time?.onGo === 'leave') leaveTime(lists, list.id);
    return undefined;
  }
  const goesOn = list.time?.on === true && hasTrack(lists.needs.show, list.id);
  if (goesOn) return changeTrack(lists, list, { do: 'play' });
  leaveTime(lists, list.id);
  return undefined;
}

/** Plays, stops, winds or leaves a list’s track; refuses a list that has none. */
export function changeTrack(lists: ListStates, list: ListRow, c: TrackChange): Answer {
  const { show, changed } = lists.needs;
  if (!hasTrack(show, list.id))
    return refuse('nothing', `Neither a cue nor a sound stands on the track of ${list.name} yet.`);
  if (c.do === 'leave') {
    leaveTime(lists, list.id);
    changed('now');
    return { ok: true, message: `${list.name} goes by hand` };
  }
  if (c.loop && c.loop.to_s - c.loop.from_s < LEAST_LOOP_S)
    return refuse('invalid', `What is looped takes at least ${LEAST_LOOP_S} s.`, {
      loop: 'Too short.',
    });
  const plays = c.do === 'play';
  const at_s = put(lists, list.id, c, plays);
  // Wound by timecode it stands at every moment: that is not kept each time.
  changed(plays ? 'now' : 'soon');
  return {
    ok: true,
    message: `${list.name} ${plays ? 'plays from' : 'stands at'} ${formatMoment(at_s)}`,
  };
}

/** The track plays or stands at a moment from now on, and the clock is told. @returns the moment, in seconds */
function put(lists: ListStates, listId: string, c: TrackChange, plays: boolean): number {
  const { id: showId, tell, now_ms } = lists.needs;
  const here = lists.position(listId);
  const was = lists.of(listId).track;
  const at_s = c.at_s ?? beginsAt(lists, listId, here, c, plays);
  // While it stood, effects went on: playing from there they are where the track has them.
  const stood = plays && was?.since_ms === null;
  const goesThere = at_s !== here || c.at_s !== undefined || stood;
  const track = was && !goesThere ? was : seek(lists, listId, at_s, plays);
  if (c.loop !== undefined) track.loop = c.loop ?? undefined;
  track.position_s = at_s;
  track.since_ms = plays ? now_ms() : null;
  tell({ do: 'pause', showId, listId, paused: !plays });
  tellFollow(lists, listId, track);
  return at_s;
}

/** Where a track goes on from: where it is; at its end from the beginning; behind a passage that is to be looped from that. */
function beginsAt(
  lists: ListStates,
  listId: string,
  here: number | undefined,
  { loop }: TrackChange,
  plays: boolean,
): number {
  if (loop && plays && (here ?? 0) >= loop.to_s) return loop.from_s;
  const isOver = here === undefined || (plays && here >= endOf(lists.needs.show, listId));
  return isOver ? 0 : here;
}

function tellFollow({ needs }: ListStates, listId: string, track: TrackState): void {
  const { id: showId, show, tell } = needs;
  tell({ do: 'follow', showId, listId, follow_s: followOf(show, listId, track) });
}

/** As if it had been played to there: fades in their middle, effects running, what cues do besides light told and not done. */
function seek(lists: ListStates, listId: string, at_s: number, plays: boolean): TrackState {
  const { id: showId, show, rig, tell, now_ms } = lists.needs;
  const to = playedTo(show, rig(), listId, at_s);
  const state = lists.of(listId);
  const loop = state.track?.loop;
  const track: TrackState = {
    position_s: at_s,
    since_ms: plays ? now_ms() : null,
    base_s: to.cue?.at_s ?? at_s,
    passed: to.cue?.id,
    ...(loop ? { loop } : {}),
  };
  state.track = track;
  state.cueId = to.cue?.id ?? null;
  state.cueNumber = to.cue?.number ?? null;
  delete state.leftId;
  state.armedId = null;
  const total_s = to.cue ? timingOf(show, to.cue).total_s : 0;
  const follow_s = plays ? followOf(show, listId, track) : null;
  tell({ do: 'seek', showId, listId, sought: soughtOf(to, at_s, total_s), follow_s });
  return track;
}

/** The next event of a track that runs has come. */
export function trackCame(lists: ListStates, listId: string, track: TrackState): void {
  const event = nextEvent(lists.needs.show, listId, track);
  if (event.is === 'cue') cueCame(lists, listId, track, event);
  else endCame(lists, listId, track, event);
}

function cueCame(
  lists: ListStates,
  listId: string,
  track: TrackState,
  { cue, at_s }: Extract<TrackEvent, { is: 'cue' }>,
): void {
  const { show } = lists.needs;
  const before = track.passed === undefined ? undefined : show.cues.get(track.passed);
  const isNext =
    isInOrder(before, cue, show.cuesOf(listId)) && lists.at(listId) === (before?.number ?? null);
  goInto(lists, cue, movesInto(lists, cue, isNext), { onTime: true, at_s });
}

/** Of the track, or of the passage that is looped. */
function endCame(
  lists: ListStates,
  listId: string,
  track: TrackState,
  event: Exclude<TrackEvent, { is: 'cue' }>,
): void {
  const { show, now_ms, changed } = lists.needs;
  const from = event.is === 'loop' ? track.loop?.from_s : 0;
  // One that is over as it begins would begin again without an end, and all screens be told of it.
  const again =
    event.is === 'loop' ||
    (show.lists.get(listId)?.time?.atEnd === 'loop' && event.at_s >= LEAST_LOOP_S);
  const over_s = wentOver(track, event.at_s, lists.rate(listId), now_ms());
  if (again && from !== undefined) seek(lists, listId, from + over_s, true);
  else {
    track.position_s = event.at_s;
    track.since_ms = null;
  }
  changed('now');
}

/** Cues or the track were changed while it runs: what comes next is what the show says now. */
export function followTracks(lists: ListStates, rows: readonly RowChange[]): void {
  const changed = new Set<string>();
  for (const r of rows) {
    if (r.table === 'lists') changed.add(r.id);
    if (r.table === 'cues') changed.add(r.after?.listId ?? r.before?.listId ?? '');
  }
  const { show, now_ms } = lists.needs;
  for (const listId of changed) {
    const track = lists.all.get(listId)?.track;
    if (!track) continue;
    const now = positionOf(track, lists.rate(listId), now_ms());
    // A cue that was moved from after the position to before it has been passed.
    track.passed = timedCues(show, listId).findLast((c) => c.at_s <= now)?.id;
    if (track.since_ms !== null) tellFollow(lists, listId, track);
  }
}
