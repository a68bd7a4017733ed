/** Who sits on which DMX address, and where there is room. */
import type { FixtureRow, Mode, PatchPoint } from '../show/rows.ts';
import { LIMITS } from '../show/rows.ts';
import type { Show } from '../show/show.ts';

export const UNIVERSE_SLOTS = 512;

/** Absolute address from 1: universe 2 address 1 is 513. */
export const absolute = (p: PatchPoint): number => (p.universe - 1) * UNIVERSE_SLOTS + p.address;
export const fromAbsolute = (n: number): PatchPoint => ({ universe: Math.floor((n - 1) / UNIVERSE_SLOTS) + 1, address: ((n - 1) % UNIVERSE_SLOTS) + 1 });
export const formatPoint = (p: PatchPoint): string => `${p.universe}.${p.address}`;

/** `3.21` or an absolute address 1-131072. */
export function parsePoint(text: string): PatchPoint | undefined {
  const dotted = /^(\d{1,3})\.(\d{1,3})$/.exec(text.trim());
  if (dotted) {
    const point = { universe: Number(dotted[1]), address: Number(dotted[2]) };
    return point.universe >= 1 && point.universe <= LIMITS.universes && point.address >= 1 && point.address <= UNIVERSE_SLOTS ? point : undefined;
  }
  const single = /^\d{1,6}$/.exec(text.trim());
  const n = single ? Number(single[0]) : 0;
  return n >= 1 && n <= LIMITS.universes * UNIVERSE_SLOTS ? fromAbsolute(n) : undefined;
}

export function modeOf(show: Show, fixture: FixtureRow): Mode | undefined {
  return show.types.get(fixture.typeId)?.modes.find((m) => m.name === fixture.mode);
}

export interface Occupied {
  from: number;
  to: number;
  fixture: FixtureRow;
}

/** Occupied ranges as absolute addresses, in order. */
export function occupied(show: Show, except: ReadonlySet<string> = new Set()): Occupied[] {
  const ranges: Occupied[] = [];
  for (const fixture of show.fixtures.values()) {
    const footprint = modeOf(show, fixture)?.footprint ?? 1;
    if (except.has(fixture.id)) continue;
    for (const point of fixture.patch) ranges.push({ from: absolute(point), to: absolute(point) + footprint - 1, fixture });
  }
  return ranges.sort((a, b) => a.from - b.from);
}

/** First range that overlaps `from…to`; ranges are in order and do not overlap each other. */
export function clashAt(ranges: readonly Occupied[], from: number, to: number): Occupied | undefined {
  let low = 0;
  let high = ranges.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((ranges[middle]?.to ?? 0) < from) low = middle + 1;
    else high = middle;
  }
  const hit = ranges[low];
  return hit && hit.from <= to ? hit : undefined;
}

/** First free run for `quantity` units of `footprint` channels with `gap` between them, all in one universe. */
export function nextFree(show: Show, footprint: number, quantity = 1, gap = 0, start: PatchPoint = { universe: 1, address: 1 }): PatchPoint | undefined {
  const ranges = occupied(show);
  const length = Math.min(quantity * footprint + (quantity - 1) * gap, UNIVERSE_SLOTS);
  let at = absolute(start);
  while (at <= LIMITS.universes * UNIVERSE_SLOTS) {
    const { universe, address } = fromAbsolute(at);
    if (address + length - 1 > UNIVERSE_SLOTS) at = universe * UNIVERSE_SLOTS + 1;
    else {
      const hit = clashAt(ranges, at, at + length - 1);
      if (!hit) return { universe, address };
      at = hit.to + 1;
    }
  }
  return undefined;
}

/** The lowest run of free fixture numbers at or after `start`. */
export function nextNumber(show: Show, quantity = 1, start = 1): number {
  let first = start;
  for (let run = 0, n = start; run < quantity; n++) {
    if (show.fixtureByNumber(n)) {
      run = 0;
      first = n + 1;
    } else run++;
  }
  return first;
}
