/** What a look says for each slot: its levels, palettes, effects and other looks, in their order; what comes later wins. */
import { attributesOfLane, isFamilyLane, saysAnything } from '../effects/lanes.ts';
import { phaseOfUse, sideIn } from '../effects/spread.ts';
import { fixturesIn, membersOf } from '../groups/members.ts';
import { reachOf, type PaletteSource } from '../palettes/resolve.ts';
import { modeOf } from '../fixtures/points.ts';
import { slotKey } from '../cues/rows.ts';
import type { EffectRow, EffectUse } from '../effects/rows.ts';
import type { LookItem, LookRow } from './rows.ts';

/** What a look gives to one slot. */
export interface LookSlot {
  fixtureId: string;
  attribute: string;
  /** Absent when the look has only an effect here. */
  level?: number;
  palette?: string;
  effect?: EffectUse;
  fade_s?: number;
  delay_s?: number;
}

const kept = new WeakMap<
  object,
  { version: string; slots: Map<string, ReadonlyMap<string, LookSlot>> }
>();
const NOTHING: ReadonlyMap<string, LookSlot> = new Map();

/** By slot key; empty for a look that is gone. */
export function lookSlots(source: PaletteSource, lookId: string): ReadonlyMap<string, LookSlot> {
  const version = (['looks', 'palettes', 'effects', 'groups', 'fixtures', 'types'] as const)
    .map((t) => source.version(t))
    .join('/');
  let cache = kept.get(source);
  if (cache?.version !== version) {
    cache = { version, slots: new Map() };
    kept.set(source, cache);
  }
  const known = cache.slots.get(lookId);
  if (known) return known;
  // Set before it is made: a loop that slipped in ends here instead of going round.
  cache.slots.set(lookId, NOTHING);
  const look = source.looks.get(lookId);
  const made = look ? slotsOf(source, look.items) : NOTHING;
  cache.slots.set(lookId, made);
  return made;
}

/** The same for items that are not in the show yet. */
function slotsOf(source: PaletteSource, items: readonly LookItem[]): Map<string, LookSlot> {
  const slots = new Map<string, LookSlot>();
  const at = (fixtureId: string, attribute: string): LookSlot => {
    const key = slotKey(fixtureId, attribute);
    const slot = slots.get(key) ?? { fixtureId, attribute };
    slots.set(key, slot);
    return slot;
  };
  const level = (slot: LookSlot, value: number, palette?: string): void => {
    slot.level = value;
    if (palette === undefined) delete slot.palette;
    else slot.palette = palette;
  };
  for (const item of items) {
    switch (item.kind) {
      case 'level': {
        if (!source.fixtures.has(item.fixtureId)) break;
        const slot = at(item.fixtureId, item.attribute);
        level(slot, item.level);
        if (item.fade_s !== undefined) slot.fade_s = item.fade_s;
        if (item.delay_s !== undefined) slot.delay_s = item.delay_s;
        break;
      }
      case 'palette': {
        const palette = source.palettes.get(item.palette);
        if (!palette) break;
        for (const id of fixturesIn(source, item.members)) {
          const fixture = source.fixtures.get(id);
          const reach = fixture ? reachOf(source, palette, fixture) : [];
          for (const [attribute, value] of reach) level(at(id, attribute), value, palette.id);
        }
        break;
      }
      case 'effect': {
        const effect = source.effects.get(item.effect);
        if (effect)
          for (const use of effectUses(source, effect, item.members))
            at(use.fixtureId, use.attribute).effect = use.effect;
        break;
      }
      case 'look':
        for (const inner of lookSlots(source, item.look).values()) {
          const slot = at(inner.fixtureId, inner.attribute);
          if (inner.level !== undefined) level(slot, inner.level, inner.palette);
          if (inner.effect) slot.effect = inner.effect;
          if (inner.fade_s !== undefined) slot.fade_s = inner.fade_s;
          if (inner.delay_s !== undefined) slot.delay_s = inner.delay_s;
        }
        break;
    }
  }
  return slots;
}

/** What a look says, slot by slot, as values that follow it. */
export const contentsOfLook = (
  source: PaletteSource,
  id: string,
): { fixtureId: string; attribute: string; level: number; look: string }[] =>
  [...lookSlots(source, id).values()].map((s) => ({
    fixtureId: s.fixtureId,
    attribute: s.attribute,
    level: s.level ?? 0,
    look: id,
  }));

