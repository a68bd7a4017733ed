/**
 * Effects of one list or one operator, by slot. A slot has the effect that runs now and the one that is on its way out,
 * so that nothing jumps when one takes over from another. Only slots with effects cost time.
 */
import { WAVE_SAMPLES } from '../effects/wave.ts';
import type { Work } from './fades.ts';
import type { Programs } from './programs.ts';
import { SlotSet } from './slot-set.ts';

/** Two voices a slot: the one that runs, and the one that leaves. */
const RUNS = 0;
const LEAVES = 1;

class Voice {
  readonly wave: Int32Array;
  readonly phase: Float32Array;
  private readonly from: Float32Array;
  private readonly to: Float32Array;
  private readonly start: Float64Array;
  private readonly span: Float32Array;

  constructor(size: number) {
    this.wave = new Int32Array(size).fill(-1);
    this.phase = new Float32Array(size);
    this.from = new Float32Array(size);
    this.to = new Float32Array(size);
    this.start = new Float64Array(size);
    this.span = new Float32Array(size);
  }

  weight(slot: number, now: number): number {
    const span = this.span[slot] as number;
    const t = span > 0 ? (now - (this.start[slot] as number)) / span : 1;
    const [from, to] = [this.from[slot] as number, this.to[slot] as number];
    return t >= 1 ? to : t <= 0 ? from : from + (to - from) * t;
  }

  fade(slot: number, to: number, start: number, span: number, now: number): void {
    this.from[slot] = this.weight(slot, now);
    this.to[slot] = to;
    this.start[slot] = start;
    this.span[slot] = span;
  }

  begin(slot: number, wave: number, phase: number, weight: number): void {
    this.wave[slot] = wave;
    this.phase[slot] = phase;
    this.from[slot] = weight;
    this.to[slot] = weight;
    this.span[slot] = 0;
  }

  take(slot: number, other: Voice, now: number): void {
    this.begin(
      slot,
      other.wave[slot] as number,
      other.phase[slot] as number,
      other.weight(slot, now),
    );
  }

  isGone(slot: number, now: number): boolean {
    return this.to[slot] === 0 && this.weight(slot, now) === 0;
  }
}

export interface SavedEffect {
  slot: number;
  /** `effect/attribute`. */
  key: string;
  phase: number;
  weight: number;
}

export class EffectLayer {
  private readonly voices: readonly [Voice, Voice];
  private readonly active: SlotSet;

  constructor(private readonly size: number) {
    this.voices = [new Voice(size), new Voice(size)];
    this.active = new SlotSet(size);
  }

  get count(): number {
    return this.active.count;
  }

  runsOn(slot: number): boolean {
    return this.active.has(slot);
  }

  /** Brings an effect in on a slot over `span` seconds from `start`; what ran there before leaves in the same time. */
  begin(slot: number, wave: number, phase: number, start: number, span: number, now: number): void {
    if (slot >= this.size) return;
    const [runs, leaves] = this.voices;
    if (this.active.has(slot) && runs.wave[slot] === wave && runs.phase[slot] === phase) {
      runs.fade(slot, 1, start, span, now);
      return;
    }
    if (this.active.has(slot) && runs.wave[slot] !== -1) {
      leaves.take(slot, runs, now);
      leaves.fade(slot, 0, start, span, now);
    }
    runs.begin(slot, wave, phase, 0);
    runs.fade(slot, 1, start, span, now);
    this.active.add(slot);
  }

  /** Takes the slot's effect out over `span` seconds from `start`. */
  end(slot: number, start: number, span: number, now: number): void {
    if (!this.active.has(slot)) return;
    this.voices[RUNS].fade(slot, 0, start, span, now);
    this.voices[LEAVES].fade(slot, 0, start, span, now);
  }

  drop(slot: number): void {
    if (!this.active.remove(slot)) return;
    for (const voice of this.voices) voice.wave[slot] = -1;
  }

  /** Notes every slot that an effect moves; drops those whose effect has left. */
  advance(now: number, work: Work): void {
    const { marked, dirty } = work;
    for (let i = this.count - 1; i >= 0; i--) {
      const slot = this.active.list[i] as number;
      if (marked[slot] === 0) {
        marked[slot] = 1;
        dirty[work.count++] = slot;
      }
      if (
        this.voices[RUNS].isGone(slot, now) &&
        (this.voices[LEAVES].wave[slot] === -1 || this.voices[LEAVES].isGone(slot, now))
      )
        this.drop(slot);
    }
  }

  /**
   * The slot's level with its effects on it.
   * @param cycles of each effect so far, by its place in the programs, with the direction already in them
   * @param share how much of it shows, for an operator who lets go
   */
  applied(
    slot: number,
    level: number,
    programs: Programs,
    cycles: Float64Array,
    now: number,
    share = 1,
  ): number {
    if (!this.active.has(slot)) return level;
    let value = level;
    for (let v = LEAVES; v >= RUNS; v--) {
      const voice = this.voices[v] as Voice;
      const wave = programs.waves[voice.wave[slot] as number];
      if (!wave) continue;
      const weight = voice.weight(slot, now) * share;
      if (weight === 0) continue;
      const phase = (cycles[wave.effect] as number) + (voice.phase[slot] as number);
      const at = (phase - Math.floor(phase)) * WAVE_SAMPLES;
      const low = Math.floor(at);
      const a = wave.table[low] as number;
      const w = a + ((wave.table[low + 1] as number) - a) * (at - low);
      value = wave.absolute
        ? value * (1 - weight) + (wave.base + wave.size * w) * weight
        : value + wave.size * (w - 0.5) * weight;
    }
    return value;
  }

  /** After a change of the programs: the same effects at their new places; those that are gone end. */
  remap(placeOf: (old: number) => number): void {
    for (let i = this.count - 1; i >= 0; i--) {
      const slot = this.active.list[i] as number;
      for (const voice of this.voices) {
        const old = voice.wave[slot] as number;
        if (old >= 0) voice.wave[slot] = placeOf(old);
      }
      if (this.voices.every((voice) => voice.wave[slot] === -1)) this.drop(slot);
    }
  }

  /** What runs, for keeping; effects on their way out are not kept. */
  saved(programs: Programs, now: number): SavedEffect[] {
    const kept: SavedEffect[] = [];
    const runs = this.voices[RUNS];
    for (let i = 0; i < this.count; i++) {
      const slot = this.active.list[i] as number;
      const key = programs.waves[runs.wave[slot] as number]?.key;
      if (key !== undefined && !runs.isGone(slot, now))
        kept.push({ slot, key, phase: runs.phase[slot] as number, weight: runs.weight(slot, now) });
    }
    return kept;
  }

  restore(slot: number, wave: number, phase: number, weight: number, now: number): void {
    this.begin(slot, wave, phase, now, 0, now);
    // What was on its way in goes on from where it was.
    if (weight < 1) {
      this.voices[RUNS].begin(slot, wave, phase, weight);
      this.voices[RUNS].fade(slot, 1, now, 1 - weight, now);
    }
  }
}
