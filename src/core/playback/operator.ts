/** One operator's programmer in the merge: held values over playback, on their way in and out, live or blind. */
import type { EffectClock } from './effect-clock.ts';
import { EffectLayer } from './effect-layer.ts';
import { curveIndex, Fades, type Work } from './fades.ts';
import { POSITION, type Slots } from './slots.ts';

/** What an operator holds, as columns over the slots. */
export interface Holds {
  slots: Uint32Array;
  levels: Float32Array;
  fade_s: Float32Array;
  delay_s: Float32Array;
  wave: Int32Array;
  phase: Float32Array;
  /** What is held already says something else now: running fades bend to it, and whose touch was the latest stays. */
  bends?: boolean;
}

/** What a slot shows, whether this operator's value is the one that is seen, and what would show without it. */
interface OnStage {
  level: number;
  isMine: boolean;
  beneath: () => number;
}

/** Going blind or live takes this long, so that nothing jumps on stage. */
const BLIND_FADE_S = 0.5;
/** An effect that an edit brings to a held value, or takes from it, comes and goes in this time. */
const EDIT_FADE_S = 0.5;

const LINEAR = curveIndex('linear');
const SMOOTH = curveIndex('smooth');

/** One person’s values on stage, and how much of them shows. */
export class Operator {
  readonly fades: Fades;
  /** How much of the value shows: 1 while held, fading to 0 while letting go. */
  readonly weight: Fades;
  readonly held: Uint8Array;
  readonly touched: Float64Array;
  readonly effects: EffectLayer;
  /** By slot: 1 where the value was held while it showed; what is held blind never does, also not on the way out. */
  readonly seen: Uint8Array;
  count = 0;
  /** 1 live, 0 blind, in between on the way. */
  live = 1;
  liveTo = 1;

  constructor(
    readonly userId: string,
    size: number,
    clock: EffectClock,
  ) {
    this.fades = new Fades(size);
    this.weight = new Fades(size);
    this.held = new Uint8Array(size);
    this.touched = new Float64Array(size);
    this.effects = new EffectLayer(size, clock);
    this.seen = new Uint8Array(size);
  }

  get busy(): boolean {
    return (
      this.fades.count + this.weight.count + this.effects.count > 0 || this.live !== this.liveTo
    );
  }

  /**
   * Each value fades from what is on stage now. @param stage the level there by slot, and whether it is this operator's
   * @param stamp when, among all touches
   */
  hold(
    holds: Holds,
    slots: Slots,
    stage: (slot: number) => OnStage,
    stamp: number,
    now_s: number,
    mark: (slot: number) => void,
  ): void {
    for (let i = 0; i < holds.slots.length; i++) {
      const slot = holds.slots[i] as number;
      if (slot >= this.held.length) continue;
      if (holds.bends && this.held[slot] === 1) this.bend(holds, i, slot, now_s);
      else this.holdSlot(holds, i, slots, stage(slot), stamp, now_s);
      mark(slot);
    }
  }

  private bend(holds: Holds, i: number, slot: number, now_s: number): void {
    this.fades.retarget(slot, holds.levels[i] as number, now_s);
    const wave = holds.wave[i] as number;
    if (wave >= 0) this.effects.retell(slot, wave, holds.phase[i] as number, EDIT_FADE_S, now_s);
    else this.effects.end(slot, now_s, EDIT_FADE_S, now_s);
  }

