/** A list goes into a cue: where it stands from now on, and what the clock is told. */
import { cueFirst } from '../../core/cues/called.ts';
import type { CueRow } from '../../core/cues/rows.ts';
import type { Moves } from '../../core/playback/list-moves.ts';
import { cueMoves, stateMoves } from '../../core/playback/moves.ts';
import type { Chase } from '../../core/lists/rows.ts';
import { isTimed } from '../../core/time/timed.ts';
import { chaseNow, nextStep, stepSeconds, type ChaseState } from './chase.ts';
import { byNumber } from './next.ts';
import type { ListStates } from './states.ts';
import { followOf, positionOf, wentThrough, type TrackState } from './track.ts';

interface How {
  /** Whether what follows by itself follows. */
  follows?: boolean;
  onTime?: boolean;
  /** The moment of its track that has come. */
  at_s?: number;
}
/** When what follows comes. */
interface After {
  follow_s: number | null;
  from: 'go' | 'end';
}

/** By the order of the list a cue moves what it says; else all that has come to be by then. */
export const movesInto = (
  { needs: { show, onto } }: ListStates,
  cue: CueRow,
  inOrder: boolean,
): Moves =>
  inOrder ? cueMoves(show, onto(), cue) : stateMoves(show, onto(), cue.listId, cue, undefined);

/** The list stands in a cue from now on, and the clock moves there. */
export function stand(lists: ListStates, cue: CueRow, moves: Moves, how: How = {}): void {
  const { id, tell, changed } = lists.needs;
  const { listId } = cue;
  const state = lists.of(listId);
  state.cueId = cue.id;
  state.cueNumber = cue.number;
  delete state.leftId;
  state.armedId = null;
  tell({ do: 'pause', showId: id, listId, paused: false });
  const after = afterwards(lists, cue, moves, how);
  tell({ do: 'move', showId: id, listId, moves, ...after, onTime: how.onTime ?? false });
  changed('now');
}

/** The same, with what the cue does besides light. */
export function goInto(lists: ListStates, cue: CueRow, moves: Moves, how: How): string {
  stand(lists, cue, moves, how);
  lists.needs.act(cue);
  return cueFirst(lists.needs.show, byNumber(cue));
}

/** What follows: the next moment of a track, the next step of a chase, or what the cue says, where it follows at all. */
function afterwards(lists: ListStates, cue: CueRow, moves: Moves, { follows, at_s }: How): After {
  const state = lists.of(cue.listId);
  if (state.track) return alongTrack(lists, cue, state.track, at_s);
  const chase = chaseNow(lists.needs.show.lists.get(cue.listId), state.chase);
  const after = chase?.on ? asStep(lists, cue, moves, chase, state.chase) : byItself(cue);
  return follows === false ? { ...after, follow_s: null } : after;
}

const byItself = (cue: CueRow): After => ({
  follow_s: cue.follow_s ?? cue.after_s ?? null,
  from: cue.follow_s === null ? 'end' : 'go',
});

/** On its track it goes on from the cue’s moment; by hand, from where it is. */
function alongTrack(
  lists: ListStates,
  cue: CueRow,
  track: TrackState,
  at_s: number | undefined,
): After {
  const rate = lists.rate(cue.listId);
  const now_ms = lists.needs.now_ms();
  const now_s = at_s ?? positionOf(track, rate, now_ms);
  if (isTimed(cue)) track.passed = cue.id;
  track.base_s = now_s;
  track.since_ms = at_s === undefined ? now_ms : wentThrough(track, at_s, rate, now_ms);
  track.position_s = now_s;
  return { follow_s: followOf(lists.needs.show, cue.listId, track), from: 'go' };
}

/** A step of a chase fades in its share of the step; after the last of its count nothing follows. */
function asStep(
  { needs }: ListStates,
  cue: CueRow,
  moves: Moves,
  chase: Chase,
  state: ChaseState | undefined,
): After {
  const step = stepSeconds(chase, state);
  moves.up.fill(step * chase.share);
  moves.down.fill(step * chase.share);
  moves.delay.fill(0);
  const isLast = nextStep(needs.show.cuesOf(cue.listId), cue.number, chase, state) === undefined;
  return { follow_s: isLast ? null : step, from: 'go' };
}
