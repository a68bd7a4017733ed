/** Parts of a selection, and selections by what units are or do. Ids in, ids out; order counts. */
import { modeOf } from '../fixtures/points.ts';
import { attributesOf, baseOf } from '../rig/attributes.ts';
import { plain } from '../rig/search.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Show } from '../show/show.ts';
import { shuffled } from '../effects/spread.ts';

/** Fixtures in the order of their numbers. */
export const byNumber = (show: Pick<Show, 'fixtures'>): FixtureRow[] =>
  [...show.fixtures.values()].sort((a, b) => a.number - b.number);

/** Every n-th, beginning with the one at `from`, counted from 1. */
export const everyNth = (ids: readonly string[], n: number, from = 1): string[] =>
  ids.filter((_, i) => i >= from - 1 && (i - (from - 1)) % n === 0);

/** The first or the second half; the middle one of an odd number belongs to the first. */
export const half = (ids: readonly string[], which: 'first' | 'second'): string[] => {
  const middle = Math.ceil(ids.length / 2);
  return which === 'first' ? ids.slice(0, middle) : ids.slice(middle);
};

/** In an order of chance, the same for the same seed. */
export const inChance = (ids: readonly string[], seed: number): string[] =>
  shuffled(ids.length, seed).flatMap((i) => ids[i] ?? []);

const positionOf = (show: Pick<Show, 'fixtures'>, id: string): { x: number; y: number } =>
  show.fixtures.get(id)?.position ?? { x: 0, y: 0 };

/** From the audience's left to its right; upstage of two at one place first. */
export const acrossStage = (show: Pick<Show, 'fixtures'>, ids: readonly string[]): string[] =>
  [...ids].sort(
    (a, b) =>
      positionOf(show, a).x - positionOf(show, b).x ||
      positionOf(show, b).y - positionOf(show, a).y,
  );

/** Farther than this from the mirror place is no partner. */
const MIRROR_M = 1;

/**
 * Units that hang opposite each other, left one first, outermost pair first; who has no partner comes alone at the end.
 * The mirror is the middle of the selection.
 */
export function mirroredPairs(show: Pick<Show, 'fixtures'>, ids: readonly string[]): string[][] {
  if (ids.length === 0) return [];
  const at = ids.map((id) => ({ id, ...positionOf(show, id) }));
  const middle = (Math.min(...at.map((p) => p.x)) + Math.max(...at.map((p) => p.x))) / 2;
  const waiting = [...at].sort((a, b) => Math.abs(b.x - middle) - Math.abs(a.x - middle));
  const pairs: string[][] = [];
  const alone: string[][] = [];
  while (waiting.length > 0) {
    const one = waiting.shift();
    if (!one) break;
    const apart = (p: { x: number; y: number }): number =>
      Math.hypot(p.x - (2 * middle - one.x), p.y - one.y);
    const other = waiting.filter((p) => apart(p) < MIRROR_M).sort((a, b) => apart(a) - apart(b))[0];
    if (!other) {
      alone.push([one.id]);
      continue;
    }
    waiting.splice(waiting.indexOf(other), 1);
    pairs.push(one.x <= other.x ? [one.id, other.id] : [other.id, one.id]);
  }
  return [...pairs, ...alone];
}

/** Everything that is not selected, by number; what is off the rig stays out. */
export const inverted = (show: Pick<Show, 'fixtures'>, ids: readonly string[]): string[] => {
  const chosen = new Set(ids);
  return byNumber(show)
    .filter((f) => !chosen.has(f.id) && f.patch.length > 0)
    .map((f) => f.id);
};

/** Units whose maker, type or mode has all these words, ignoring case, spaces and punctuation. */
export function ofType(show: Pick<Show, 'fixtures' | 'types'>, words: string): string[] {
  const wanted = plain(words);
  if (wanted === '') return [];
  return byNumber(show)
    .filter((f) => {
      const type = show.types.get(f.typeId);
      return (
        type !== undefined &&
        [type.name, type.maker + type.name, type.maker, type.name + f.mode].some(
          (name) => plain(name).startsWith(wanted) || plain(name) === wanted,
        )
      );
    })
    .map((f) => f.id);
}

/** Units that can do an attribute, as a whole or by their cells. */
export const withAttribute = (
  show: Pick<Show, 'fixtures' | 'types'>,
  attribute: string,
): string[] =>
  byNumber(show)
    .filter((f) => {
      const mode = modeOf(show, f);
      return mode ? attributesOf(mode).some((a) => baseOf(a) === attribute) : false;
    })
    .map((f) => f.id);

/** Units that a cue sets something of. */
export function movedBy(show: Pick<Show, 'fixtures' | 'valuesOf'>, cueId: string): string[] {
  const moved = new Set([...show.valuesOf(cueId).values()].map((v) => v.fixtureId));
  return byNumber(show)
    .filter((f) => moved.has(f.id))
    .map((f) => f.id);
}

/** A light that is brighter than this is lit. */
export const LIT = 0.004;
