/** Cues as moves: which slots a GO, a back or a go-to moves, where to and in what time. */
import { prePositions } from '../cues/pre-position.ts';
import { isComplete, stateAt } from '../cues/tracking.ts';
import { slotTimes } from '../cues/value-times.ts';
import { effectOf, levelOf, type Valued } from '../looks/value.ts';
import { FAMILIES } from '../show/fields.ts';
import type { CueRow, ValueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';
import type { Moves } from './list-moves.ts';
import { curveIndex } from './fades.ts';
import type { FindWave } from './programs.ts';
import { POSITION } from './slots.ts';

interface Draft {
  slot: number;
  level: number;
  up: number;
  down: number;
  delay: number;
  curve: number;
  wave: number;
  phase: number;
  tracks?: boolean;
}

/** Where cues are played: the rig as slots, and the clock's programs. */
export interface Onto {
  index: ReadonlyMap<string, number>;
  family: Uint8Array;
  find: FindWave;
}

/** Moves in columns, as the clock takes them. */
export function columns(drafts: readonly Draft[]): Moves {
  return {
    slot: Uint32Array.from(drafts, (d) => d.slot),
    level: Float32Array.from(drafts, (d) => d.level),
    up: Float32Array.from(drafts, (d) => d.up),
    down: Float32Array.from(drafts, (d) => d.down),
    delay: Float32Array.from(drafts, (d) => d.delay),
    curve: Uint8Array.from(drafts, (d) => d.curve),
    wave: Int32Array.from(drafts, (d) => d.wave),
    phase: Float32Array.from(drafts, (d) => d.phase),
    tracks: Uint8Array.from(drafts, (d) => (d.tracks ? 1 : 0)),
  };
}

const LINEAR = curveIndex('linear');
const SMOOTH = curveIndex('smooth');

/** In what time a value moves on the clock; `curve` is a place in CURVES. */
export function timesOf(
  value: Pick<ValueRow, 'fade_s' | 'delay_s' | 'part'>,
  cue: CueRow,
  family: number,
): { up: number; down: number; delay: number; curve: number } {
  const times = slotTimes(value, cue, FAMILIES[family] ?? 'control');
  const usual = family === POSITION ? SMOOTH : LINEAR;
  return {
    ...times,
    curve: times.curve === undefined ? usual : curveIndex(times.curve),
  };
}

function timed(show: Show, slot: number, value: ValueRow, cue: CueRow, onto: Onto): Draft {
  return {
    slot,
    level: levelOf(show, value) ?? NaN,
    ...timesOf(value, cue, onto.family[slot] ?? 0),
    ...waveOf(show, value, onto.find),
  };
}

/** The wave that a value runs, as the clock knows it. */
export function waveOf(show: Show, value: Valued, find: FindWave): { wave: number; phase: number } {
  const effect = effectOf(show, value);
  return effect
    ? { wave: find(effect.id, value.attribute, value.fixtureId), phase: effect.phase }
    : STILL;
}
const STILL = { wave: -1, phase: 0 };

/** GO: a cue moves the slots that it sets; slots that only track keep doing what they do. A complete cue lets go of the rest. */
export function cueMoves(show: Show, onto: Onto, cue: CueRow): Moves {
  const drafts: Draft[] = [];
  const set = show.valuesOf(cue.id);
  for (const [key, value] of set) {
    const slot = onto.index.get(key);
    if (slot !== undefined) drafts.push(timed(show, slot, value, cue, onto));
  }
  if (isComplete(show, cue)) {
    for (const [key, slot] of onto.index)
      if (!set.has(key))
        drafts.push({ slot, level: NaN, ...timesOf({}, cue, onto.family[slot] ?? 0), ...STILL });
  }
  for (const { key, value, delay_s } of prePositions(show, cue)) {
    const slot = onto.index.get(key);
    if (slot === undefined) continue;
    const draft = timed(show, slot, { ...value, part: undefined }, cue, onto);
    drafts.push({ ...draft, delay: Math.max(draft.delay, delay_s) });
  }
  return columns(drafts);
}

/**
 * Go to, back and cut: the full tracked state of a cue; slots that the list holds beyond it are let go.
 * @param time_s one time for all, or undefined for the cue's own times
 */
export function stateMoves(
  show: Show,
  onto: Onto,
  listId: string,
  cue: CueRow | undefined,
  time_s: number | undefined,
): Moves {
  const state = cue ? stateAt(show, listId, cue.number) : new Map<string, { value: ValueRow }>();
  const drafts: Draft[] = [];
  const fallback = time_s ?? cue?.up_s ?? 0;
  for (const [key, slot] of onto.index) {
    const tracked = state.get(key);
    const tracks = tracked !== undefined && tracked.value.cueId !== cue?.id;
    const curve = onto.family[slot] === POSITION ? SMOOTH : LINEAR;
    if (!tracked)
      drafts.push({
        slot,
        level: NaN,
        up: fallback,
        down: time_s ?? cue?.down_s ?? 0,
        delay: 0,
        curve,
        ...STILL,
      });
    else if (cue && time_s === undefined)
      drafts.push({
        ...timed(
          show,
          slot,
          tracks ? { ...tracked.value, part: undefined } : tracked.value,
          cue,
          onto,
        ),
        tracks,
      });
    else
      drafts.push({
        slot,
        level: levelOf(show, tracked.value) ?? NaN,
        up: fallback,
        down: fallback,
        delay: 0,
        curve,
        ...waveOf(show, tracked.value, onto.find),
        tracks,
      });
  }
  return columns(drafts);
}
