/** How often palettes, looks and effects are used, counted once for each state of the show. */
import { stepsOf } from '../effects/rows.ts';
import type { Show } from '../show/show.ts';
import type { LookItem } from './rows.ts';

/** Cues, looks, effects and faders, by the id of what they use or hold: how many of each do. */
type Counts = Readonly<
  Record<'cues' | 'looks' | 'effects' | 'faders', ReadonlyMap<string, number>>
>;
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

const LEANING = ['values', 'looks', 'effects', 'faders'] as const;

/** In how many of them each id is. */
function counted(all: readonly (readonly string[])[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const ids of all) for (const id of new Set(ids)) counts.set(id, (counts.get(id) ?? 0) + 1);
  return counts;
}

/** How many cues, looks, effects and faders lean on each palette, look and effect; kept while none of them changes. */
export function referenceCounts(show: Show): Counts {
  const version = LEANING.map((table) => show.version(table)).join('/');
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
  const counts: Counts = {
    cues: new Map([...inCues].map(([id, set]) => [id, set.size])),
    looks: counted([...show.looks.values()].map((l) => l.items.flatMap(leanedOn))),
    effects: counted(
      [...show.effects.values()].map((e) => stepsOf(e).flatMap((s) => s.palette ?? [])),
    ),
    faders: counted([...show.faders.values()].map((f) => [f.holds.id])),
  };
  kept.set(show, { version, counts });
  return counts;
}
