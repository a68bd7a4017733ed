/** One playback: a cue list, or a look on a fader. What it holds, on a clock of its own that can be paused, paced and led by hand. */
import { PRIORITY } from '../lists/rows.ts';
import type { BeatSection } from './beats.ts';
import type { EffectClock } from './effect-clock.ts';
import { EffectLayer } from './effect-layer.ts';
import { Fades } from './fades.ts';

/** How a playback meets the others. */
export interface PlaybackConfig {
  id: string;
  /** Intensity by the latest to act instead of the highest. */
  ltp: boolean;
  priority: number;
  /** Of a list that lies along a track with beats. */
  beats?: readonly BeatSection[];
}

/** Less light than this is none. */
const SEEN = 1e-6;

/** A playback whose name begins so holds no levels: its effects ride on whatever plays (effects.test.ts). */
export const RIDES = 'rides:';

/** One list’s levels, on their way from cue to cue. */
export class Playback {
  readonly ridesOnly: boolean;
  /** Effects that ride have run here, and it has not been told yet that the last one has ended. */
  rode = false;
  readonly fades: Fades;
  readonly owned: Uint8Array;
  /** By slot: 1 while it lets go; what it gives stays, and its share in the merge goes to nothing. */
  readonly releasing: Uint8Array;
  releases = 0;
  /** How much of a slot that lets go still shows, 0…1; made when it is first needed. */
  share: Fades | null = null;
  /**
   * Light that a slot had on stage when this playback took it over, beyond what its master lets through: not scaled,
   * and gone when the fade has ended. Made when it is first needed.
   */
  carry: Fades | null = null;
  /** When the slot last acted, for latest-takes-precedence. */
  readonly acted: Float64Array;
  /** When any of them did. */
  lastAct = 0;
  /** On the engine's clock: a paused list does not stop them. */
  readonly effects: EffectLayer;
  ltp = false;
  priority = PRIORITY;
  /** Of its own clock, in seconds, times `rate`. */
  clock_s = 0;
  rate = 1;
  paused = false;
  startedAt_s = 0;
  total_s = 0;
  /** Clock time of the next GO that follows by itself; Infinity waits for the operator. */
  followAt_s = Infinity;
  /** When the follow that was told last had come: the GO after it counts from there. */
  dueAt_s: number | null = null;
  /** Its follow was told since the last frame. */
  wasDue = false;
  /** What the last GO moved. */
  moving: Uint32Array = new Uint32Array(0);
  /** Led by hand: 0…1 of the fade. */
  hand: number | null = null;
  flash = false;
  solo = false;
  /** What scales its intensity now: its master, or what flash and solo make of it. */
  gain = 1;
  master = 1;
  private masterFrom = 1;
  private masterTo = 1;
  private masterStart_s = 0;
  private masterSpan_s = 0;

  constructor(
    readonly id: string,
    size: number,
    /** Its place among the engine's playbacks. */
    readonly place: number,
    clock: EffectClock,
  ) {
    this.ridesOnly = id.startsWith(RIDES);
    this.fades = new Fades(size);
    this.owned = new Uint8Array(size);
    this.releasing = new Uint8Array(size);
    this.acted = new Float64Array(size);
    this.effects = new EffectLayer(size, clock);
  }

  acts(slot: number, stamp: number): void {
    this.acted[slot] = stamp;
    this.lastAct = Math.max(this.lastAct, stamp);
  }

  /** Its master goes to a level in a time of the engine's clock. */
  setMaster(level: number, span_s: number, now_s: number): void {
    this.masterFrom = span_s > 0 ? this.master : level;
    this.masterTo = level;
    this.masterStart_s = now_s;
    this.masterSpan_s = span_s;
    if (span_s === 0) this.master = level;
  }

  get masterTarget(): number {
    return this.masterTo;
  }

  /** Where its master is on its way, and how long that takes; null while it stands. */
  masterMoves(now_s: number): { from: number; left_s: number } | null {
    const left_s = Math.max(0, this.masterStart_s + this.masterSpan_s - now_s);
    return this.master === this.masterTo ? null : { from: this.master, left_s };
  }

  /** @returns whether what scales it has changed */
  regain(now_s: number, solos: number): boolean {
    if (this.master !== this.masterTo) {
      const t = (now_s - this.masterStart_s) / this.masterSpan_s;
      this.master =
        t >= 1
          ? this.masterTo
          : this.masterFrom + (this.masterTo - this.masterFrom) * Math.max(0, t);
    }
    const own = this.flash ? 1 : this.master;
    const gain = solos > 0 && !this.solo ? 0 : own;
    if (gain === this.gain) return false;
    this.gain = gain;
    return true;
  }

  /** True while its fades, its hand or its master move. */
  get busy(): boolean {
    return this.fading + this.effects.count > 0 || this.master !== this.masterTo;
  }