/** An effect over members in their order: which slots it moves, each at its place in the cycle. */
export function effectUses(
  source: PaletteSource,
  effect: EffectRow,
  members: readonly string[],
): { fixtureId: string; attribute: string; effect: EffectUse }[] {
  const ids = fixturesIn(source, members);
  const [only] = members;
  const group =
    members.length === 1 && only !== undefined && source.groups.has(only) ? { group: only } : {};
  return effectOver(
    source,
    effect,
    ids.map((fixtureId, at) => ({ fixtureId, place: { at, of: ids.length, ...group } })),
  );
}

/** A unit's place among those that an effect is spread over. */
export interface EffectPlace {
  fixtureId: string;
  place: { at: number; of: number; group?: string | undefined };
}

/** An effect over units at their places: which slots it moves. */
export function effectOver(
  source: PaletteSource,
  effect: EffectRow,
  units: readonly EffectPlace[],
): { fixtureId: string; attribute: string; effect: EffectUse }[] {
  return units.flatMap(({ fixtureId, place: { at, of, group } }) => {
    const fixture = source.fixtures.get(fixtureId);
    const mode = fixture ? modeOf(source, fixture) : undefined;
    if (!mode) return [];
    const use: EffectUse = {
      id: effect.id,
      phase: phaseOfUse(effect, { phase: 0, at, of }, sideIn(source, effect, fixtureId)),
      at,
      of,
      ...(group === undefined ? {} : { group }),
    };
    const attributes = new Set(
      effect.tracks.flatMap((t) =>
        attributesOfLane(mode, t).filter(
          (a) => !isFamilyLane(t) || saysAnything(source, t, fixtureId, a),
        ),
      ),
    );
    return [...attributes].map((attribute) => ({ fixtureId, attribute, effect: use }));
  });
}

/**
 * Places of units that run an effect, by unit; uses from before places were kept get theirs in the order in which the
 * effect reaches them, then of their numbers.
 */
export function placesOf(
  source: Pick<PaletteSource, 'fixtures'>,
  uses: readonly { fixtureId: string; effect: EffectUse }[],
): EffectPlace[] {
  const byUnit = new Map(uses.map((u) => [u.fixtureId, u.effect]));
  const number = (id: string): number => source.fixtures.get(id)?.number ?? 0;
  const order = [...byUnit]
    .sort(([a, x], [b, y]) => x.phase - y.phase || number(a) - number(b))
    .map(([id]) => id);
  return [...byUnit].map(([fixtureId, { at, of, group }]) => ({
    fixtureId,
    place:
      at === undefined || of === undefined
        ? { at: order.indexOf(fixtureId), of: order.length, group }
        : { at, of, group },
  }));
}

/** Whether a look holds this one, directly or through others, if it had these items. */
export function lookHolds(
  source: Pick<PaletteSource, 'looks'>,
  items: readonly LookItem[],
  id: string,
): boolean {
  const entered = new Set<string>();
  const reaches = (at: string): boolean => {
    if (at === id) return true;
    if (entered.has(at)) return false;
    entered.add(at);
    return source.looks.get(at)?.items.some((i) => i.kind === 'look' && reaches(i.look)) ?? false;
  };
  return items.some((i) => i.kind === 'look' && reaches(i.look));
}

/** Looks that hold this one, directly or through others, and itself. */
export const looksAround = (source: Pick<PaletteSource, 'looks'>, id: string): string[] =>
  [...source.looks.values()]
    .filter((l) => l.id === id || lookHolds(source, l.items, id))
    .map((l) => l.id);

/** The members of a look's groups and fixtures, for words: `12 fixtures`. */
export const fixturesOfLook = (source: PaletteSource, look: LookRow): string[] => [
  ...new Set([...lookSlots(source, look.id).values()].map((s) => s.fixtureId)),
];

/** The group whose members these are, in this order, if there is one. */
export const groupOf = (source: PaletteSource, ids: readonly string[]): string | undefined => {
  const wanted = ids.join();
  return [...source.groups.values()].find((g) => membersOf(source, g).join() === wanted)?.id;
};
