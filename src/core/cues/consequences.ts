/** What a write changes beyond the cue it is aimed at: judged on what cues show, not on rows. */
import { levelOf, type PaletteSource } from '../palettes/resolve.ts';
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

/** Palettes, fixtures and types as they will be; the show itself when none of them changes. */
function paletteSource(show: Show, changes: readonly RowChange[]): PaletteSource {
  const touched = changes.filter((c) => c.table === 'palettes' || c.table === 'fixtures' || c.table === 'types');
  if (touched.length === 0 || show.palettes.size === 0) return show;
  const tables = { fixtures: new Map(show.fixtures), types: new Map(show.types), palettes: new Map(show.palettes) };
  for (const c of touched) {
    const table = tables[c.table as keyof typeof tables] as Map<string, unknown>;
    if (c.after) table.set(c.id, c.after);
    else table.delete(c.id);
  }
  return { ...tables, version: () => 0 };
}

/** Levels of some slots through a list, cue by cue. */
function walk(source: PaletteSource, cues: readonly CueRow[], keys: readonly string[], value: (cueId: string, key: string) => ValueRow | null | undefined): Map<string, (number | null)[]> {
  const running: (number | null)[] = keys.map(() => null);
  const shown = new Map<string, (number | null)[]>();
  for (const cue of cues) {
    keys.forEach((key, i) => {
      const set = value(cue.id, key);
      if (set) running[i] = levelOf(source, set);
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

  // A palette, or a unit that palettes are solved for, changes every cue that follows it.
  const source = paletteSource(show, changes);
  if (source !== show) {
    const changed = new Set(changes.map((c) => c.id));
    for (const v of show.values.values()) {
      if (v.palette !== undefined && (changed.has(v.palette) || changed.has(v.fixtureId))) touch(show.cues.get(v.cueId)?.listId, [slotKey(v.fixtureId, v.attribute)]);
    }
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
      const slots = now.filter((level, i) => level !== before[i]).length;
      if (slots > 0) found.push({ cueId: cue.id, number: cue.number, name: cue.name, slots });
    }
  }
  return found;
}
