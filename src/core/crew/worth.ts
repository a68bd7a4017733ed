/** What addresses are worth against other sources of the network: parts of the rig that another desk has, or shares. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { fromAbsolute } from '../fixtures/points.ts';
import { occupied } from '../rig/addresses.ts';
import type { Show } from '../show/show.ts';

/** As the universe’s route says. */
export const AS_ROUTE = 255;

/** By universe, for those in which a part says so: 512 priorities of 0-200, `AS_ROUTE` for the others. */
export function worthOnWire(show: Show): Map<number, Uint8Array> {
  const found = new Map<number, Uint8Array>();
  const worth = new Map<string, number>();
  for (const part of show.parts.values())
    if (part.priority !== undefined) for (const id of part.fixtures) worth.set(id, part.priority);
  if (worth.size === 0) return found;
  for (const { fixture, from, to } of occupied(show)) {
    const priority = worth.get(fixture.id);
    if (priority === undefined) continue;
    const { universe, address } = fromAbsolute(from);
    const all = found.get(universe) ?? new Uint8Array(UNIVERSE_SLOTS).fill(AS_ROUTE);
    found.set(universe, all.fill(priority, address - 1, address + to - from));
  }
  return found;
}

/** Tables whose changes may change it. */
export const WORTH_TABLES: ReadonlySet<string> = new Set(['parts', 'fixtures', 'types']);
