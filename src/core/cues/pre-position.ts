/**
 * Pre-positioning: a fixture that is dark in one cue and lit in the next, and moves there, moves while it is dark
 * (docs/playback.md). Position, colour and beam go together.
 */
import { levelOf } from '../looks/value.ts';
import { familyOf } from '../rig/attributes.ts';
import { slotKey, type CueRow, type ValueRow } from './rows.ts';
import type { Show } from '../show/show.ts';
import { slotTimes } from './value-times.ts';
import { cueAfter, cueBefore, stateAt, trackedAt, type Tracked } from './tracking.ts';

/** A value that a cue sets in the dark, for the cue after it. */
export interface Early {
  key: string;
  /** As the next cue sets it. */
  value: ValueRow;
  /** Seconds after this cue's GO, so that it is dark by then. */
  delay_s: number;
}

/** Dark means at least this long dark before it moves. */
const DARK_S = 0.5;
/** Above this many fixtures one whole state is cheaper than a walk for each. */
const WALK_UP_TO = 20;
const EARLY = new Set(['position', 'colour', 'beam']);

/** True when what this cue lights may have moved before. */
const mayPrePosition = (show: Show, cue: CueRow): boolean =>
  cue.prePosition ?? show.lists.get(cue.listId)?.prePosition ?? false;

/** What moves in `cue` already, for the cue after it. */
export function prePositions(show: Show, cue: CueRow): Early[] {
  const next = cueAfter(show, cue.listId, cue.number);
  if (!next || !mayPrePosition(show, next)) return [];
  const set = show.valuesOf(cue.id);
  const moving = [...show.valuesOf(next.id)].filter(
    ([key, v]) => v.level !== null && EARLY.has(familyOf(v.attribute)) && !set.has(key),
  );
  if (moving.length === 0) return [];
  const before = cueBefore(show, cue.listId, cue.number);
  const fixtures = new Set(moving.map(([, v]) => v.fixtureId));
  const reader = (number: number | undefined): ((key: string) => Tracked | undefined) => {
    if (number === undefined) return () => undefined;
    if (fixtures.size <= WALK_UP_TO) return (key) => trackedAt(show, cue.listId, number, key);
    const state = stateAt(show, cue.listId, number);
    return (key) => state.get(key);
  };
  const [was, is, will] = [reader(before?.number), reader(cue.number), reader(next.number)];
  const lit = (tracked: Tracked | undefined): boolean =>
    tracked !== undefined && (levelOf(show, tracked.value) ?? 0) > 0;
  const darkAfter = new Map<string, number>();
  for (const fixtureId of fixtures) {
    const dimmer = slotKey(fixtureId, 'Dimmer');
    if (lit(is(dimmer)) || !lit(will(dimmer))) continue;
    const out = is(dimmer)?.value ?? set.get(dimmer);
    const times = slotTimes(out?.cueId === cue.id ? out : {}, cue, 'intensity');
    const fade = times.delay + times.down;
    darkAfter.set(fixtureId, lit(was(dimmer)) ? fade + DARK_S : 0);
  }
  return moving.flatMap(([key, value]): Early[] => {
    const delay_s = darkAfter.get(value.fixtureId);
    return delay_s === undefined ? [] : [{ key, value, delay_s }];
  });
}
