/** Where units go when they are patched or moved one after the other: addresses, overflow, clashes, in words. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { refuse, type Refusal } from '../refusal.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import type { Mode } from '../types/rows.ts';
import { LIMITS } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import { clashAt, nextFree, occupied } from './addresses.ts';
import {
  absolute,
  formatPoint,
  fromAbsolute,
  type Occupied,
  type Range,
} from '../fixtures/points.ts';
import { footprintOf } from './attributes.ts';

/** A unit that wants addresses. */
export interface Unit {
  /** For the words of a refusal. */
  number: number;
  mode: Mode;
}

/** Where addresses are wanted. */
export interface Wanted {
  start: PatchPoint;
  /** Free channels between two units. */
  gap: number;
  /** When the universe is full, go on at the start of the next one. */
  overflow: boolean;
}

const LAST = LIMITS.universes * UNIVERSE_SLOTS;

/**
 * Addresses for units in their order, from `start`. A unit never straddles two universes. Further addresses of a type
 * (its breaks) go to the next free run after all first ones.
 * @param except fixtures that are moving and do not stand in their own way
 */
export function placeUnits(
  show: Show,
  units: readonly Unit[],
  { start, gap, overflow }: Wanted,
  except?: ReadonlySet<string>,
): PatchPoint[][] | Refusal {
  const ranges = occupied(show, except);
  const places: PatchPoint[][] = [];
  const taken: Range[] = [];
  let at = absolute(start);
  for (const [i, unit] of units.entries()) {
    const width = footprintOf(unit.mode);
    const before = taken.at(-1);
    if (before && fromAbsolute(at).universe !== fromAbsolute(before.from).universe) {
      if (!overflow) return overflowRefusal(units, start, gap, i);
      at = absolute({ universe: fromAbsolute(at).universe, address: 1 });
    }
    if (fromAbsolute(at).address + width - 1 > UNIVERSE_SLOTS) {
      // The first unit stands where it was put, or not at all; those after it may go on in the next universe.
      if (!overflow || i === 0) return overflowRefusal(units, start, gap, i);
      at = absolute({ universe: fromAbsolute(at).universe + 1, address: 1 });
    }
    if (at + width - 1 > LAST)
      return refuse(
        'overflow',
        `Universe ${LIMITS.universes} is the last; ${units.length - i} of these units do not fit.`,
        { address: 'No room.' },
      );
    const hit = clashAt(ranges, at, at + width - 1);
    if (hit) {
      const all = occupied(show, except);
      const run = (from: PatchPoint): PatchPoint | undefined =>
        nextFree(show, width, units.length, gap, from, all);
      return clashRefusal(unit, at, width, hit, run(start) ?? run({ universe: 1, address: 1 }));
    }
    places.push([fromAbsolute(at)]);
    taken.push({ from: at, to: at + width - 1 });
    at += width + gap;
  }
  for (let n = 2; n <= 4; n++) {
    for (const [i, unit] of units.entries()) {
      const width = footprintOf(unit.mode, n);
      if (width === 0) continue;
      const all: Range[] = [...ranges, ...taken].sort((a, b) => a.from - b.from);
      const free =
        nextFree(show, width, 1, 0, fromAbsolute(Math.min(at, LAST)), all) ??
        nextFree(show, width, 1, 0, { universe: 1, address: 1 }, all);
      if (!free)
        return refuse(
          'overflow',
          'There is no room left for the further addresses of these units.',
          { address: 'No room.' },
        );
      places[i]?.push({ ...free, break: n });
      taken.push({ from: absolute(free), to: absolute(free) + width - 1 });
    }
  }
  return places;
}

function overflowRefusal(
  units: readonly Unit[],
  start: PatchPoint,
  gap: number,
  fits: number,
): Refusal {
  const widths = units.map((u) => footprintOf(u.mode));
  const end = start.address + widths.reduce((a, b) => a + b, 0) + gap * (units.length - 1) - 1;
  const count = `${units.length} ${units.length === 1 ? 'unit' : 'units'}`;
  const what = widths.every((w) => w === widths[0])
    ? `${count} of ${widths[0]} ${widths[0] === 1 ? 'channel' : 'channels'}`
    : count;
  const rest =
    fits === 0
      ? 'None would fit.'
      : `${fits} ${fits === 1 ? 'unit' : 'units'} would fit; the rest can go on in universe ${start.universe + 1}.`;
  return refuse(
    'overflow',
    `${what} at ${formatPoint(start)} would end at ${end}; a universe ends at 512. ${rest}`,
    { address: `Ends at ${end}, past 512.` },
  );
}

/** @param at absolute, of `width` addresses @param free where all that is patched together would fit */
function clashRefusal(
  unit: Unit,
  at: number,
  width: number,
  hit: Occupied,
  free: PatchPoint | undefined,
): Refusal {
  const overlap = Math.min(at + width - 1, hit.to) - Math.max(at, hit.from) + 1;
  return refuse(
    'clash',
    `${unit.number} at ${formatPoint(fromAbsolute(at))} would sit on ${hit.fixture.number} (${hit.fixture.label}) for ${overlap} ${overlap === 1 ? 'address' : 'addresses'}.${free ? ` The next free run starts at ${formatPoint(free)}.` : ''}`,
    {
      address: `Taken by ${hit.fixture.number}${free ? `; ${formatPoint(free)} is free` : ''}.`,
    },
  );
}

/** Moves each point of each fixture by the same number of channels: how a block is dragged across the map. */
export function shifted(
  fixtures: readonly FixtureRow[],
  by: number,
): { id: string; patch: PatchPoint[] }[] | Refusal {
  const moved: { id: string; patch: PatchPoint[] }[] = [];
  for (const fixture of fixtures) {
    const patch: PatchPoint[] = [];
    for (const point of fixture.patch) {
      const to = absolute(point) + by;
      if (to < 1 || to > LAST)
        return refuse(
          'overflow',
          `${fixture.number} would leave the ${LIMITS.universes} universes.`,
          { address: 'Out of range.' },
        );
      patch.push({ ...point, ...fromAbsolute(to) });
    }
    moved.push({ id: fixture.id, patch });
  }
  return moved;
}
