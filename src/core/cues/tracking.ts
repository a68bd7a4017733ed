/**
 * Tracking: the state at a cue is, slot by slot, the latest value set at or before it in list order; a release ends it.
 * See docs/playback.md.
 */
import type { CueRow, ValueRow } from '../show/rows.ts';
import type { Show } from '../show/show.ts';

/** What a list shows for one slot, and the cue that set it. */
export interface Tracked {
  value: ValueRow;
  cue: CueRow;
}

/** The full state of a list at the cue with this number (which need not exist), by slot key. Released slots are absent. */
export function stateAt(show: Show, listId: string, number: number): Map<string, Tracked> {
  const state = new Map<string, Tracked>();
  for (const cue of show.cuesOf(listId)) {
    if (cue.number > number) break;
    for (const [key, value] of show.valuesOf(cue.id)) {
      if (value.level === null) state.delete(key);
      else state.set(key, { value, cue });
    }
  }
  return state;
}

/** The value that one slot shows at a cue number, or undefined when the list has let go of it or never held it. */
export function trackedAt(show: Show, listId: string, number: number, key: string): Tracked | undefined {
  let found: Tracked | undefined;
  for (const cue of show.cuesOf(listId)) {
    if (cue.number > number) break;
    const value = show.valuesOf(cue.id).get(key);
    if (value) found = value.level === null ? undefined : { value, cue };
  }
  return found;
}

export const cueAfter = (show: Show, listId: string, number: number): CueRow | undefined => show.cuesOf(listId).find((c) => c.number > number);

export function cueBefore(show: Show, listId: string, number: number): CueRow | undefined {
  let before: CueRow | undefined;
  for (const cue of show.cuesOf(listId)) {
    if (cue.number >= number) break;
    before = cue;
  }
  return before;
}

/** Later cues that show what this cue sets for a slot: up to the next cue that sets it. */
export function carriesTo(show: Show, cue: CueRow, key: string): CueRow | undefined {
  let last: CueRow | undefined;
  for (const later of show.cuesOf(cue.listId)) {
    if (later.number <= cue.number) continue;
    if (show.valuesOf(later.id).has(key)) break;
    last = later;
  }
  return last;
}
