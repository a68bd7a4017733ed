/** Light over a cue list: how much of it, and how much of the rig each cue moves, by family. */
import { levelOf } from '../looks/value.ts';
import { familyOf } from '../rig/attributes.ts';
import type { Family } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import { slotKey, type CueRow } from './rows.ts';
import { advanceTo, type Tracked } from './tracking.ts';

/** Families that move besides the light itself. */
export const MOVING: readonly Family[] = ['position', 'colour', 'beam'];

/** How light and families go over a cue list, a figure for each cue. */
export interface LightOver {
  cues: CueRow[];
  /** By cue: the mean level of the units that have an intensity, in percent. */
  light: number[];
  /** By family and cue: of all units, the share for which the cue sets something of the family, in percent. */
  moves: Readonly<Record<string, number[]>>;
}

const percent = (part: number, of: number): number =>
  of === 0 ? 0 : Math.round((part / of) * 1000) / 10;

/** One pass over the list, however long it is. */
export function lightOver(show: Show, listId: string): LightOver {
  const dimmers = [...show.fixtures.keys()].map((id) => slotKey(id, 'Dimmer'));
  const cues: CueRow[] = [];
  const light: number[] = [];
  const moves: Record<string, number[]> = Object.fromEntries(MOVING.map((f) => [f, []]));
  const state = new Map<string, Tracked>();
  for (const cue of show.cuesOf(listId)) {
    advanceTo(show, state, cue);
    const moved = new Map<Family, Set<string>>(MOVING.map((f) => [f, new Set<string>()]));
    for (const value of show.valuesOf(cue.id).values())
      if (value.level !== null) moved.get(familyOf(value.attribute))?.add(value.fixtureId);
    let sum = 0;
    for (const key of dimmers) {
      const tracked = state.get(key);
      if (tracked) sum += levelOf(show, tracked.value) ?? 0;
    }
    cues.push(cue);
    light.push(percent(sum, dimmers.length));
    for (const [family, units] of moved) moves[family]?.push(percent(units.size, dimmers.length));
  }
  return { cues, light, moves };
}
