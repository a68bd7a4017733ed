/** One playback: a cue list, or a look on a fader. What it holds, on a clock of its own that can be paused, paced and led by hand. */
import { PRIORITY } from '../show/book-rows.ts';
import { EffectLayer } from './effect-layer.ts';
import { Fades } from './fades.ts';

/** How a playback meets the others. */
export interface PlaybackConfig {
  id: string;
  /** Intensity by the latest to act instead of the highest. */
  ltp: boolean;
  priority: number;
}

export class Playback {
  readonly fades: Fades;
  readonly owned: Uint8Array;
  readonly releasing: Uint8Array;
  /** When the slot last acted, for latest-takes-precedence. */
  readonly acted: Float64Array;
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
  ) {
    this.fades = new Fades(size);
    this.owned = new Uint8Array(size);
    this.releasing = new Uint8Array(size);
    this.acted = new Float64Array(size);
    this.effects = new EffectLayer(size);
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

  /** @returns whether what scales it has changed */
  regain(now_s: number, solos: number): boolean {
    if (this.master !== this.masterTo) {
      const t = (now_s - this.masterStart_s) / this.masterSpan_s;
      this.master = t >= 1 ? this.masterTo : this.masterFrom + (this.masterTo - this.masterFrom) * Math.max(0, t);
    }
    const gain = solos > 0 && !this.solo ? 0 : this.flash ? 1 : this.master;
    if (gain === this.gain) return false;
    this.gain = gain;
    return true;
  }

  /** True while its fades, its hand or its master move. */
  get busy(): boolean {
    return this.fades.count + this.effects.count > 0 || this.master !== this.masterTo;
  }

  /** The fade is led by hand, from where it is: 0 is the start of the last GO's move, 1 its end. Null lets time go on from there. */
  lead(position: number | null): void {
    if (position === null) {
      this.hand = null;
      return;
    }
    if (this.hand === null) for (const slot of this.moving) if (this.owned[slot] === 1) this.fades.takeUp(slot);
    this.hand = position;
    this.clock_s = this.startedAt_s + position * this.total_s;
    for (const slot of this.moving) if (this.owned[slot] === 1) this.fades.takeUp(slot);
  }

  /** How far its last fade is, 0…1. */
  get progress(): number {
    return this.total_s > 0 ? Math.min(1, (this.clock_s - this.startedAt_s) / this.total_s) : 1;
  }
}