  /** The fade is led by hand, from where it is: 0 is the start of the last GO's move, 1 its end. Null lets time go on from there. */
  lead(position: number | null): void {
    if (position === null) {
      this.hand = null;
      return;
    }
    const clock_s = this.startedAt_s + position * this.total_s;
    // Its clock goes back to the last GO's move; what an earlier GO began stays where it is (continuity.test.ts).
    if (this.hand === null) this.setBack(clock_s - this.clock_s);
    this.hand = position;
    this.clock_s = clock_s;
    for (const slot of this.moving) {
      if (this.owned[slot] === 0) continue;
      if (this.releasing[slot] === 1) this.share?.takeUp(slot);
      else this.fades.takeUp(slot);
      this.carry?.takeUp(slot);
    }
  }

  private setBack(by_s: number): void {
    const led = new Set(this.moving);
    for (const bank of [this.fades, this.share, this.carry]) bank?.shift(by_s, led);
  }

  // --- what it gives ---

  /** What it gives to a slot now, as it goes into the merge. */
  gives(slot: number, isIntensity: boolean): number {
    const level = this.fades.level[slot] as number;
    if (!isIntensity) return level;
    const beyond = this.carry === null ? 0 : (this.carry.level[slot] as number);
    return level * this.gain + beyond;
  }

  /** Nothing of this playback but levels times its master: no share, no carried light, no effect. */
  get isPlain(): boolean {
    return (
      !this.ridesOnly && this.releases === 0 && this.effects.count === 0 && this.carry === null
    );
  }

  /** Begins to hold a slot at what shows on stage, whoever put it there. */
  begin(slot: number, stage: number, isIntensity: boolean): void {
    this.effects.drop(slot);
    const unscaled = this.gain > 0 ? Math.min(1, stage / this.gain) : 0;
    const through = !isIntensity || this.gain === 1 ? stage : unscaled;
    this.fades.clear(slot, through);
    this.carried(slot, isIntensity ? stage - through * this.gain : 0);
    this.keeps(slot);
  }

  private carried(slot: number, beyond: number): void {
    if (beyond > SEEN) this.carry ??= new Fades(this.owned.length);
    this.carry?.clear(slot, beyond > SEEN ? beyond : 0);
  }

  /** Starts to let go of a slot; what is under way stands still, and its share fades. */
  letsGo(slot: number, start_s: number, duration_s: number): void {
    this.share ??= new Fades(this.owned.length);
    if (this.releasing[slot] === 0) {
      this.releasing[slot] = 1;
      this.releases++;
      this.share.clear(slot, 1);
      this.fades.stand(slot, this.fades.level[slot] as number);
      if (this.carry) this.carry.clear(slot, this.carry.level[slot] as number);
    }
    this.share.move(slot, 0, start_s, duration_s, 0, this.clock_s);
  }

  /** Is there by so much of itself from now on, or on the way to it: the rest is what is beneath. */
  weighs(slot: number, level: number, span_s: number): void {
    if (level >= 1 && span_s === 0) {
      this.keeps(slot);
      return;
    }
    this.share ??= new Fades(this.owned.length);
    if (this.releasing[slot] === 0) {
      this.releasing[slot] = 1;
      this.releases++;
      this.share.clear(slot, 1);
    }
    this.share.move(slot, level, this.clock_s, span_s, 0, this.clock_s);
  }

  /** Its share has come to rest: gone, whole, or so much of it. */
  rested(slot: number): void {
    if (this.releasing[slot] !== 1) return;
    const share = this.share?.level[slot] ?? 0;
    if (share === 0) this.disown(slot);
    else if (share === 1) this.keeps(slot);
  }

  /** What it gave to a slot is taken over by another list; what rides there goes on leaving in its time. */
  givesUp(slot: number): void {
    if (!this.effects.ridesOn(slot)) {
      this.disown(slot);
      return;
    }
    this.fades.stand(slot, 0);
    this.carry?.clear(slot, 0);
  }

  /** Its effect comes in on a slot, or comes back from how far it had left. */
  rides(
    slot: number,
    wave: number,
    phase: number,
    start_s: number,
    span_s: number,
    now_s: number,
  ): void {
    if (this.releasing[slot] === 1) {
      this.effects.reweigh(slot, this.share?.level[slot] ?? 1, now_s);
      this.keeps(slot);
    }
    this.owned[slot] = 1;
    this.effects.begin(slot, wave, phase, start_s, span_s, now_s);
  }

  /** Holds a slot that it was letting go of. */
  keeps(slot: number): void {
    if (this.releasing[slot] === 0) return;
    this.releasing[slot] = 0;
    this.releases--;
    this.share?.clear(slot, 1);
  }

  /** Has nothing to do with a slot any more. */
  disown(slot: number): void {
    this.keeps(slot);
    this.owned[slot] = 0;
    this.fades.clear(slot, 0);
    this.carry?.clear(slot, 0);
    this.effects.drop(slot);
  }

  /** Slots of its lists of fades that are under way. */
  get fading(): number {
    return this.fades.count + (this.share?.count ?? 0) + (this.carry?.count ?? 0);
  }

  /** How far its last fade is, 0…1. */
  get progress(): number {
    return this.total_s > 0 ? Math.min(1, (this.clock_s - this.startedAt_s) / this.total_s) : 1;
  }
}
