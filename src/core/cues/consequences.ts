/** What a write changes beyond the cue it is aimed at: judged on what cues show, not on rows. */
import { concernedBy, effectOf, levelOf } from '../looks/value.ts';
import type { PaletteSource } from '../palettes/resolve.ts';
import type { CueRow, ValueRow } from './rows.ts';
import type { EffectRow } from '../effects/rows.ts';
import { slotKey } from './rows.ts';
import { bookAfter } from './after.ts';
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
      const effect = effectOf(source, set);
      running[i] = {
        level: levelOf(source, set),
        effect: effect ? source.effects.get(effect.id) : undefined,
        phase: effect?.phase ?? 0,
      };
    });
    shown.set(cue.id, [...running]);
  }
  return shown;
}

/**
 * Cues that look different after `changes`, in list order; the cues in `aimed` are left out.
 * Cost: cues of the touched lists x touched slots.
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
      if (!before || !now || aimed.has(cue.id)) continue;
      const seen = keys.flatMap((key, i): Difference[] => {
        const [was, is] = [before[i] ?? DARK, now[i] ?? DARK];
        return differs(was, is) ? [{ key, before: was.level, after: is.level }] : [];
      });
      if (seen.length > 0)
        found.push({
          cueId: cue.id,
          listId,
          number: cue.number,
          name: cue.name,
          slots: seen.length,
          differences: seen.slice(0, DIFFERENCES_KEPT),
        });
    }
  }
  return found;
}
