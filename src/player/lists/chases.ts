/** A chase while it runs: changed live, or in the show. */
import type { ListRow } from '../../core/lists/rows.ts';
import { refuse } from '../../core/refusal.ts';
import { same } from '../../core/same.ts';
import type { RowChange } from '../../core/show/show.ts';
import type { Answer } from '../answer.ts';
import { chaseNow, nextStep, stepSeconds, withChange, type ChaseChange } from './chase.ts';
import type { ListState, ListStates } from './states.ts';

/** A chase as it runs, until it is released. */
export function changeChase(lists: ListStates, list: ListRow, change: ChaseChange): Answer {
  if (!list.chase?.on) return refuse('invalid', `${list.name} does not run as a chase.`);
  const state = lists.of(list.id);
  state.chase = withChange(state.chase, change);
  retime(lists, list, state);
  lists.needs.changed('soon');
  return { ok: true };
}

/** The step that is under way ends by what the chase is now; nothing follows the last of its count. */
function retime({ needs }: ListStates, list: ListRow, state: ListState): void {
  if (state.cueNumber === null) return;
  const { id: showId, show, tell } = needs;
  const chase = chaseNow(list, state.chase);
  const isLast = !chase?.on || !nextStep(show.cuesOf(list.id), state.cueNumber, chase, state.chase);
  const follow_s = isLast ? null : stepSeconds(chase, state.chase);
  tell({ do: 'follow', showId, listId: list.id, follow_s });
}

/** A chase was changed in the show while it runs: it is what the show says from now on. */
export function followChases(lists: ListStates, rows: readonly RowChange[]): void {
  for (const row of rows) {
    if (row.table !== 'lists' || !row.after || same(row.before?.chase, row.after.chase)) continue;
    const state = lists.all.get(row.id);
    const runs = row.before?.chase?.on === true || row.after.chase?.on === true;
    if (!state || !runs) continue;
    if (state.chase) {
      delete state.chase.bpm;
      delete state.chase.live;
    }
    retime(lists, row.after, state);
  }
}
