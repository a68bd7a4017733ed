/** What the selection is and shows: its fixtures with their attributes, and levels in common. */
import { useMemo } from 'react';
import { modeOf } from '@/core/fixtures/points';
import { attributesOf, baseOf, familyOf } from '@/core/rig/attributes';
import { unitOfLevel } from '@/core/rig/unit-value';
import { slotKey } from '@/core/cues/rows';
import type { Channel, Mode, TypeRow } from '@/core/types/rows';
import type { Family } from '@/core/show/fields';
import type { FixtureRow } from '@/core/fixtures/rows';
import { levels, useLevelTick } from '../../state/levels';
import { useScreen, useShow } from '../../state/store';

/** A unit that is selected. */
export interface Chosen {
  fixture: FixtureRow;
  type: TypeRow;
  mode: Mode;
  attributes: readonly string[];
}

const known = new WeakMap<Mode, readonly string[]>();
const attributesIn = (mode: Mode): readonly string[] => {
  const found = known.get(mode) ?? attributesOf(mode);
  known.set(mode, found);
  return found;
};

/** All that are, in their order. */
export function useChosen(): Chosen[] {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const version = `${show.version('fixtures')}/${show.version('types')}`;
  return useMemo(() => {
    void version;
    return selection.flatMap((id) => {
      const fixture = show.fixtures.get(id);
      const type = fixture ? show.types.get(fixture.typeId) : undefined;
      const mode = fixture ? modeOf(show, fixture) : undefined;
      return fixture && type && mode
        ? [{ fixture, type, mode, attributes: attributesIn(mode) }]
        : [];
    });
  }, [show, selection, version]);
}

/** A unit’s channel of an attribute. */
export const channelOf = (c: Chosen, attribute: string): Channel | undefined =>
  c.mode.channels.find((x) => x.attribute === attribute);

/** The level that a slot is set to on this screen: what is held, or what shows. */
export function useLevels(): (fixtureId: string, attribute: string) => number {
  useLevelTick();
  const index = useScreen((s) => s.index);
  const values = useScreen((s) => s.values);
  return (fixtureId, attribute) => {
    const key = slotKey(fixtureId, attribute);
    return values.get(key)?.level ?? levels.now[index.get(key) ?? -1] ?? 0;
  };
}

/** How far values of several units are apart. */
export interface Range {
  /** In the attribute's unit. */
  low: number;
  high: number;
  /** The highest as a level, for handles. */
  level: number;
  lowLevel: number;
  able: Chosen[];
  /** A channel that has it, for its range. */
  channel: Channel | undefined;
}

/** What an attribute of a unit is called on it: itself, or that of its first cell. */
const ownOf = (c: Chosen, attribute: string): string =>
  c.attributes.includes(attribute)
    ? attribute
    : (c.attributes.find((a) => baseOf(a) === attribute) ?? attribute);

/** Each unit of the selection, in its order: where an attribute of it is, in its unit. */
export function useEach(chosen: readonly Chosen[], attribute: string): number[] {
  const at = useLevels();
  return chosen.map((c) => {
    const own = ownOf(c, attribute);
    return unitOfLevel(own, channelOf(c, own), at(c.fixture.id, own));
  });
}

/** Lowest and highest of an attribute over the selection, in its unit. */
export function useRange(chosen: readonly Chosen[], attribute: string): Range {
  const at = useLevels();
  const able = useMemo(
    () =>
      chosen.filter((c) =>
        c.attributes.some(
          (a) => a === attribute || (baseOf(a) === attribute && !c.attributes.includes(attribute)),
        ),
      ),
    [chosen, attribute],
  );
  let [low, high, lowLevel, level] = [Infinity, -Infinity, 1, 0];
  for (const c of able) {
    const own = ownOf(c, attribute);
    const now = at(c.fixture.id, own);
    const value = unitOfLevel(own, channelOf(c, own), now);
    low = Math.min(low, value);
    high = Math.max(high, value);
    lowLevel = Math.min(lowLevel, now);
    level = Math.max(level, now);
  }
  const first = able[0];
  return {
    low,
    high,
    level,
    lowLevel,
    able,
    channel: first
      ? (channelOf(first, attribute) ??
        first.mode.channels.find((c) => baseOf(c.attribute) === attribute))
      : undefined,
  };
}

/** Whether something of a family is held of the selection and not recorded. */
export function usePending(chosen: readonly Chosen[], family: Family): boolean {
  const values = useScreen((s) => s.values);
  return useMemo(() => {
    const ids = new Set(chosen.map((c) => c.fixture.id));
    for (const v of values.values())
      if (!v.recorded && ids.has(v.fixtureId) && familyOf(v.attribute) === family) return true;
    return false;
  }, [chosen, values, family]);
}
