/** Where in an effect's cycle each unit of a selection stands (docs/playback.md, Effects). */
import type { IdOf } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import type { EffectRow, EffectUse } from './rows.ts';

/** A repeatable source of chance, 0…1: the same numbers for the same seed. */
function chance(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** 0…n-1 in an order of chance. */
export function shuffled(n: number, seed: number): number[] {
  const next = chance(seed);
  const order = Array.from({ length: n }, (_, i) => i);
  for (let i = n - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1));
    [order[i], order[j]] = [order[j] as number, order[i] as number];
  }
  return order;
}

const turn = (v: number): number => {
  const share = v - Math.floor(v);
  return Math.round(share * 1e6) / 1e6 === 1 ? 0 : Math.round(share * 1e6) / 1e6;
};

const known = new WeakMap<EffectRow['spread'], Map<number, number[]>>();

/**
 * Where in its round a use of an effect stands now, 0…1: by where its unit hangs, by its place and the effect's spread,
 * or as it was written. @param side 0…1, the unit's place from one side of the rig to the other
 */
export function phaseOfUse(
  effect: EffectRow,
  use: Pick<EffectUse, 'phase' | 'at' | 'of'>,
  side: number | undefined,
): number {
  if (effect.spread.across && side !== undefined) return turn(effect.spread.turns * side);
  if (use.at === undefined || use.of === undefined) return use.phase;
  const bySize = known.get(effect.spread) ?? new Map<number, number[]>();
  known.set(effect.spread, bySize);
  const all = bySize.get(use.of) ?? phases(use.of, effect.spread);
  bySize.set(use.of, all);
  return all[use.at] ?? use.phase;
}

/** Phases 0…1 for so many units in their order. */
export function phases(
  count: number,
  { turns, groups, blocks, wings, seed }: EffectRow['spread'],
): number[] {
  const wing = Math.ceil(count / wings);
  const places = Array.from({ length: count }, (_, i) => {
    const part = Math.floor(i / wing);
    const within = i % wing;
    // Every other wing runs the other way, so that wings mirror each other.
    const size = Math.min(wing, count - part * wing);
    return Math.floor((part % 2 === 1 ? size - 1 - within : within) / blocks);
  });
  const steps = groups > 0 ? groups : Math.max(1, ...places.map((p) => p + 1));
  const order = seed === undefined ? undefined : shuffled(steps, seed);
  return places.map((p) => turn((turns * (order ? (order[p % steps] ?? 0) : p % steps)) / steps));
}

const extents = new WeakMap<object, { version: number; from: number; width: number }>();

/** The same, where the effect goes by it. */
export const sideIn = (
  source: Pick<Show, 'fixtures' | 'version'>,
  effect: EffectRow,
  fixtureId: IdOf<'fixtures'>,
): number | undefined => (effect.spread.across ? sideOf(source, fixtureId) : undefined);

/** A unit's place from one side of the rig to the other, 0…1; all in one line have the middle's. */
export function sideOf(
  source: Pick<Show, 'fixtures' | 'version'>,
  fixtureId: IdOf<'fixtures'>,
): number | undefined {
  const fixture = source.fixtures.get(fixtureId);
  if (!fixture) return undefined;
  const version = source.version('fixtures');
  let extent = extents.get(source);
  if (extent?.version !== version) {
    const xs = [...source.fixtures.values()].map((f) => f.position.x);
    const from = xs.reduce((least, x) => Math.min(least, x), Infinity);
    const to = xs.reduce((most, x) => Math.max(most, x), -Infinity);
    extent = { version, from, width: to - from };
    extents.set(source, extent);
  }
  return extent.width > 0 ? (fixture.position.x - extent.from) / extent.width : 0.5;
}
