/**
 * What a list is told, slot by slot: it goes into a cue, to a moment of its track, lets go, is edited while it plays
 * (docs/playback.md). The engine calls these between frames.
 */
import type { EffectClock } from './effect-clock.ts';
import type { SavedEffect } from './effect-layer.ts';
import type { ListMerge } from './list-merge.ts';
import type { Playback } from './playback.ts';
import { INTENSITY, type Slots } from './slots.ts';

/** Where every slot of a list is at a moment, as columns: moves that began so many seconds ago (negative: still to begin). */
export interface Sought {
  slot: Uint32Array;
  from: Float32Array;
  /** NaN lets go. */
  to: Float32Array;
  ago: Float64Array;
  span: Float32Array;
  curve: Uint8Array;
  /** What runs on slots there, with what is on its way in and out. */
  effects: SavedEffect[];
  /** The moment, on the list's track. */
  at_s: number;
  /** Since its cue went, and how long that cue takes. */
  ago_s: number;
  total_s: number;
}

/** What a cue moves, as columns over its slots. `level` NaN lets go. Times in seconds. */
export interface Moves {
  slot: Uint32Array;
  level: Float32Array;
  up: Float32Array;
  down: Float32Array;
  delay: Float32Array;
  /** Index into CURVES. */
  curve: Uint8Array;
  /** Place of a wave in the programs, or -1 for none, and the phase it has here. */
  wave: Int32Array;
  phase: Float32Array;
  /** 1 where an earlier cue has said it: an effect of so many rounds goes on where it runs, and is not begun. Absent: none. */
  tracks?: Uint8Array;
}

/** What an edit makes of a slot that a cue on stage gives. `level` NaN: it is not of it any more. */
export interface Retold {
  level: number;
  wave?: number;
  phase?: number;
  presence?: number | undefined;
  asBefore?: boolean | undefined;
}

/** What a list moves on. */
export interface ListStage {
  readonly slots: Slots;
  readonly lists: ListMerge;
  readonly effects: EffectClock;
  /** A slot is to be rendered. */
  readonly mark: (slot: number) => void;
}

/** An effect that an edit brings to the cue on stage, or takes from it, comes and goes in this time. */
const EDIT_FADE_S = 0.5;

/**
 * Each slot moves from what it is at this instant.
 * @param base on the list’s clock, from which it counts
 * @returns seconds until all have arrived
 */
export function moveList(
  on: ListStage,
  list: Playback,
  moves: Moves,
  base: number,
  stamp: number,
): number {
  let total = 0;
  for (let i = 0; i < moves.slot.length; i++) {
    const slot = moves.slot[i] as number;
    const wanted = moves.level[i] as number;
    if (Number.isNaN(wanted) && list.owned[slot] === 0) continue;
    total = Math.max(
      total,
      Number.isNaN(wanted)
        ? letSlotGo(on, list, moves, i, base)
        : moveSlot(on, list, moves, i, base, stamp),
    );
    on.mark(slot);
  }
  return total;
}

/**
 * A slot moves from what is on stage, whoever put it there. A list that gives it already goes on from where it is;
 * any other begins at what shows (continuity.test.ts). @returns seconds until it has arrived
 */
function moveSlot(
  on: ListStage,
  list: Playback,
  moves: Moves,
  i: number,
  base: number,
  stamp: number,
): number {
  const slot = moves.slot[i] as number;
  if (list.ridesOnly) return rideSlot(on, list, moves, i, stamp);
  const family = on.slots.family[slot];
  const isIntensity = family === INTENSITY;
  const to = moves.level[i] as number;
  on.lists.played(slot);
  const { unridden: stage, least } = on.lists;
  const isMine = list.owned[slot] === 1 && list.releasing[slot] === 0 && on.lists.by === list;
  if (!isMine) list.begin(slot, stage, isIntensity);
  list.owned[slot] = 1;
  list.acts(slot, stamp);
  // Beneath a stronger one it must not lift what is on its way out and shows less.
  const isUnder = !takesOver(on, list, slot);
  if (isUnder && !isMine && isIntensity && !list.ltp)
    list.begin(slot, Math.min(stage, least), true);
  const from = isMine ? (list.fades.level[slot] as number) : stage;
  const end = isMine || list.gain === 0 ? to : to * list.gain;
  const timed = (isIntensity && end < from ? moves.down[i] : moves.up[i]) as number;
  // What cannot fade takes its value at the start, or at the end where its type says so.
  const snap = on.slots.snap[slot] as number;
  const duration = snap === 0 ? timed : 0;
  const delay = (moves.delay[i] as number) + (snap === 2 ? timed : 0);
  const curve = moves.curve[i] as number;
  list.fades.move(slot, to, base + delay, duration, curve, list.clock_s);
  if (list.carry && (list.carry.level[slot] as number) > 0)
    list.carry.move(slot, 0, base + delay, duration, curve, list.clock_s);
  list.effects.move(slot, moves, i, { delay, duration });
  return delay + duration;
}

/** An effect comes in over whatever plays. @returns seconds until it is whole */
function rideSlot(on: ListStage, list: Playback, moves: Moves, i: number, stamp: number): number {
  const slot = moves.slot[i] as number;
  const delay = moves.delay[i] as number;
  const span = moves.up[i] as number;
  const { now_s } = on.effects;
  const wave = moves.wave[i] as number;
  list.acts(slot, stamp);
  if (wave >= 0) list.rides(slot, wave, moves.phase[i] as number, now_s + delay, span, now_s);
  return delay + span;
}

