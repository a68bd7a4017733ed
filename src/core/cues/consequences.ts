/** What a write changes beyond the cue it is aimed at: judged on what cues show, not on rows. */
import type { CueRow, ValueRow } from '../show/rows.ts';
import { slotKey } from '../show/rows.ts';
import type { RowChange, Show } from '../show/show.ts';

export interface Consequence {
  cueId: string;
  number: number;
  name: string;
  /** Slots that look different in this cue. */
  slots: number;
}

/** The lists and values as they will be, read through the changes without copying the show. */
function overlay(show: Show, changes: readonly RowChange[]) {
  const cues = new Map<string, CueRow | null>();
  const values = new Map<string, Map<string, ValueRow | null>>();
  for (const c of changes) {
    if (c.table === 'cues') cues.set(c.id, c.after);
    if (c.table !== 'values') continue;
    const row = c.after ?? c.before;
    if (!row) continue;
    const cue = values.get(row.cueId) ?? new Map<string, ValueRow | null>();
    cue.set(slotKey(row.fixtureId, row.attribute), c.after);
    values.set(row.cueId, cue);
  }
  return {
    cuesOf: (listId: string): CueRow[] => {
      const kept = show.cuesOf(listId).filter((c) => !cues.has(c.id));
      const changed = [...cues.values()].filter((c): c is CueRow => c?.listId === listId);
      return [...kept, ...changed].sort((a, b) => a.number - b.number);
    },
    value: (cueId: string, key: string): ValueRow | null | undefined => {
      const changed = values.get(cueId)?.get(key);
      return changed === undefined ? show.valuesOf(cueId).get(key) : changed;
    },
  };
}

/** Levels of some slots through a list, cue by cue. */
function walk(cues: readonly CueRow[], keys: readonly string[], value: (cueId: string, key: string) => ValueRow | null | undefined): Map<string, (number | null)[]> {
  const running: (number | null)[] = keys.map(() => null);
  const shown = new Map<string, (number | null)[]>();
  for (const cue of cues) {
    keys.forEach((key, i) => {
      const set = value(cue.id, key);
      if (set) running[i] = set.level;
    });
    shown.set(cue.id, [...running]);
  }
  return shown;
}

/**
 * Cues that look different after `changes`, in list order; the cues in `aimed` are left out.
 * Cost: cues of the touched lists x touched slots.
 */
export function consequences(show: Show, changes: readonly RowChange[], aimed: ReadonlySet<string> = new Set()): Consequence[] {
  const after = overlay(show, changes);
  const touched = new Map<string, Set<string>>();
  const touch = (listId: string | undefined, keys: Iterable<string>): void => {
    if (listId === undefined) return;
    const set = touched.get(listId) ?? new Set<string>();
    for (const key of keys) set.add(key);
    touched.set(listId, set);
  };
  const newCues = new Map(changes.flatMap((c) => (c.table === 'cues' && c.after ? [[c.id, c.after] as const] : [])));
  for (const c of changes) {
    if (c.table === 'cues') touch((c.after ?? c.before)?.listId, show.valuesOf(c.id).keys());
    if (c.table !== 'values') continue;
    const row = c.after ?? c.before;
    if (row) touch((show.cues.get(row.cueId) ?? newCues.get(row.cueId))?.listId, [slotKey(row.fixtureId, row.attribute)]);
  }

  const found: Consequence[] = [];
  for (const [listId, keySet] of touched) {
    const keys = [...keySet];
    const was = walk(show.cuesOf(listId), keys, (cueId, key) => show.valuesOf(cueId).get(key));
    const cues = after.cuesOf(listId);
    const is = walk(cues, keys, after.value);
    for (const cue of cues) {
      const before = was.get(cue.id);
      const now = is.get(cue.id);
      if (!before || !now || aimed.has(cue.id)) continue;
      const slots = now.filter((level, i) => level !== before[i]).length;
      if (slots > 0) found.push({ cueId: cue.id, number: cue.number, name: cue.name, slots });
    }
  }
  return found;
}
