/** Who sits on which DMX address, and where there is room. */
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import type { Mode } from '../types/rows.ts';
import { LIMITS } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import { footprintOf } from './attributes.ts';

export const UNIVERSE_SLOTS = 512;

/** Absolute address from 1: universe 2 address 1 is 513. */
export const absolute = (p: PatchPoint): number => (p.universe - 1) * UNIVERSE_SLOTS + p.address;
export const fromAbsolute = (n: number): PatchPoint => ({
  universe: Math.floor((n - 1) / UNIVERSE_SLOTS) + 1,
  address: ((n - 1) % UNIVERSE_SLOTS) + 1,
});
export const formatPoint = (p: PatchPoint): string => `${p.universe}.${p.address}`;

/** `3.21` or an absolute address 1-131072. */
export function parsePoint(text: string): PatchPoint | undefined {
  const dotted = /^(\d{1,3})\.(\d{1,3})$/.exec(text.trim());
  if (dotted) {
    const point = { universe: Number(dotted[1]), address: Number(dotted[2]) };
    return point.universe >= 1 &&
      point.universe <= LIMITS.universes &&
      point.address >= 1 &&
      point.address <= UNIVERSE_SLOTS
      ? point
      : undefined;
  }
  const single = /^\d{1,6}$/.exec(text.trim());
  const n = single ? Number(single[0]) : 0;
  return n >= 1 && n <= LIMITS.universes * UNIVERSE_SLOTS ? fromAbsolute(n) : undefined;
}

/** `1.5, 2.7` for multi-patch; a type's further addresses as `b2 4.1`. */
export const formatPoints = (points: readonly PatchPoint[]): string =>
  points.map((p) => (p.break ? `b${p.break} ${formatPoint(p)}` : formatPoint(p))).join(', ');

/** `b2 256.512`, with some spaces. */
const LONGEST_POINT = 40;

/** Reads what `formatPoints` writes; undefined when one of them is no address. */
export function parsePoints(text: string): PatchPoint[] | undefined {
  const points: PatchPoint[] = [];
  for (const part of text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '')) {
    if (part.length > LONGEST_POINT) return undefined;
    const marked = /^b([2-4])\s+(.*)$/i.exec(part);
    const point = parsePoint(marked?.[2] ?? part);
    if (!point) return undefined;
    points.push(marked ? { ...point, break: Number(marked[1]) } : point);
  }
  return points;
}

const MOST_POINTS = 64;

/** Further addresses of one number: `2.301, 2.305`, or `2.301 x4` for four of them one after the other. @param width channels of each */
export function morePoints(text: string, width: number): PatchPoint[] | undefined {
  const points: PatchPoint[] = [];
  for (const part of text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '')) {
    const run = /^(\S+)\s*[x×*]\s*(\d{1,2})$/i.exec(part);
    const first = parsePoint(run?.[1] ?? part);
    const count = Number(run?.[2] ?? 1);
    if (!first || count < 1 || points.length + count > MOST_POINTS) return undefined;
    for (let i = 0; i < count; i++) {
      const at = absolute(first) + i * width;
      // None of them straddles two universes.
      if (first.address + i * width + width - 1 > UNIVERSE_SLOTS) return undefined;
      points.push(fromAbsolute(at));
    }
  }
  return points.length > 0 ? points : undefined;
}

export function modeOf(show: Pick<Show, 'types'>, fixture: FixtureRow): Mode | undefined {
  return show.types.get(fixture.typeId)?.modes.find((m) => m.name === fixture.mode);
}

/** Absolute addresses, both ends in it. */
export interface Range {
  from: number;
  to: number;
}
export interface Occupied extends Range {
  fixture: FixtureRow;
}

/** Channels that a fixture takes at one of its points. */
export const widthAt = (mode: Mode | undefined, point: PatchPoint): number =>
  mode ? Math.max(1, footprintOf(mode, point.break ?? 1)) : 1;

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

/** Addresses of one fixture, a range for each of its points. */
export function rangesAt(show: Pick<Show, 'types'>, fixture: FixtureRow): Occupied[] {
  const mode = modeOf(show, fixture);
  return fixture.patch.map((point) => ({
    from: absolute(point),
    to: absolute(point) + widthAt(mode, point) - 1,
    fixture,
  }));
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