/**
 * What a list has taken over from the stage, with what was on its way out there, is no longer on its way out.
 * @returns false where another that stays is stronger, so that what is on its way out goes on leaving
 */
function takesOver(on: ListStage, list: Playback, slot: number): boolean {
  const { lists } = on.lists;
  if (!lists.some((l) => l.releasing[slot] === 1)) return true;
  if (on.lists.merge(slot, null) !== list) return false;
  for (const other of lists)
    if (other.releasing[slot] === 1 && !other.ridesOnly) other.givesUp(slot);
  return true;
}

/** A slot is let go of: what is beneath comes through, also while that moves. @returns seconds until it is gone */
function letSlotGo(on: ListStage, list: Playback, moves: Moves, i: number, base: number): number {
  const slot = moves.slot[i] as number;
  const isIntensity = on.slots.family[slot] === INTENSITY;
  // What would show if this list were not there.
  const falls = isIntensity && on.lists.played(slot, list) < list.gives(slot, true);
  const timed = (falls ? moves.down[i] : moves.up[i]) as number;
  const snap = on.slots.snap[slot] as number;
  const duration = snap === 0 ? timed : 0;
  const delay = (moves.delay[i] as number) + (snap === 2 ? timed : 0);
  list.letsGo(slot, base + delay, duration);
  if (list.share?.level[slot] === 0) list.disown(slot);
  return delay + duration;
}

/** All that a list holds is let go, in a time. */
export function lettingAllGo(list: Playback, time_s: number): Moves {
  const held: number[] = [];
  for (let slot = 0; slot < list.owned.length; slot++) if (list.owned[slot] === 1) held.push(slot);
  const n = held.length;
  return {
    slot: Uint32Array.from(held),
    level: new Float32Array(n).fill(NaN),
    up: new Float32Array(n).fill(time_s),
    down: new Float32Array(n).fill(time_s),
    delay: new Float32Array(n),
    curve: new Uint8Array(n),
    wave: new Int32Array(n).fill(-1),
    phase: new Float32Array(n),
  };
}

/** Every slot is where it would be at the moment, on its way or at rest; what the list held beyond that is let go. */
export function seekList(on: ListStage, list: Playback, sought: Sought, stamp: number): void {
  const keeps = new Uint8Array(list.owned.length);
  for (let i = 0; i < sought.slot.length; i++) keeps[sought.slot[i] as number] = 1;
  for (let slot = 0; slot < list.owned.length; slot++) {
    if (list.owned[slot] !== 1 || keeps[slot] === 1) continue;
    list.disown(slot);
    on.mark(slot);
  }
  for (let i = 0; i < sought.slot.length; i++) seekSlot(on, list, sought, i, stamp);
  list.effects.goAlong(sought.at_s);
  seekEffects(on, list, sought);
}

function seekSlot(on: ListStage, list: Playback, sought: Sought, i: number, stamp: number): void {
  const slot = sought.slot[i] as number;
  const to = sought.to[i] as number;
  const ago = sought.ago[i] as number;
  const span = sought.span[i] as number;
  list.effects.drop(slot);
  list.keeps(slot);
  list.owned[slot] = 1;
  list.acts(slot, stamp);
  list.carry?.clear(slot, 0);
  const from = sought.from[i] as number;
  list.fades.clear(slot, from);
  if (Number.isNaN(to)) list.letsGo(slot, list.clock_s - ago, span);
  else
    list.fades.enter(slot, to, list.clock_s - ago, span, sought.curve[i] as number, list.clock_s);
  on.mark(slot);
}

function seekEffects(on: ListStage, list: Playback, { effects }: Sought): void {
  if (effects.length === 0) return;
  const waves = new Map(on.effects.programs.waves.map((w, i) => [w.key, i]));
  for (const kept of effects) {
    const wave = waves.get(kept.key);
    if (wave !== undefined) list.effects.restore(kept.slot, wave, kept);
  }
}

/** All of a list but intensity is there by so much. */
export function weighList(on: ListStage, list: Playback, level: number, span_s: number): void {
  for (let slot = 0; slot < list.owned.length; slot++) {
    if (list.owned[slot] !== 1 || on.slots.family[slot] === INTENSITY) continue;
    weigh(on, list, slot, level, span_s);
    on.mark(slot);
  }
}

function weigh(on: ListStage, list: Playback, slot: number, level: number, span_s: number): void {
  if (on.slots.snap[slot] === 0) list.weighs(slot, level, span_s);
  else list.weighs(slot, level < 0.5 ? 0 : 1, 0);
}

/**
 * An edit reached the cue on stage: the slot goes to its new value, or its running fade ends there.
 * @param stamp later than any touch until now
 */
export function retellSlot(
  on: ListStage,
  list: Playback,
  slot: number,
  { level, wave = -1, phase = 0, presence, asBefore }: Retold,
  stamp: number,
): void {
  const { now_s } = on.effects;
  if (Number.isNaN(level) && list.ridesOnly) list.letsGo(slot, list.clock_s, EDIT_FADE_S);
  else if (Number.isNaN(level)) list.disown(slot);
  else {
    if (list.owned[slot] === 0) list.acts(slot, asBefore ? list.lastAct : stamp);
    list.owned[slot] = 1;
    if (presence === undefined || on.slots.family[slot] === INTENSITY) list.keeps(slot);
    else if (list.releasing[slot] === 0) weigh(on, list, slot, presence, 0);
    list.fades.retarget(slot, level, list.clock_s);
    if (wave >= 0) list.effects.retell(slot, wave, phase, EDIT_FADE_S, now_s);
    else list.effects.end(slot, now_s, EDIT_FADE_S, now_s);
  }
  on.mark(slot);
}
