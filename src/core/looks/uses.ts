/** How often palettes, looks and effects are used, counted once for each state of the show. */
import type { Show } from '../show/show.ts';
import type { LookItem } from './rows.ts';

interface Counts {
  /** Cues by the id of what they use. */
  cues: ReadonlyMap<string, number>;
  /** Looks by the id of what is in them. */
  looks: ReadonlyMap<string, number>;
}
const kept = new WeakMap<Show, { version: string; counts: Counts }>();

/** The palette, effect or look that an item of a look is; [] where it is levels of its own. */
function leanedOn(item: LookItem): string | [] {
  switch (item.kind) {
    case 'palette':
      return item.palette;
    case 'effect':
      return item.effect;
    case 'look':
      return item.look;
    default:
      return [];
  }
}

/** How many cues and looks lean on each palette, look and effect; kept while neither changes. */
export function referenceCounts(show: Show): Counts {
  const version = `${show.version('values')}/${show.version('looks')}`;
  const known = kept.get(show);
  if (known?.version === version) return known.counts;
  const inCues = new Map<string, Set<string>>();
  const note = (id: string | undefined, cueId: string): void => {
    if (id === undefined) return;
    const cues = inCues.get(id) ?? new Set<string>();
    cues.add(cueId);
    inCues.set(id, cues);
  };
  for (const v of show.values.values()) {
    note(v.palette, v.cueId);
    note(v.look, v.cueId);
    note(v.effect?.id, v.cueId);
  }
  const looks = new Map<string, number>();
  for (const look of show.looks.values()) {
    const ids = new Set(look.items.flatMap(leanedOn));
    for (const id of ids) looks.set(id, (looks.get(id) ?? 0) + 1);
  }
  const counts = { cues: new Map([...inCues].map(([id, set]) => [id, set.size])), looks };
  kept.set(show, { version, counts });
  return counts;
}
