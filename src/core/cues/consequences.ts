/** What a write changes beyond the cue it is aimed at: judged on what cues show, not on rows. */
import { concernedBy, effectOf, levelOf } from '../looks/value.ts';
import type { PaletteSource } from '../palettes/resolve.ts';
import type { CueRow, EffectRow, ValueRow } from '../show/rows.ts';
import { slotKey } from '../show/rows.ts';
import { meaningAfter } from '../show/after.ts';
import type { RowChange, Show } from '../show/show.ts';

/** One slot of a cue, by its key; null where nothing is held. */
export interface Difference {
  key: string;
  before: number | null;
  after: number | null;
}
/** So many are kept for each cue: enough for a picture of it. */
const DIFFERENCES_KEPT = 400;

export interface Consequence {
  cueId: string;
  listId: string;
  number: number;
  name: string;
  /** Slots that look different in this cue. */
  slots: number;
  differences: Difference[];
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

/** What a slot shows in a cue. */
interface Shown {
  level: number | null;
  /** The effect as it is then, and where in its cycle. */
  effect: EffectRow | undefined;
  phase: number;
}
const DARK: Shown = { level: null, effect: undefined, phase: 0 };
const differs = (a: Shown, b: Shown): boolean => a.level !== b.level || a.effect !== b.effect || a.phase !== b.phase;

/** Some slots through a list, cue by cue. */
function walk(source: PaletteSource, cues: readonly CueRow[], keys: readonly string[], value: (cueId: string, key: string) => ValueRow | null | undefined): Map<string, Shown[]> {
  const running: Shown[] = keys.map(() => DARK);
  const shown = new Map<string, Shown[]>();
  for (const cue of cues) {
    keys.forEach((key, i) => {
      const set = value(cue.id, key);
      if (!set) return;
      const effect = effectOf(source, set);
      running[i] = { level: levelOf(source, set), effect: effect ? source.effects.get(effect.id) : undefined, phase: effect?.phase ?? 0 };
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

  // A palette, a look, or a unit that they are solved for, changes every cue that follows it.
  const source = meaningAfter(show, changes);
  if (source !== show) {
    const concerned = concernedBy(show, changes);
    for (const v of show.values.values()) if (concerned(v)) touch(show.cues.get(v.cueId)?.listId, [slotKey(v.fixtureId, v.attribute)]);
  }

  const found: Consequence[] = [];
  for (const [listId, keySet] of touched) {
    const keys = [...keySet];
    const was = walk(show, show.cuesOf(listId), keys, (cueId, key) => show.valuesOf(cueId).get(key));
    const cues = after.cuesOf(listId);
    const is = walk(source, cues, keys, after.value);
    for (const cue of cues) {
      const before = was.get(cue.id);
      const now = is.get(cue.id);
      if (!before || !now || aimed.has(cue.id)) continue;
      const seen = keys.flatMap((key, i): Difference[] => {
        const [was, is] = [before[i] ?? DARK, now[i] ?? DARK];
        return differs(was, is) ? [{ key, before: was.level, after: is.level }] : [];
      });
      if (seen.length > 0) found.push({ cueId: cue.id, listId, number: cue.number, name: cue.name, slots: seen.length, differences: seen.slice(0, DIFFERENCES_KEPT) });
    }
  }
  return found;
}
