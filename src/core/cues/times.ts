/**
 * Times of cues as they are played: what the Book, Run and paper say is what the engine does with the same values
 * (times.test.ts plays cues and compares).
 */
import { levelOf } from '../looks/value.ts';
import { modeOf } from '../fixtures/points.ts';
import { familyOf } from '../rig/attributes.ts';
import { FAMILIES, type Family } from '../show/fields.ts';
import type { CueRow, ValueRow } from './rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Show } from '../show/show.ts';
import { formatTime } from './clock.ts';
import { prePositions } from './pre-position.ts';
import { isComplete } from './tracking.ts';
import { slotTimes } from './value-times.ts';

/** One family of a cue, on its way up or down. */
export interface Way {
  family: Family;
  isDown: boolean;
  /** Seconds from GO until its last slot has arrived. */
  end_s: number;
}
/** How long a cue takes, and what goes when. */
export interface CueTiming {
  /** Seconds from GO until everything has arrived; 0 for a cue that moves nothing. */
  total_s: number;
  ways: Way[];
}
const NOTHING: CueTiming = { total_s: 0, ways: [] };

interface Kept {
  version: string;
  lists: Map<string, ReadonlyMap<string, CueTiming>>;
}
const kept = new WeakMap<Show, Kept>();
const MEANT = [
  'cues',
  'values',
  'lists',
  'palettes',
  'looks',
  'groups',
  'fixtures',
  'types',
] as const;

/** Times of every cue of a list gone through in order, by cue id. One walk through its values, kept until something changes. */
export function listTimings(show: Show, listId: string): ReadonlyMap<string, CueTiming> {
  const version = MEANT.map((t) => show.version(t)).join('/');
  let found = kept.get(show);
  if (found?.version !== version) {
    found = { version, lists: new Map() };
    kept.set(show, found);
  }
  const known = found.lists.get(listId) ?? walk(show, listId);
  found.lists.set(listId, known);
  return known;
}

/** How long a cue takes, in seconds: its longest fade with its delay. */
export const timingOf = (show: Show, cue: CueRow): CueTiming =>
  listTimings(show, cue.listId).get(cue.id) ?? NOTHING;

function walk(show: Show, listId: string): Map<string, CueTiming> {
  const timings = new Map<string, CueTiming>();
  const shown = new Map<string, { level: number; of: Pick<ValueRow, 'fixtureId' | 'attribute'> }>();
  const snapOf = snaps(show);
  for (const cue of show.cuesOf(listId)) {
    const ways = new Map<string, Way>();
    let total_s = 0;
    const arrives = (
      value: Pick<ValueRow, 'fixtureId' | 'attribute' | 'fade_s' | 'delay_s' | 'part'>,
      falls: boolean,
      least_s = 0,
    ): void => {
      const family = familyOf(value.attribute);
      const { up, down, delay } = slotTimes(value, cue, family);
      const isDown = family === 'intensity' && falls;
      const timed = isDown ? down : up;
      const snap = snapOf(value.fixtureId, value.attribute);
      const end_s = Math.max(delay, least_s) + (snap === 'start' ? 0 : timed);
      total_s = Math.max(total_s, end_s);
      const key = `${family}/${isDown}`;
      const way = ways.get(key) ?? { family, isDown, end_s: 0 };
      way.end_s = Math.max(way.end_s, end_s);
      ways.set(key, way);
    };
    const set = show.valuesOf(cue.id);
    if (isComplete(show, cue)) {
      for (const [key, { level, of }] of [...shown]) {
        if (set.has(key)) continue;
        arrives(of, level > 0);
        shown.delete(key);
      }
    }
    for (const [key, value] of set) {
      const before = shown.get(key);
      const level = levelOf(show, value);
      if (level === null) {
        if (before) arrives(value, before.level > 0);
        shown.delete(key);
        continue;
      }
      arrives(value, level < (before?.level ?? 0));
      shown.set(key, { level, of: { fixtureId: value.fixtureId, attribute: value.attribute } });
    }
    for (const { value, delay_s } of prePositions(show, cue))
      arrives({ ...value, part: undefined }, false, delay_s);
    timings.set(cue.id, {
      total_s,
      ways: [...ways.values()].sort(
        (a, b) =>
          FAMILIES.indexOf(a.family) - FAMILIES.indexOf(b.family) ||
          Number(a.isDown) - Number(b.isDown),
      ),
    });
  }
  return timings;
}

/** What does not fade, by unit and attribute: it is there at the start of its time, or at its end. */
function snaps(show: Show): (fixtureId: string, attribute: string) => 'start' | 'end' | undefined {
  const known = new Map<string, ReadonlyMap<string, 'start' | 'end'>>();
  const of = (fixture: FixtureRow): ReadonlyMap<string, 'start' | 'end'> => {
    const key = `${fixture.typeId}/${fixture.mode}`;
    const found =
      known.get(key) ??
      new Map(
        (modeOf(show, fixture)?.channels ?? []).flatMap((c) =>
          c.snap ? [[c.attribute, c.snap === 'end' ? 'end' : 'start'] as const] : [],
        ),
      );
    known.set(key, found);
    return found;
  };
  return (fixtureId, attribute) => {
    const fixture = show.fixtures.get(fixtureId);
    return fixture ? of(fixture).get(attribute) : undefined;
  };
}

/** Intensity of a cue without parts: up and down, and the delay before them. */
const intensityTimes = (cue: CueRow): { up: number; down: number; delay: number } =>
  slotTimes({}, cue, 'intensity');

const timed = (delay: number, up: number, down = up): string =>
  `${delay > 0 ? `${formatTime(delay)}+` : ''}${up === down ? formatTime(up) : `${formatTime(up)}/${formatTime(down)}`}`;

/** `5/7`, `1+5, position 2+8, part 2 “Sky” 3+6`: a delay stands before its fade, families and parts with theirs. */
export function timeWords(cue: CueRow): string {
  const { up, down, delay } = intensityTimes(cue);
  const families = (of: Pick<CueRow, 'family_s' | 'familyDelay_s'>, part?: number): string[] =>
    FAMILIES.filter(
      (f) =>
        f !== 'intensity' && (of.family_s[f] !== undefined || of.familyDelay_s?.[f] !== undefined),
    ).map((f) => {
      const t = slotTimes(part === undefined ? {} : { part }, cue, f);
      return `${f} ${timed(t.delay, t.up)}`;
    });
  const parts = (cue.parts ?? []).map((p) => {
    const t = slotTimes({ part: p.number }, cue, 'intensity');
    return [
      `part ${p.number}${p.name ? ` “${p.name}”` : ''} ${timed(t.delay, t.up, t.down)}`,
      ...families({ family_s: p.family_s }, p.number),
    ].join(' ');
  });
  return [timed(delay, up, down), ...families(cue), ...parts].join(', ');
}