  private holdSlot(
    holds: Holds,
    i: number,
    slots: Slots,
    stage: OnStage,
    stamp: number,
    now_s: number,
  ): void {
    const slot = holds.slots[i] as number;
    const level = holds.levels[i] as number;
    const timed = holds.fade_s[i] as number;
    const snap = slots.snap[slot] as number;
    const fade_s = snap === 0 ? timed : 0;
    const delay_s = (holds.delay_s[i] as number) + (snap === 2 ? timed : 0);
    const isNew = this.held[slot] === 0;
    if (isNew) {
      this.count++;
      this.held[slot] = 1;
      this.seen[slot] = this.liveTo === 0 ? 0 : 1;
    }
    const shown = this.seen[slot] === 1 ? this.liveShare(snap) : 0;
    // Nobody sees what a blind operator begins from.
    if (shown === 0) {
      if (isNew) this.fades.stand(slot, level);
    } else if (
      isNew ||
      shown < 1 ||
      !stage.isMine ||
      !this.effects.runsOn(slot) ||
      (this.weight.level[slot] as number) < 1
    ) {
      // Whole and on top it gives what is on stage now; half way to blind, as much more as makes up for it.
      this.effects.drop(slot);
      this.fades.stand(
        slot,
        shown === 1 ? stage.level : (stage.level - stage.beneath() * (1 - shown)) / shown,
      );
    }
    this.weight.stand(slot, 1);
    this.touched[slot] = stamp;
    this.fades.move(
      slot,
      level,
      now_s + delay_s,
      fade_s,
      slots.family[slot] === POSITION ? SMOOTH : LINEAR,
      now_s,
    );
    const wave = holds.wave[i] as number;
    if (wave >= 0)
      this.effects.begin(slot, wave, holds.phase[i] as number, now_s + delay_s, timed, now_s);
    else this.effects.end(slot, now_s + delay_s, fade_s, now_s);
  }

  /** How much of a slot shows: its share, while it is live. What cannot fade shows whole or not at all. @param snap as in Slots */
  shows(slot: number, snap: number): number {
    return this.seen[slot] === 0 ? 0 : (this.weight.level[slot] as number) * this.liveShare(snap);
  }

  private liveShare(snap: number): number {
    if (snap === 0 || this.live === this.liveTo) return this.live;
    return snap === 1 ? this.liveTo : 1 - this.liveTo;
  }

  setBlind(blind: boolean, slots: Slots, now_s: number, mark: (slot: number) => void): void {
    this.liveTo = blind ? 0 : 1;
    if (blind) return;
    for (let slot = 0; slot < this.held.length; slot++) {
      if (this.held[slot] === 0 || this.seen[slot] === 1) continue;
      this.seen[slot] = 1;
      mark(slot);
      // What was held blind comes in from nothing, also where the way to blind had not ended.
      if (this.live === 0 || slots.snap[slot] !== 0) continue;
      this.weight.clear(slot, 0);
      this.weight.move(slot, 1, now_s, BLIND_FADE_S, LINEAR, now_s);
    }
  }

  /** Fades back to what playback says; what cannot fade goes at the start, or at the end where its type says so. */
  letGo(
    going: Iterable<number>,
    slots: Slots,
    fade_s: number,
    now_s: number,
    mark: (slot: number) => void,
  ): void {
    for (const slot of going) {
      if (this.held[slot] !== 1) continue;
      const snap = slots.snap[slot] as number;
      this.weight.move(
        slot,
        0,
        now_s + (snap === 2 ? fade_s : 0),
        snap === 0 ? fade_s : 0,
        LINEAR,
        now_s,
      );
      if (!this.weight.isActive(slot)) this.drop(slot);
      mark(slot);
    }
  }

  advance(now_s: number, step_s: number, work: Work, mark: (slot: number) => void): void {
    if (this.live !== this.liveTo) this.goLive(step_s, mark);
    if (this.effects.count > 0) this.effects.advance(now_s, work);
    if (this.fades.count > 0) this.fades.advance(now_s, work);
    if (this.weight.count === 0) return;
    this.mark = mark;
    this.weight.advance(now_s, work, this.hasGone);
  }
  private mark: (slot: number) => void = () => undefined;
  private readonly hasGone = (slot: number): void => {
    if (this.weight.level[slot] !== 0) return;
    this.drop(slot);
    this.mark(slot);
  };

  private goLive(step_s: number, mark: (slot: number) => void): void {
    const by = step_s / BLIND_FADE_S;
    this.live =
      this.liveTo > this.live
        ? Math.min(this.liveTo, this.live + by)
        : Math.max(this.liveTo, this.live - by);
    for (let slot = 0; slot < this.held.length; slot++) if (this.held[slot] === 1) mark(slot);
  }

  private drop(slot: number): void {
    this.held[slot] = 0;
    this.count--;
    this.fades.stand(slot, 0);
    this.effects.drop(slot);
  }
}
