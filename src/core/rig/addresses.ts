/** Who sits on which DMX address, and where there is room. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import type { Range, Occupied } from '../fixtures/points.ts';
import { absolute, fromAbsolute, rangesAt } from '../fixtures/points.ts';
import type { PatchPoint } from '../fixtures/rows.ts';
import { LIMITS } from '../show/fields.ts';
import type { Show } from '../show/show.ts';

interface Kept {
  version: string;
  ranges: Occupied[];
}
const kept = new WeakMap<Show, Kept>();

/** Occupied ranges as absolute addresses, in order. Made once per change of the rig: do not change what is returned. */
export function occupied(show: Show, except?: ReadonlySet<string>): readonly Occupied[] {
  if (except && except.size > 0) return rangesOf(show, except);
  const version = `${show.version('fixtures')}/${show.version('types')}`;
  const known = kept.get(show);
  if (known?.version === version) return known.ranges;
  const ranges = rangesOf(show, new Set());
  kept.set(show, { version, ranges });
  return ranges;
}

function rangesOf(show: Show, except: ReadonlySet<string>): Occupied[] {
  const ranges = [...show.fixtures.values()].flatMap((fixture) =>
    except.has(fixture.id) ? [] : rangesAt(show, fixture),
  );
  return ranges.sort((a, b) => a.from - b.from);
}

/** First range that overlaps `from…to`; ranges are in order and do not overlap each other. */
export function clashAt<R extends Range>(
  ranges: readonly R[],
  from: number,
  to: number,
): R | undefined {
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
export function nextFree(
  show: Show,
  footprint: number,
  quantity = 1,
  gap = 0,
  start: PatchPoint = { universe: 1, address: 1 },
  ranges: readonly Range[] = occupied(show),
): PatchPoint | undefined {
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

/** Free addresses of one universe, both ends among them. */
export interface FreeRun {
  universe: number;
  from: number;
  to: number;
}

/** Free runs of at least so many channels in the universes from `first` to `last`. */
export function freeRuns(show: Show, length: number, first: number, last: number): FreeRun[] {
  const ranges = occupied(show);
  const runs: FreeRun[] = [];
  for (let universe = first; universe <= last; universe++) {
    const start = absolute({ universe, address: 1 });
    const end = start + UNIVERSE_SLOTS - 1;
    let at = start;
    while (at <= end) {
      const hit = clashAt(ranges, at, end);
      const to = hit ? Math.min(end, hit.from - 1) : end;
      if (to - at + 1 >= length) runs.push({ universe, from: at - start + 1, to: to - start + 1 });
      at = hit ? hit.to + 1 : end + 1;
    }
  }
  return runs;
}

/** Channels in use by universe. */
export function usedByUniverse(show: Show): Map<number, number> {
  const used = new Map<number, number>();
  for (const r of occupied(show)) {
    const { universe } = fromAbsolute(r.from);
    used.set(universe, (used.get(universe) ?? 0) + r.to - r.from + 1);
  }
  return used;
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
