/** Lists that play while their show is edited: the cue on stage renumbered, deleted, brought back, made anew. */
import type { CueRow } from '../../core/cues/rows.ts';
import { RELEASE_S } from '../../core/lists/rows.ts';
import { stateMoves } from '../../core/playback/moves.ts';
import type { RowChange } from '../../core/show/show.ts';
import { followTracks } from './along-time.ts';
import { followChases } from './chases.ts';
import type { ListState, ListStates } from './states.ts';

/** What a deleted cue left on stage goes in this time where another is made in its place. */
const REMADE_S = 0.5;

/** The cue on stage keeps its number when it is renumbered, and leaves its number behind when it is deleted. @returns lists whose cue was deleted */
export function followEdits(lists: ListStates, rows: readonly RowChange[]): Set<string> {
  followChases(lists, rows);
  followTracks(lists, rows);
  const orphaned = new Set<string>();
  const { id: showId, show, tell } = lists.needs;
  const cues = new Map(rows.flatMap((r) => (r.table === 'cues' ? [[r.id, r.after] as const] : [])));
  for (const [listId, state] of lists.all) {
    if (followCue(lists, listId, state, cues)) orphaned.add(listId);
    if (state.armedId && cues.get(state.armedId) === null) state.armedId = null;
    if (!show.lists.has(listId)) {
      lists.all.delete(listId);
      tell({ do: 'release', showId, listId, time_s: RELEASE_S });
    }
  }
  return orphaned;
}

/** @returns whether the cue that the list stands in was deleted */
function followCue(
  lists: ListStates,
  listId: string,
  state: ListState,
  cues: ReadonlyMap<string, CueRow | null>,
): boolean {
  if (state.cueId === null) {
    // It was brought back, or made anew.
    if (state.cueNumber !== null)
      for (const cue of cues.values())
        if (cue?.listId === listId && cue.number === state.cueNumber) standsIn(lists, state, cue);
    return false;
  }
  const row = cues.get(state.cueId);
  if (row) state.cueNumber = row.number;
  if (row !== null) return false;
  state.leftId = state.cueId;
  state.cueId = null;
  return true;
}

/** A list whose cue was deleted is in one again: that one, or another that was made in its place, which says all that shows. */
function standsIn({ needs }: ListStates, state: ListState, cue: CueRow): void {
  const { id: showId, show, tell, onto } = needs;
  state.cueId = cue.id;
  if (cue.id !== state.leftId) {
    // What it says is there at once, as it is with any edit of the cue on stage.
    const moves = stateMoves(show, onto(), cue.listId, cue, 0);
    moves.level.forEach((level, i) => {
      if (Number.isNaN(level)) moves.up[i] = moves.down[i] = REMADE_S;
    });
    tell({ do: 'move', showId, listId: cue.listId, moves, follow_s: null });
  }
  delete state.leftId;
}
