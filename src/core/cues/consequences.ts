/** What a write changes beyond the cue it is aimed at: judged on what cues show, not on rows. */
import { concernedBy, effectOf, levelOf } from '../looks/value.ts';
import type { PaletteSource } from '../palettes/resolve.ts';
import type { CueRow, ValueRow } from './rows.ts';
import type { EffectRow } from '../effects/rows.ts';
import { slotKey } from './rows.ts';
import { bookAfter, type BookAfter } from './after.ts';
import { isComplete, stateAt } from './tracking.ts';
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

/** A cue that a change makes look different, though nobody touched it. */
export interface Consequence {
  cueId: string;
  listId: string;
  number: number;
  name: string;
  /** Slots that look different in this cue. */
  slots: number;
  differences: Difference[];
}

/** What a slot shows in a cue. */
interface Shown {
  level: number | null;
  /** The effect as it is then, and where in its cycle. */
  effect: EffectRow | undefined;
  phase: number;
}
const DARK: Shown = { level: null, effect: undefined, phase: 0 };
const differs = (a: Shown, b: Shown): boolean =>
  a.level !== b.level || a.effect !== b.effect || a.phase !== b.phase;

function shownOf(source: PaletteSource, set: ValueRow): Shown {
  const effect = effectOf(source, set);
  return {
    level: levelOf(source, set),
    effect: effect ? source.effects.get(effect.id) : undefined,
    phase: effect?.phase ?? 0,
  };
}

/** Some slots through a list, cue by cue. */
function walk(
  source: PaletteSource,
  cues: readonly CueRow[],
  keys: readonly string[],
  complete: (cue: CueRow) => boolean,
  value: (cueId: string, key: string) => ValueRow | null | undefined,
): Map<string, Shown[]> {
  const running: Shown[] = keys.map(() => DARK);
  const shown = new Map<string, Shown[]>();
  for (const cue of cues) {
    if (complete(cue)) running.fill(DARK);
    keys.forEach((key, i) => {
      const set = value(cue.id, key);
      if (!set) return;
      running[i] = shownOf(source, set);
    });
    shown.set(cue.id, [...running]);
  }
  return shown;
}

/**
 * Cues that look different after `changes`, in list order; the cues in `aimed` are left out.
 * Cost: what changes, where cues keep their order and palettes their meaning; else cues of the touched lists x touched slots.
 */
export function consequences(
  show: Show,
  changes: readonly RowChange[],
  aimed: ReadonlySet<string> = new Set(),
): Consequence[] {
  const after = bookAfter(show, changes);
  const touched = new Map<string, Set<string>>();
  const touch = (listId: string | undefined, keys: Iterable<string>): void => {
    if (listId === undefined) return;
    const set = touched.get(listId) ?? new Set<string>();
    for (const key of keys) set.add(key);
    touched.set(listId, set);
  };
  const newCues = new Map(
    changes.flatMap((c) => (c.table === 'cues' && c.after ? [[c.id, c.after] as const] : [])),
  );
  for (const c of changes) {
    if (c.table === 'cues') {
      touch((c.after ?? c.before)?.listId, show.valuesOf(c.id).keys());
      // A cue that becomes complete, or ceases to be, concerns all that reaches it.
      if (c.before && c.after && (c.before.block === true) !== (c.after.block === true))
        touch(c.after.listId, stateAt(show, c.after.listId, c.after.number).keys());
      if (!c.before && c.after?.block)
        touch(c.after.listId, stateAt(show, c.after.listId, c.after.number).keys());
    }
    if (c.table === 'lists' && c.before && c.after && c.before.tracking !== c.after.tracking) {
      const all = new Set(show.cuesOf(c.id).flatMap((cue) => [...show.valuesOf(cue.id).keys()]));
      touch(c.id, all);
    }
    if (c.table !== 'values') continue;
    const row = c.after ?? c.before;
    if (row)
      touch((show.cues.get(row.cueId) ?? newCues.get(row.cueId))?.listId, [
        slotKey(row.fixtureId, row.attribute),
      ]);
  }

  // A palette, a look, or a unit that they are solved for, changes every cue that follows it.
  const source = meaningAfter(show, changes);
  if (source !== show) {
    const concerned = concernedBy(show, changes);
    for (const v of show.values.values())
      if (concerned(v)) touch(show.cues.get(v.cueId)?.listId, [slotKey(v.fixtureId, v.attribute)]);
  }

  const found: Consequence[] = [];
  for (const [listId, keySet] of touched) {
    const keys = [...keySet];
    const report: Report = (cue, differences) => {
      if (differences.length === 0 || aimed.has(cue.id)) return;
      found.push({
        cueId: cue.id,
        listId,
        number: cue.number,
        name: cue.name,
        slots: differences.length,
        differences: differences.slice(0, DIFFERENCES_KEPT),
      });
    };
    const both =
      source === show && !changesCompleteness(changes)
        ? inStep(show.cuesOf(listId), after.cuesOf(listId))
        : null;
    if (both?.every((p) => staysOr(after, p)))
      sideBySide({ show, after, both, keys, written: writtenIn(changes) }, report);
    else everyCue({ show, source, after, listId, keys }, report);
  }
  return found;
}

/** A cue that comes or goes and lets go of all that it does not set is no matter of single slots. */
function staysOr(after: BookAfter, { was, is }: Place): boolean {
  const alone = was && is ? undefined : (was ?? is);
  return alone === undefined || !isComplete(after, alone);
}

