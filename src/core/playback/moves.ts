/** Cues as moves: which slots a GO, a back or a go-to moves, where to and in what time. */
import { stateAt } from '../cues/tracking.ts';
import { effectOf, levelOf, type Valued } from '../looks/value.ts';
import { FAMILIES, type CueRow, type ValueRow } from '../show/rows.ts';
import type { Show } from '../show/show.ts';
import type { Moves } from './engine.ts';
import { INTENSITY } from './slots.ts';

interface Draft {
  slot: number;
  level: number;
  up: number;
  down: number;
  delay: number;
  wave: number;
  phase: number;
}

/** Finds the place of an effect's wave in the clock's programs. */
export type FindWave = (effectId: string, attribute: string) => number;

function columns(drafts: readonly Draft[]): Moves {
  return {
    slot: Uint32Array.from(drafts, (d) => d.slot),
    level: Float32Array.from(drafts, (d) => d.level),
    up: Float32Array.from(drafts, (d) => d.up),
    down: Float32Array.from(drafts, (d) => d.down),
    delay: Float32Array.from(drafts, (d) => d.delay),
    wave: Int32Array.from(drafts, (d) => d.wave),
    phase: Float32Array.from(drafts, (d) => d.phase),
  };
}

/** Time of a slot: own time > family time > the cue's. Families other than intensity take the up time for both ways. */
function timed(show: Show, slot: number, value: ValueRow, cue: CueRow, family: number, find: FindWave): Draft {
  const familyTime = cue.family_s[FAMILIES[family] ?? 'control'];
  const up = value.fade_s ?? familyTime ?? cue.up_s;
  const down = value.fade_s ?? familyTime ?? (family === INTENSITY ? cue.down_s : cue.up_s);
  return { slot, level: levelOf(show, value) ?? NaN, up, down, delay: value.delay_s ?? cue.delay_s, ...waveOf(show, value, find) };
}

/** The wave that a value runs, as the clock knows it. */
export function waveOf(show: Show, value: Valued, find: FindWave): { wave: number; phase: number } {
  const effect = effectOf(show, value);
  return effect ? { wave: find(effect.id, value.attribute), phase: effect.phase } : STILL;
}
const STILL = { wave: -1, phase: 0 };

/** GO: a cue moves the slots that it sets; slots that only track keep doing what they do. */
export function cueMoves(show: Show, index: ReadonlyMap<string, number>, family: Uint8Array, cue: CueRow, find: FindWave): Moves {
  const drafts: Draft[] = [];
  for (const [key, value] of show.valuesOf(cue.id)) {
    const slot = index.get(key);
    if (slot !== undefined) drafts.push(timed(show, slot, value, cue, family[slot] ?? 0, find));
  }
  return columns(drafts);
}

/**
 * Go to, back and cut: the full tracked state of a cue; slots that the list holds beyond it are let go.
 * @param time_s one time for all, or undefined for the cue's own times
 */
export function stateMoves(show: Show, index: ReadonlyMap<string, number>, family: Uint8Array, listId: string, cue: CueRow | undefined, time_s: number | undefined, find: FindWave): Moves {
  const state = cue ? stateAt(show, listId, cue.number) : new Map<string, { value: ValueRow }>();
  const drafts: Draft[] = [];
  const fallback = time_s ?? cue?.up_s ?? 0;
  for (const [key, slot] of index) {
    const tracked = state.get(key);
    if (!tracked) drafts.push({ slot, level: NaN, up: fallback, down: time_s ?? cue?.down_s ?? 0, delay: 0, ...STILL });
    else if (cue && time_s === undefined) drafts.push(timed(show, slot, tracked.value, cue, family[slot] ?? 0, find));
    else drafts.push({ slot, level: levelOf(show, tracked.value) ?? NaN, up: fallback, down: fallback, delay: 0, ...waveOf(show, tracked.value, find) });
  }
  return columns(drafts);
}
