/**
 * A list as if it had been played from its beginning to a moment: where every slot is on its way (docs/playback.md).
 * The arithmetic is the clock’s own (`playback/fades.ts`); a cue that comes while another is under way begins from
 * where that is.
 */
import { listTimings } from '../cues/times.ts';
import type { CueRow } from '../cues/rows.ts';
import { bend } from '../playback/fades.ts';
import type { Moves } from '../playback/engine.ts';
import { cueMoves, stateMoves, type Onto } from '../playback/moves.ts';
import { INTENSITY } from '../playback/slots.ts';
import type { Show } from '../show/show.ts';
import { isInOrder, timedCues, type TimedCue } from './timed.ts';

/** A slot on its way, in seconds of the track; `span_s` 0 stands. NaN in `to` has let go. */
export interface Way {
  from: number;
  to: number;
  /** What is seen at its end: `to`, or what rests beneath where it lets go. */
  end: number;
  start_s: number;
  span_s: number;
  /** Index into CURVES. */
  curve: number;
  /** The wave that runs on it, -1 for none, with its phase and when it came in. */
  wave: number;
  phase: number;
  waveStart_s: number;
  waveSpan_s: number;
}

export interface PlayedTo {
  /** The cue that the list is in; undefined before the first. */
  cue: TimedCue | undefined;
  ways: Map<number, Way>;
}

/** Where slots begin that nothing of the list has moved yet, and which of them take their values at once. */
export interface Rig extends Onto {
  /** By slot, 0…1. */
  resting: Float32Array;
  /** By slot: 0 fades, 1 at the start, 2 at the end. */
  snap: Uint8Array;
  /** Seconds of the rounds of a wave's effect; Infinity where it does not end by itself. */
  lasts: (wave: number) => number;
}

/** A sum of moments is off by less than this. */
const TINY = 1e-6;

/** @returns 0…1 at a moment; NaN where it has let go */
export function levelAt(way: Way, at_s: number): number {
  const { from, to, end, start_s, span_s, curve } = way;
  const gone = at_s - start_s;
  if (gone >= span_s - TINY) return to;
  // What lets go does so evenly, whatever the cue’s curve, as the clock does it (track.test.ts).
  const shape = Number.isNaN(to) ? 0 : curve;
  return gone <= 0 ? from : from + (end - from) * bend(shape, gone / span_s);
}

function apply(ways: Map<number, Way>, rig: Rig, moves: Moves, cue: TimedCue): void {
  const { at_s } = cue;
  for (let i = 0; i < moves.slot.length; i++) {
    const slot = moves.slot[i] as number;
    const to = moves.level[i] as number;
    const before = ways.get(slot);
    if (Number.isNaN(to) && !before) continue;
    const was = before ? levelAt(before, at_s) : NaN;
    const from = Number.isNaN(was) ? (rig.resting[slot] ?? 0) : was;
    const end = Number.isNaN(to) ? (rig.resting[slot] ?? 0) : to;
    const isDown = rig.family[slot] === INTENSITY && end < from;
    const timed = (isDown ? moves.down[i] : moves.up[i]) as number;
    const snap = rig.snap[slot] as number;
    const delay = (moves.delay[i] as number) + (snap === 2 ? timed : 0);
    const wave = moves.wave[i] as number;
    const isSame =
      before?.wave === wave && wave >= 0 && at_s < before.waveStart_s + rig.lasts(wave);
    ways.set(slot, {
      from,
      to,
      end,
      start_s: at_s + delay,
      span_s: snap === 0 ? timed : 0,
      curve: moves.curve[i] as number,
      wave,
      phase: moves.phase[i] as number,
      // An effect that runs already goes on; it came in when it did.
      waveStart_s: isSame ? before.waveStart_s : at_s + delay,
      waveSpan_s: isSame ? before.waveSpan_s : (moves.up[i] as number),
    });
  }
}

/**
 * The first cue from which everything has to be gone through: all fades of those before it had ended when it came, so
 * that they are one state.
 */
function beginning(show: Show, listId: string, cues: readonly TimedCue[]): number {
  const timings = listTimings(show, listId);
  let first = 0;
  let ends_s = 0;
  cues.forEach((cue, i) => {
    if (i > 0 && ends_s <= cue.at_s) first = i;
    ends_s = Math.max(ends_s, cue.at_s + (timings.get(cue.id)?.total_s ?? 0));
  });
  return first;
}

const hasEffects = (show: Show, cues: readonly CueRow[]): boolean =>
  cues.some((c) => [...show.valuesOf(c.id).values()].some((v) => v.effect ?? v.look));

/** Slots that have let go are nobody’s any more. */
function withoutGone(ways: Map<number, Way>, at_s: number): void {
  for (const [slot, way] of ways)
    if (Number.isNaN(way.to) && at_s >= way.start_s + way.span_s) ways.delete(slot);
}

/** @param at_s of the track; cues at that very moment have come */
export function playedTo(show: Show, rig: Rig, listId: string, at_s: number): PlayedTo {
  const all = show.cuesOf(listId);
  const cues = timedCues(show, listId).filter((c) => c.at_s <= at_s);
  const ways = new Map<number, Way>();
  // When an effect came in decides its weight: then nothing is left out.
  const first = hasEffects(show, cues) ? 0 : beginning(show, listId, cues);
  cues.forEach((cue, i) => {
    if (i < first - 1) return;
    const isWhole = i === first - 1 || !isInOrder(cues[i - 1], cue, all);
    const moves = isWhole
      ? stateMoves(show, rig, listId, cue, i === first - 1 ? 0 : undefined)
      : cueMoves(show, rig, cue);
    apply(ways, rig, moves, cue);
  });
  withoutGone(ways, at_s);
  return { cue: cues.at(-1), ways };
}

/**
 * The track from its beginning to its end, once: each moment with where every slot is.
 * @param moments in seconds, in their order
 */
export function playThrough(
  show: Show,
  rig: Rig,
  listId: string,
  moments: readonly number[],
  see: (i: number, ways: ReadonlyMap<number, Way>) => void,
): void {
  const all = show.cuesOf(listId);
  const cues = timedCues(show, listId);
  const ways = new Map<number, Way>();
  let next = 0;
  moments.forEach((at_s, i) => {
    for (; next < cues.length; next++) {
      const cue = cues[next];
      if (!cue || cue.at_s > at_s) break;
      const moves = isInOrder(cues[next - 1], cue, all)
        ? cueMoves(show, rig, cue)
        : stateMoves(show, rig, listId, cue, undefined);
      apply(ways, rig, moves, cue);
    }
    withoutGone(ways, at_s);
    see(i, ways);
  });
}
