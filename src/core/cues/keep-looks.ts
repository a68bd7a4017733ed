/**
 * Moving, deleting, splitting cues never changes how the others look unless asked: what would track otherwise is
 * written where it is needed (docs/playback.md, Tracking).
 */
import { readSlotKey, slotKey, valueId, type CueRow, type ValueRow } from './rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { same } from '../same.ts';
import { bookAfter } from './after.ts';
import { isComplete, type Lists } from './tracking.ts';

/** What a value says, apart from where it stands and its times. */
const meaning = ({ level, palette, look, effect }: ValueRow): unknown[] => [
  level,
  palette ?? null,
  look ?? null,
  effect ?? null,
];
/** Whether two values of a slot mean the same light and times. */
export const saysTheSame = (a: ValueRow | undefined, b: ValueRow | undefined): boolean =>
  a && b ? same(meaning(a), meaning(b)) : a === b;

/** The same content in another cue. Times and parts belong to the cue where they were given. */
export function valueIn(cue: Pick<CueRow, 'id'>, value: ValueRow): ValueRow {
  const next: ValueRow = {
    ...value,
    id: valueId(cue.id, value.fixtureId, value.attribute),
    cueId: cue.id,
  };
  delete next.fade_s;
  delete next.delay_s;
  delete next.part;
  return next;
}

function releaseIn(cue: Pick<CueRow, 'id'>, key: string): ValueRow {
  const { fixtureId, attribute } = readSlotKey(key);
  return {
    id: valueId(cue.id, fixtureId, attribute),
    cueId: cue.id,
    fixtureId,
    attribute,
    level: null,
  };
}

type Walked = ReadonlyMap<string, readonly (ValueRow | undefined)[]>;

function walk(
  lists: Lists,
  cues: readonly CueRow[],
  keys: readonly string[],
  value: (cueId: string, key: string) => ValueRow | null | undefined,
): Walked {
  const running: (ValueRow | undefined)[] = keys.map(() => undefined);
  const shown = new Map<string, (ValueRow | undefined)[]>();
  for (const cue of cues) {
    if (isComplete(lists, cue)) running.fill(undefined);
    keys.forEach((key, i) => {
      const set = value(cue.id, key);
      if (set) running[i] = set.level === null ? undefined : set;
    });
    shown.set(cue.id, [...running]);
  }
  return shown;
}

/**
 * The values that must be written, on top of `changes`, so that every cue of the list that stays and does not set a
 * slot itself shows there what it showed before.
 * @param aimed cues whose look is meant to change
 */
export function keepLooks(
  show: Show,
  listId: string,
  changes: readonly RowChange[],
  aimed: ReadonlySet<string> = new Set(),
): RowChange[] {
  const keys = [...touchedKeys(show, listId, changes)];
  if (keys.length === 0) return [];
  const after = bookAfter(show, changes);
  const was = walk(show, show.cuesOf(listId), keys, (cueId, key) => show.valuesOf(cueId).get(key));
  const running: (ValueRow | undefined)[] = keys.map(() => undefined);
  const written: RowChange[] = [];
  for (const cue of after.cuesOf(listId)) {
    if (isComplete(after, cue)) running.fill(undefined);
    const before = aimed.has(cue.id) ? undefined : was.get(cue.id);
    keys.forEach((key, i) => {
      const set = after.value(cue.id, key);
      if (set) {
        running[i] = set.level === null ? undefined : set;
        return;
      }
      if (!before || saysTheSame(before[i], running[i])) return;
      const wanted = before[i];
      const row = wanted ? valueIn(cue, wanted) : releaseIn(cue, key);
      const old = show.valuesOf(cue.id).get(key) ?? null;
      written.push({ table: 'values', id: row.id, before: old, after: row });
      running[i] = wanted;
    });
  }
  return written;
}

/** Slots that a change of cues and values concerns. */
function touchedKeys(show: Show, listId: string, changes: readonly RowChange[]): Set<string> {
  const keys = new Set<string>();
  const addAllOf = (cueId: string): void => {
    for (const key of show.valuesOf(cueId).keys()) keys.add(key);
  };
  const isComplete = show.lists.get(listId)?.tracking === false;
  for (const c of changes) {
    if (c.table === 'cues' && (c.before?.listId === listId || c.after?.listId === listId)) {
      addAllOf(c.id);
      // What tracks through a moved cue, and what a complete cue lets go of, is concerned as well.
      const moved = c.before !== null && c.after !== null && c.before.number !== c.after.number;
      if (moved || c.before?.block || c.after?.block || isComplete)
        for (const cue of show.cuesOf(listId)) addAllOf(cue.id);
    }
    const row = c.table === 'values' ? (c.after ?? c.before) : null;
    if (row) keys.add(slotKey(row.fixtureId, row.attribute));
  }
  return keys;
}

/** Two writes of one row as one, so that a change list names each row once. */
export function merged(changes: readonly RowChange[]): RowChange[] {
  const byRow = new Map<string, RowChange>();
  for (const c of changes) {
    const key = `${c.table}/${c.id}`;
    const earlier = byRow.get(key);
    byRow.set(key, earlier ? ({ ...c, before: earlier.before } as RowChange) : c);
  }
  return [...byRow.values()].filter(
    (c) => !(c.before === null && c.after === null) && !same(c.before, c.after),
  );
}