type Report = (cue: CueRow, differences: readonly Difference[]) => void;

/** All of it from the beginning, before and after by themselves: whatever the change, and in every order. */
function everyCue({ show, source, after, listId, keys }: Whole, report: Report): void {
  const was = walk(
    show,
    show.cuesOf(listId),
    keys,
    (cue) => isComplete(show, cue),
    (cueId, key) => show.valuesOf(cueId).get(key),
  );
  const cues = after.cuesOf(listId);
  const is = walk(source, cues, keys, (cue) => isComplete(after, cue), after.value);
  for (const cue of cues) {
    const before = was.get(cue.id);
    const now = is.get(cue.id);
    if (!before || !now) continue;
    report(
      cue,
      keys.flatMap((key, i): Difference[] => {
        const [a, b] = [before[i] ?? DARK, now[i] ?? DARK];
        return differs(a, b) ? [{ key, before: a.level, after: b.level }] : [];
      }),
    );
  }
}
interface Whole {
  show: Show;
  source: PaletteSource;
  after: BookAfter;
  listId: string;
  keys: readonly string[];
}

/** Whether a cue may let go of something else than before. */
const changesCompleteness = (changes: readonly RowChange[]): boolean =>
  changes.some(
    (c) =>
      (c.table === 'lists' && c.before?.tracking !== c.after?.tracking) ||
      (c.table === 'cues' && (c.before?.block === true) !== (c.after?.block === true)),
  );

/** Slots that a change writes, by cue. */
function writtenIn(changes: readonly RowChange[]): Map<string, string[]> {
  const written = new Map<string, string[]>();
  for (const c of changes) {
    const row = c.table === 'values' ? (c.after ?? c.before) : null;
    if (!row) continue;
    const keys = written.get(row.cueId);
    const key = slotKey(row.fixtureId, row.attribute);
    if (keys) keys.push(key);
    else written.set(row.cueId, [key]);
  }
  return written;
}

/** A place of a list: the cue as it was, as it will be, or both. */
interface Place {
  was: CueRow | undefined;
  is: CueRow | undefined;
}

/** A list before and after as one; null where cues that stay change their order. */
function inStep(before: readonly CueRow[], after: readonly CueRow[]): Place[] | null {
  const there = new Set(before.map((c) => c.id));
  const stays = new Set(after.map((c) => c.id));
  const both: Place[] = [];
  let i = 0;
  let j = 0;
  while (i < before.length || j < after.length) {
    const was = before[i];
    const is = after[j];
    if (was && !stays.has(was.id)) {
      both.push({ was, is: undefined });
      i++;
    } else if (is && !there.has(is.id)) {
      both.push({ was: undefined, is });
      j++;
    } else if (was?.id === is?.id) {
      both.push({ was, is });
      i++;
      j++;
    } else return null;
  }
  return both;
}

interface Sides {
  show: Show;
  after: BookAfter;
  both: readonly Place[];
  keys: readonly string[];
  written: ReadonlyMap<string, readonly string[]>;
}

/** What a slot showed when a place of the list was reached, while both sides are alike. */
function reached({ show, both }: Sides, place: number, key: string): Shown {
  for (let i = place - 1; i >= 0; i--) {
    const cue = both[i]?.was;
    const set = cue && show.valuesOf(cue.id).get(key);
    if (set) return shownOf(show, set);
    if (cue && isComplete(show, cue)) return DARK;
  }
  return DARK;
}

/** Slots of a place at which the two sides may part. */
function writtenAt({ show, after, keys, written }: Sides, { was, is }: Place): readonly string[] {
  if (was && is) return written.get(is.id) ?? [];
  if (is) return keys.filter((key) => after.value(is.id, key));
  return was ? keys.filter((key) => show.valuesOf(was.id).has(key)) : [];
}

/**
 * Before and after beside each other, and of each slot only as long as the two differ: what is recorded in the middle of
 * thousands of cues costs what it changes, and not what there is (consequences.test.ts).
 */
function sideBySide(sides: Sides, report: Report): void {
  const { show, after, both } = sides;
  const order = new Map(sides.keys.map((key, i) => [key, i]));
  const apart = new Map<string, { was: Shown; is: Shown }>();
  both.forEach((place, p) => {
    const { was, is } = place;
    const here = writtenAt(sides, place);
    if (apart.size === 0 && here.length === 0) return;
    const lets = was !== undefined && is !== undefined && isComplete(show, was);
    for (const key of new Set([...apart.keys(), ...here])) {
      const own = was && show.valuesOf(was.id).get(key);
      const next = is && after.value(is.id, key);
      const from = apart.get(key);
      const before = (side: 'was' | 'is'): Shown =>
        lets ? DARK : (from?.[side] ?? reached(sides, p, key));
      const now = {
        was: own ? shownOf(show, own) : before('was'),
        is: next ? shownOf(show, next) : before('is'),
      };
      if (differs(now.was, now.is)) apart.set(key, now);
      else apart.delete(key);
    }
    if (was && is && apart.size > 0)
      report(
        is,
        [...apart]
          .sort(([a], [b]) => (order.get(a) ?? 0) - (order.get(b) ?? 0))
          .map(([key, it]) => ({ key, before: it.was.level, after: it.is.level })),
      );
  });
}
