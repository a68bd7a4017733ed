/** What this screen would record: values that its person holds, or what is lit. */
import { modeOf } from '@/core/fixtures/points';
import { slotKey, type RecordedValue } from '@/core/cues/rows';
import { stateAt } from '@/core/cues/tracking';
import { recordedValue } from '@/core/live/held';
import { levelOf } from '@/core/looks/value';
import { attributesOf, familyOf } from '@/core/rig/attributes';
import { sourceAttribute } from '@/core/rig/transform';
import { byNumber, LIT } from '@/core/select/select';
import type { Family } from '@/core/show/fields';
import { firstList } from '@/core/show/show';
import type { ApiError } from './api';
import { edit, type EditAnswer, type EditOptions } from './edits';
import { counting } from './filter';
import { levels } from './levels';
import { useScreen } from './store';

/** Where a recording goes, and how. */
export interface RecordOptions {
  number: number;
  listId?: string;
  name?: string;
  up_s?: number;
  down_s?: number;
  mode: 'track' | 'only';
  existing: 'may' | 'must' | 'must-not';
  how?: 'merge' | 'over' | 'remove';
}
/** Which values: held ones that are not recorded, or all that is lit; of these families and fixtures alone. */
export interface RecordFilter {
  from: 'programmer' | 'stage';
  families?: readonly Family[];
  selected?: boolean;
  /** Attributes that are left out. */
  without?: readonly string[];
}

/** What is lit, as values of a record: with the palette or look that it follows, where it does. */
function litValues(): RecordedValue[] {
  const { show, index, playback } = useScreen.getState();
  const states = playback.lists.flatMap((l) =>
    l.cueNumber === null ? [] : [stateAt(show, l.id, l.cueNumber)],
  );
  return lit().flatMap((fixtureId) => {
    const fixture = show.fixtures.get(fixtureId);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    return (mode ? attributesOf(mode) : []).flatMap((attribute): RecordedValue[] => {
      const key = slotKey(fixtureId, attribute);
      const slot = index.get(key);
      if (slot === undefined || familyOf(attribute) === 'control') return [];
      const level = Math.round((levels.now[slot] ?? 0) * 10_000) / 10_000;
      const recorded = states
        .map((s) => s.get(key)?.value)
        .find((v) => v && Math.abs((levelOf(show, v) ?? -1) - level) < SAME_LEVEL);
      const { palette, look, effect } = recorded ?? {};
      return [
        {
          fixtureId,
          attribute,
          level,
          ...(palette === undefined ? {} : { palette }),
          ...(look === undefined ? {} : { look }),
          ...(effect === undefined ? {} : { effect }),
        },
      ];
    });
  });
}
const SAME_LEVEL = 0.003;

/** The values that a record would take. */
export function recordValues(
  { from, families, selected, without = [] }: RecordFilter = { from: 'programmer' },
): RecordedValue[] {
  const { values, selection } = useScreen.getState();
  const all =
    from === 'stage'
      ? litValues()
      : [...values.values()].filter((v) => !v.recorded).map(recordedValue);
  const chosen = selected ? new Set(selection) : undefined;
  const wanted = families ?? counting();
  return all.filter(
    (v) =>
      (!wanted || wanted.includes(familyOf(v.attribute))) &&
      (!chosen || chosen.has(v.fixtureId)) &&
      !without.includes(v.attribute),
  );
}

/** What is held, as the edit that records it wants it. */
export const recordParams = (
  { listId, ...options }: RecordOptions,
  filter?: RecordFilter,
): Record<string, unknown> => ({
  listId: listId ?? firstList(useScreen.getState().show)?.id ?? '',
  ...options,
  values: recordValues(filter),
});

/** Records what is held. */
export const record = (
  options: RecordOptions,
  filter?: RecordFilter,
  how?: EditOptions,
): Promise<EditAnswer | ApiError> => edit('record-cue', recordParams(options, filter), how);

/** Fixtures that are lit on this screen, by number. */
export function lit(): string[] {
  const { show, index } = useScreen.getState();
  return byNumber(show)
    .filter((f) => (levels.now[index.get(slotKey(f.id, 'Dimmer')) ?? -1] ?? 0) >= LIT)
    .map((f) => f.id);
}

/** What you hold, as the values of a record. */
export function heldValues(): RecordedValue[] {
  const wanted = counting();
  return [...useScreen.getState().values.values()]
    .filter((v) => !wanted || wanted.includes(familyOf(v.attribute)))
    .map(recordedValue);
}

/** Level of a unit’s attribute as this screen has it. */
export function levelOfUnit(fixtureId: string, attribute: string): number | undefined {
  const { show, index } = useScreen.getState();
  const unit = show.fixtures.get(fixtureId);
  const slot = unit && index.get(slotKey(fixtureId, sourceAttribute(unit, attribute)));
  return slot === undefined ? undefined : levels.now[slot];
}
