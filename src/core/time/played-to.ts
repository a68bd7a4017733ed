/**
 * A list as if it had been played from its beginning to a moment: where every slot is on its way (docs/playback.md).
 * The arithmetic is the clock’s own (`playback/fades.ts`); a cue that comes while another is under way begins from
 * where that is.
 */
import { clamp } from '../numbers.ts';
import { listTimings } from '../cues/times.ts';
import type { CueRow } from '../cues/rows.ts';
import { EffectClock } from '../playback/effect-clock.ts';
import { EffectLayer, type SavedEffect } from '../playback/effect-layer.ts';
import { bend } from '../playback/fades.ts';
import type { Moves } from '../playback/list-moves.ts';
import { cueMoves, stateMoves, type Onto } from '../playback/moves.ts';
import type { Programs } from '../playback/programs.ts';
import { INTENSITY } from '../playback/slots.ts';
import type { Show } from '../show/show.ts';
import { beatSections } from './tempo.ts';
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
  /** How much of a slot was there when it let go; 1 of any other. */
  share: number;
}

/** How a list stands when it is played from its beginning to a moment. */
export interface PlayedTo {
  /** The cue that the list is in; undefined before the first. */
  cue: TimedCue | undefined;
  ways: Map<number, Way>;
  /** What runs on slots, with what is on its way in and out. */
  effects: SavedEffect[];
}

/** Where slots begin that nothing of the list has moved yet, and which of them take their values at once. */
export interface Rig extends Onto {
  /** By slot, 0…1. */
  resting: Float32Array;
  /** By slot: 0 fades, 1 at the start, 2 at the end. */
  snap: Uint8Array;
  programs: Programs;
}

/** A sum of moments is off by less than this. */
const TINY = 1e-6;

/** @returns 0…1 at a moment; NaN where it has let go */
export function levelAt(way: Way, at_s: number): number {
  const { from, to, end, start_s, span_s, curve } = way;
  const gone = at_s - start_s;
  if (gone >= span_s - TINY) return to;
  // What lets go does so evenly, whatever the cue’s curve, as the clock does it (track.test.ts).
  if (Number.isNaN(to)) return end + (from - end) * shareAt(way, at_s);
  return gone <= 0 ? from : from + (end - from) * bend(curve, gone / span_s);
}

/** How much still shows of a slot that lets go, 0…1. */
function shareAt({ share, start_s, span_s }: Way, at_s: number): number {
  if (span_s === 0) return at_s < start_s ? share : 0;
  return share * clamp(1 - (at_s - start_s) / span_s);
}

/** What shows of a slot that lets go: its level with its effect on it, by its share, over what rests beneath. */
function seenLeaving(
  way: Way,
  slot: number,
  at_s: number,
  effects: EffectLayer | undefined,
): number {
  const { from, end } = way;
  const level = clamp(effects?.applied(slot, from, 1, 'own') ?? from);
  return end + (level - end) * shareAt(way, at_s);
}

