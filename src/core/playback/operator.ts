/** One operator's programmer in the merge: held values over playback, on their way in and out, live or blind. */
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
}

/** Going blind or live takes this long, so that nothing jumps on stage. */
const BLIND_FADE_S = 0.5;

const LINEAR = curveIndex('linear');
const SMOOTH = curveIndex('smooth');

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
  ) {
    this.fades = new Fades(size);
    this.weight = new Fades(size);
    this.held = new Uint8Array(size);
    this.touched = new Float64Array(size);
    this.effects = new EffectLayer(size);
    this.seen = new Uint8Array(size);
  }

  get busy(): boolean {
    return this.fades.count + this.weight.count + this.effects.count > 0 || this.live !== this.liveTo;
  }

  /** Each value fades from what is on stage now. @param merged levels on stage, by slot @param stamp when, among all touches */
  hold(holds: Holds, slots: Slots, merged: Float32Array, stamp: number, now_s: number, mark: (slot: number) => void): void {
    for (let i = 0; i < holds.slots.length; i++) {
      const slot = holds.slots[i] as number;
      if (slot >= this.held.length) continue;
      const fade_s = holds.fade_s[i] as number;
      const delay_s = holds.delay_s[i] as number;
      const wave = holds.wave[i] as number;
      if (this.held[slot] === 0) {
        this.count++;
        this.held[slot] = 1;
        this.seen[slot] = this.liveTo === 0 ? 0 : 1;
        // Nobody sees what a blind operator begins from.
        this.fades.stand(slot, this.liveTo === 0 ? (holds.levels[i] as number) : (merged[slot] as number));
      } else if (!this.effects.runsOn(slot)) this.fades.stand(slot, this.live === 1 ? (merged[slot] as number) : (this.fades.level[slot] as number));
      this.weight.stand(slot, 1);
      this.touched[slot] = stamp;
      this.fades.move(slot, holds.levels[i] as number, now_s + delay_s, slots.snap[slot] !== 0 ? 0 : fade_s, slots.family[slot] === POSITION ? SMOOTH : LINEAR, now_s);
      if (wave >= 0) this.effects.begin(slot, wave, holds.phase[i] as number, now_s + delay_s, fade_s, now_s);
      else this.effects.end(slot, now_s + delay_s, fade_s, now_s);
      mark(slot);
    }
  }

  setBlind(blind: boolean): void {
    this.liveTo = blind ? 0 : 1;
    if (!blind) this.seen.fill(1);
  }

  /** Fades back to what playback says. */
  letGo(slots: Iterable<number>, fade_s: number, now_s: number, mark: (slot: number) => void): void {
    for (const slot of slots) {
      if (this.held[slot] !== 1) continue;
      this.weight.move(slot, 0, now_s, fade_s, LINEAR, now_s);
      if (!this.weight.isActive(slot)) this.drop(slot);
      mark(slot);
    }
  }

  advance(now_s: number, step_s: number, work: Work, mark: (slot: number) => void): void {
    if (this.live !== this.liveTo) this.goLive(step_s, mark);
    if (this.effects.count > 0) this.effects.advance(now_s, work);
    if (this.fades.count > 0) this.fades.advance(now_s, work);
    if (this.weight.count > 0) {
      this.weight.advance(now_s, work, (slot) => {
        if (this.weight.level[slot] !== 0) return;
        this.drop(slot);
        mark(slot);
      });
    }
  }

  private goLive(step_s: number, mark: (slot: number) => void): void {
    const by = step_s / BLIND_FADE_S;
    this.live = this.liveTo > this.live ? Math.min(this.liveTo, this.live + by) : Math.max(this.liveTo, this.live - by);
    for (let slot = 0; slot < this.held.length; slot++) if (this.held[slot] === 1) mark(slot);
  }

  private drop(slot: number): void {
    this.held[slot] = 0;
    this.count--;
    this.fades.stand(slot, 0);
    this.effects.drop(slot);
  }
}
