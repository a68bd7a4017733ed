/** Which cue the next GO of a list goes into: one that was armed, a step of a chase, where a link leads, or what follows. */
import { cueCalled } from '../../core/cues/called.ts';
import { cueFollowing } from '../../core/cues/loops.ts';
import { parseCueNumber } from '../../core/cues/number.ts';
import type { CueRow } from '../../core/cues/rows.ts';
import type { Chase, ListRow } from '../../core/lists/rows.ts';
import { refuse, type Result } from '../../core/refusal.ts';
import type { Show } from '../../core/show/show.ts';
import { chaseNow, nextStep, type ChaseState } from './chase.ts';
import type { ListState } from './states.ts';

/** The cue that GO would go into. */
export interface Next {
  cue: CueRow;
  /** Whether it is reached by the order of the list, so that what tracks is there already. */
  inOrder: boolean;
  armed: boolean;
}

/** @param state undefined: the list was never played */
export function nextOf(show: Show, listId: string, state: ListState | undefined): Next | undefined {
  const list = show.lists.get(listId);
  const cues = show.cuesOf(listId);
  const armed = state?.armedId ? show.cues.get(state.armedId) : undefined;
  if (armed?.listId === listId) return { cue: armed, inOrder: false, armed: true };
  const at = state?.cueNumber ?? null;
  if (at === null) return cues[0] ? { cue: cues[0], inOrder: true, armed: false } : undefined;
  const chase = chaseNow(list, state?.chase);
  if (chase?.on) {
    const cue = nextStep(cues, at, chase, state?.chase);
    return cue ? { cue, inOrder: false, armed: false } : undefined;
  }
  const current = state?.cueId ? show.cues.get(state.cueId) : undefined;
  const following = cues.find((c) => c.number > at);
  if (!current) return following ? { cue: following, inOrder: false, armed: false } : undefined;
  const cue = cueFollowing(list, cues, withoutDoneLink(current, state?.rounds));
  return cue ? { cue, inOrder: cue === following, armed: false } : undefined;
}

/** A link that was taken as often as it counts leads nowhere any more. */
function withoutDoneLink(current: CueRow, rounds: ListState['rounds']): CueRow {
  const times = current.link?.times;
  if (times === undefined || (rounds?.[current.id] ?? 0) < times) return current;
  const plain: CueRow = { ...current };
  delete plain.link;
  return plain;
}

/** The cue of a list by its number as it is typed. */
export function cueNamed(show: Show, listId: string, text: string): Result<CueRow> {
  const number = parseCueNumber(text);
  if (number === undefined)
    return refuse('invalid', `“${text}” is not a cue number; they look like 2, 2.5 or 10.125.`, {
      cue: 'Not a cue number.',
    });
  return (
    show.cuesOf(listId).find((c) => c.number === number) ??
    refuse('not-found', `There is no ${cueCalled(show, { listId, number })}.`, { cue: 'Unknown.' })
  );
}

/** Answers call a cue by its number: its name stands on every screen. */
export const byNumber = ({ listId, number }: CueRow): Pick<CueRow, 'listId' | 'number'> => ({
  listId,
  number,
});

/** Counts the rounds of links and chases that a step into `next` completes. */
export function countRound(show: Show, list: ListRow, state: ListState, next: CueRow): void {
  const current = state.cueId ? show.cues.get(state.cueId) : undefined;
  const chase = chaseNow(list, state.chase);
  if (chase?.on) state.chase = stepped(show.cuesOf(list.id), state, chase, next);
  else if (current?.link?.to === next.id && current.link.times !== undefined && !state.armedId) {
    const rounds = { ...state.rounds, [current.id]: (state.rounds?.[current.id] ?? 0) + 1 };
    state.rounds = rounds;
  } else if (current && state.rounds?.[current.id] !== undefined) {
    // Past its last round: the next time it is met it counts anew.
    const { [current.id]: done, ...rest } = state.rounds;
    void done;
    state.rounds = rest;
  }
}

function stepped(
  cues: readonly CueRow[],
  state: ListState,
  chase: Chase,
  next: CueRow,
): ChaseState {
  const was: ChaseState = state.chase ?? { way: 1, rounds: 0 };
  const from = cues.findIndex((c) => c.number === state.cueNumber);
  const to = cues.indexOf(next);
  const leads = to > from ? 1 : -1;
  const way = chase.direction === 'bounce' ? leads : was.way;
  const steps = (was.steps ?? 0) + 1;
  /** Whether a round ends with this step. */
  const turns: Record<Chase['direction'], boolean> = {
    forward: to <= from && from >= 0,
    back: to > from,
    bounce: way !== was.way && from >= 0,
    random: steps >= cues.length,
  };
  const turned = turns[chase.direction];
  return {
    ...was,
    way,
    rounds: was.rounds + (turned ? 1 : 0),
    steps: chase.direction === 'random' && turned ? 0 : steps,
  };
}
