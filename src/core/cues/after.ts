/** Lists and values as they will be after changes, read through the changes without copying the show. */
import type { CueRow, ValueRow } from './rows.ts';
import type { ListRow } from '../lists/rows.ts';
import { slotKey } from './rows.ts';
import type { RowChange, Show } from '../show/show.ts';

/** The cue that a change is about or writes into, where it is of a cue. */
export function cueWritten(c: RowChange): string | undefined {
  if (c.table === 'cues') return c.id;
  return c.table === 'values' ? (c.after ?? c.before)?.cueId : undefined;
}

/** A book as it would be after changes that are not made yet. */
export interface BookAfter {
  lists: { get: (id: string) => ListRow | undefined };
  cuesOf: (listId: string) => readonly CueRow[];
  /** null: set before, and not any more. */
  value: (cueId: string, key: string) => ValueRow | null | undefined;
}

/** The lists and values of a show as they will be after changes. */
export function bookAfter(show: Show, changes: readonly RowChange[]): BookAfter {
  const cues = new Map<string, CueRow | null>();
  const lists = new Map<string, ListRow | null>();
  const values = new Map<string, Map<string, ValueRow | null>>();
  for (const c of changes) {
    if (c.table === 'cues') cues.set(c.id, c.after);
    if (c.table === 'lists') lists.set(c.id, c.after);
    if (c.table !== 'values') continue;
    const row = c.after ?? c.before;
    if (!row) continue;
    const cue = values.get(row.cueId) ?? new Map<string, ValueRow | null>();
    cue.set(slotKey(row.fixtureId, row.attribute), c.after);
    values.set(row.cueId, cue);
  }
  return {
    lists: { get: (id) => (lists.has(id) ? (lists.get(id) ?? undefined) : show.lists.get(id)) },
    cuesOf: (listId) => {
      if (cues.size === 0) return show.cuesOf(listId);
      const kept = show.cuesOf(listId).filter((c) => !cues.has(c.id));
      const changed = [...cues.values()].filter((c): c is CueRow => c?.listId === listId);
      return [...kept, ...changed].sort((a, b) => a.number - b.number);
    },
    value: (cueId, key) => {
      const changed = values.get(cueId)?.get(key);
      return changed === undefined ? show.valuesOf(cueId).get(key) : changed;
    },
  };
}