function apply(
  ways: Map<number, Way>,
  rig: Rig,
  moves: Moves,
  cue: TimedCue,
  effects?: EffectLayer,
): void {
  const { at_s } = cue;
  for (let i = 0; i < moves.slot.length; i++) {
    const slot = moves.slot[i] as number;
    const to = moves.level[i] as number;
    const before = ways.get(slot);
    if (Number.isNaN(to) && !before) continue;
    const rests = rig.resting[slot] ?? 0;
    const leaving = before && Number.isNaN(before.to) ? before : undefined;
    const was = before && !leaving ? levelAt(before, at_s) : undefined;
    // What lets go stands where it is, and less and less of it shows; taken up again it begins at what shows.
    let from = was ?? rests;
    if (leaving) from = Number.isNaN(to) ? leaving.from : seenLeaving(leaving, slot, at_s, effects);
    if (leaving && !Number.isNaN(to)) effects?.drop(slot);
    const end = Number.isNaN(to) ? rests : to;
    const isDown = rig.family[slot] === INTENSITY && end < from;
    const timed = (isDown ? moves.down[i] : moves.up[i]) as number;
    const snap = rig.snap[slot] as number;
    const delay = (moves.delay[i] as number) + (snap === 2 ? timed : 0);
    const duration = snap === 0 ? timed : 0;
    ways.set(slot, {
      from,
      to,
      end,
      start_s: at_s + delay,
      span_s: duration,
      curve: moves.curve[i] as number,
      share: leaving && Number.isNaN(to) ? shareAt(leaving, at_s) : 1,
    });
    if (!Number.isNaN(to)) effects?.move(slot, moves, i, { delay, duration });
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

/** A list on its way along its track: where its slots are, and its effects on a clock that began with the track. */
class Walk {
  readonly ways = new Map<number, Way>();
  readonly effects: EffectLayer | undefined;
  private readonly clock = new EffectClock();

  constructor(
    private readonly rig: Rig,
    show: Show,
    listId: string,
    cues: readonly CueRow[],
  ) {
    this.clock.set(rig.programs);
    // Full states have what cues before them say that are not on the track: all are asked.
    if (rig.programs.waves.length === 0 || !hasEffects(show, cues)) return;
    this.effects = new EffectLayer(rig.resting.length, this.clock);
    this.effects.setBeats(beatSections(show.lists.get(listId)?.time?.tempo ?? []));
    this.effects.goAlong(0);
  }

  goTo(at_s: number): void {
    this.effects?.walk(this.clock.advance(at_s));
    this.effects?.goOn();
    // Slots that have let go are nobody’s any more.
    for (const [slot, way] of this.ways) {
      if (!Number.isNaN(way.to) || at_s < way.start_s + way.span_s) continue;
      this.ways.delete(slot);
      this.effects?.drop(slot);
    }
  }

  take(cue: TimedCue, moves: Moves): void {
    this.goTo(cue.at_s);
    apply(this.ways, this.rig, moves, cue, this.effects);
  }

  /** What the list shows of a slot at the moment that it has gone to, with its effect; undefined where it has none. */
  seen(slot: number, at_s: number): number | undefined {
    const way = this.ways.get(slot);
    if (!way) return undefined;
    if (Number.isNaN(way.to)) return seenLeaving(way, slot, at_s, this.effects);
    const level = levelAt(way, at_s);
    return clamp(this.effects?.applied(slot, level, 1, 'all') ?? level);
  }
}

/** @param at_s of the track; cues at that very moment have come */
export function playedTo(show: Show, rig: Rig, listId: string, at_s: number): PlayedTo {
  const all = show.cuesOf(listId);
  const cues = timedCues(show, listId).filter((c) => c.at_s <= at_s);
  const walk = new Walk(rig, show, listId, all);
  // When an effect came in decides its weight: then nothing is left out.
  const first = walk.effects ? 0 : beginning(show, listId, cues);
  cues.forEach((cue, i) => {
    if (i < first - 1) return;
    const isWhole = i === first - 1 || !isInOrder(cues[i - 1], cue, all);
    const moves = isWhole
      ? stateMoves(show, rig, listId, cue, i === first - 1 ? 0 : undefined)
      : cueMoves(show, rig, cue);
    walk.take(cue, moves);
  });
  walk.goTo(at_s);
  return { cue: cues.at(-1), ways: walk.ways, effects: walk.effects?.saved() ?? [] };
}

/**
 * The track from its beginning to its end, once: each moment with what the list shows of a slot then, 0…1, its effects
 * included; undefined of a slot that it has not.
 * @param moments in seconds, in their order
 */
export function playThrough(
  show: Show,
  rig: Rig,
  listId: string,
  moments: readonly number[],
  see: (i: number, levelOf: (slot: number) => number | undefined) => void,
): void {
  const all = show.cuesOf(listId);
  const cues = timedCues(show, listId);
  const walk = new Walk(rig, show, listId, all);
  let next = 0;
  moments.forEach((at_s, i) => {
    for (; next < cues.length; next++) {
      const cue = cues[next];
      if (!cue || cue.at_s > at_s) break;
      const moves = isInOrder(cues[next - 1], cue, all)
        ? cueMoves(show, rig, cue)
        : stateMoves(show, rig, listId, cue, undefined);
      walk.take(cue, moves);
    }
    walk.goTo(at_s);
    see(i, (slot) => walk.seen(slot, at_s));
  });
}
