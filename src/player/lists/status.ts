/** What every screen is told of a cue list. */
import type { ListRow } from '../../core/lists/rows.ts';
import type { ListStatus } from '../../core/live/messages.ts';
import { chaseNow, stepSeconds, type ChaseState } from './chase.ts';
import { nextOf } from './next.ts';
import type { ListStates, Timing } from './states.ts';
import { positionOf, type TrackState } from './track.ts';

/** In the order of their numbers. */
export const statuses = (lists: ListStates): ListStatus[] =>
  [...lists.needs.show.lists.values()]
    .sort((a, b) => a.number - b.number)
    .map((l) => statusOf(lists, l));

/** A list as screens are told of it. */
export function statusOf(lists: ListStates, list: ListRow): ListStatus {
  const now_ms = lists.needs.now_ms();
  const state = lists.all.get(list.id);
  const next = nextOf(lists.needs.show, list.id, state);
  return {
    id: list.id,
    name: list.name,
    cueId: state?.cueId ?? null,
    cueNumber: state?.cueNumber ?? null,
    nextId: next?.cue.id ?? null,
    armed: next?.armed ?? false,
    ...fadeStatus(lists.fade(list.id), now_ms),
    active: (state?.cueNumber ?? null) !== null,
    rate: state?.rate ?? 1,
    master: state?.master ?? 1,
    ...chaseStatus(list, state?.chase),
    rounds: state?.rounds ?? {},
    track: trackStatus(state?.track, lists.rate(list.id), now_ms),
  };
}

/** The fade that is under way, now: it went on since the clock told of it. */
function fadeStatus(
  t: Timing | undefined,
  now_ms: number,
): Pick<ListStatus, 'elapsed_s' | 'total_s' | 'paused' | 'running' | 'hand' | 'followIn_s'> {
  if (!t)
    return {
      elapsed_s: 0,
      total_s: 0,
      paused: false,
      running: false,
      hand: null,
      followIn_s: null,
    };
  const since_s = t.paused ? 0 : ((now_ms - t.at) / 1000) * t.rate;
  const elapsed_s = Math.min(t.elapsed_s + (t.hand === null ? since_s : 0), t.total_s);
  return {
    elapsed_s,
    total_s: t.total_s,
    paused: t.paused,
    running: elapsed_s < t.total_s,
    hand: t.hand,
    followIn_s: t.followIn_s === null ? null : Math.max(0, t.followIn_s - since_s),
  };
}

function trackStatus(
  track: TrackState | undefined,
  rate: number,
  told_ms: number,
): ListStatus['track'] {
  if (!track) return null;
  return {
    position_s: positionOf(track, rate, told_ms),
    told_ms,
    runs: track.since_ms !== null,
    loop: track.loop ?? null,
  };
}

function chaseStatus(
  list: ListRow,
  state: ChaseState | undefined,
): Pick<ListStatus, 'bpm' | 'chase'> {
  const chase = chaseNow(list, state);
  if (!chase?.on) return { bpm: null, chase: null };
  const { share, direction, count = 0 } = chase;
  return {
    bpm: Math.round((60 / stepSeconds(chase, state)) * 10) / 10,
    chase: { share, direction, count, differs: !!state?.live || state?.bpm !== undefined },
  };
}
