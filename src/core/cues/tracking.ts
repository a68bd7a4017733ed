/**
 * Tracking: the state at a cue is, slot by slot, the latest value set at or before it in list order; a release ends it.
 * See docs/playback.md.
 */
import type { CueRow, ValueRow } from './rows.ts';
import type { ListRow } from '../lists/rows.ts';
import type { Show } from '../show/show.ts';

/** What a list shows for one slot, and the cue that set it. */
export interface Tracked {
  value: ValueRow;
  cue: CueRow;
}

/** States are kept at every so manyth cue, so that any cue's is a copy and a short walk away. */
const CHECKPOINT_EVERY = 32;

interface Checkpoints {
  /** Counts of writes to cues and values that the states were made from. */
  version: string;
  lists: Map<string, Map<string, Tracked>[]>;
}
const kept = new WeakMap<Show, Checkpoints>();

/** Where lists are looked up: a show, or one as it will be. */
export interface Lists {
  lists: { get: (id: string) => ListRow | undefined };
}

/** Complete as it stands: slots that it does not set are let go. Blocked cues, and all cues of a list that does not track. */
export const isComplete = (show: Lists, cue: CueRow): boolean =>
  cue.block === true || show.lists.get(cue.listId)?.tracking === false;

/** What tracks, taken one cue further. @param state what tracked up to the cue before; changed in place */
export const advanceTo = (show: Show, state: Map<string, Tracked>, cue: CueRow): void => {
  if (isComplete(show, cue)) state.clear();
  for (const [key, value] of show.valuesOf(cue.id)) {
    if (value.level === null) state.delete(key);
    else state.set(key, { value, cue });
  }
};

/** The full state of a list at the cue with this number (which need not exist), by slot key. Released slots are absent. */
export function stateAt(show: Show, listId: string, number: number): Map<string, Tracked> {
  const cues = show.cuesOf(listId);
  if (cues.length < CHECKPOINT_EVERY * 2) {
    const state = new Map<string, Tracked>();
    for (const cue of cues) {
      if (cue.number > number) break;
      advanceTo(show, state, cue);
    }
    return state;
  }
  const version = `${show.version('cues')}/${show.version('values')}/${show.version('lists')}`;
  let checkpoints = kept.get(show);
  if (checkpoints?.version !== version) {
    checkpoints = { version, lists: new Map() };
    kept.set(show, checkpoints);
  }
  let states = checkpoints.lists.get(listId);
  if (!states) {
    states = [];
    const running = new Map<string, Tracked>();
    cues.forEach((cue, i) => {
      if (i % CHECKPOINT_EVERY === 0) states?.push(new Map(running));
      advanceTo(show, running, cue);
    });
    checkpoints.lists.set(listId, states);
  }
  let count = 0;
  let high = cues.length;
  while (count < high) {
    const middle = (count + high) >> 1;
    if ((cues[middle]?.number ?? 0) <= number) count = middle + 1;
    else high = middle;
  }
  const at = Math.min(Math.floor(count / CHECKPOINT_EVERY), states.length - 1);
  const state = new Map(states[at]);
  for (let i = at * CHECKPOINT_EVERY; i < count; i++) {
    const cue = cues[i];
    if (cue) advanceTo(show, state, cue);
  }
  return state;
}

/** The value that one slot shows at a cue number, or undefined when the list has let go of it or never held it. */
export function trackedAt(
  show: Show,
  listId: string,
  number: number,
  key: string,
): Tracked | undefined {
  let found: Tracked | undefined;
  for (const cue of show.cuesOf(listId)) {
    if (cue.number > number) break;
    const value = show.valuesOf(cue.id).get(key);
    if (value) found = value.level === null ? undefined : { value, cue };
    else if (found && isComplete(show, cue)) found = undefined;
  }
  return found;
}

/**
 * What some slots show at a cue number, found backwards from there: of a few slots of a large list it costs what they need,
 * and not a state of all (tracking.test.ts).
 */
export function trackedThere(
  show: Show,
  listId: string,
  number: number,
  keys: Iterable<string>,
): Map<string, Tracked> {
  const found = new Map<string, Tracked>();
  const open = new Set(keys);
  const cues = show.cuesOf(listId);
  for (let i = cues.length - 1; i >= 0 && open.size > 0; i--) {
    const cue = cues[i] as CueRow;
    if (cue.number > number) continue;
    const values = show.valuesOf(cue.id);
    for (const key of open) {
      const value = values.get(key);
      if (!value) continue;
      open.delete(key);
      if (value.level !== null) found.set(key, { value, cue });
    }
    if (isComplete(show, cue)) break;
  }
  return found;
}

/** The first cue behind a number in its list. */
export const cueAfter = (show: Show, listId: string, number: number): CueRow | undefined =>
  show.cuesOf(listId).find((c) => c.number > number);

/** The last cue before a number in its list. */
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
    if (show.valuesOf(later.id).has(key) || isComplete(show, later)) break;
    last = later;
  }
  return last;
}
