/**
 * Effects of one list or one operator, by slot. A slot has the effect that runs now and the one that is on its way out,
 * so that nothing jumps when one takes over from another. Only slots with effects cost time.
 */
import { cyclesAt, phaseOf, WAVE_SAMPLES } from '../effects/wave.ts';
import { beatsAt, secondsOfBeats, type BeatSection } from './beats.ts';
import { CHANGE_S, type EffectClock } from './effect-clock.ts';
import type { Work } from './fades.ts';
import type { ProgramEffect } from './programs.ts';
import { SlotSet } from './slot-set.ts';

/** Two voices a slot: the one that runs, and the one that leaves. */
const RUNS = 0;
const LEAVES = 1;

/** Which effects of a slot are asked for: all, those that go with their list, those that ride on any. */
export type Which = 'all' | 'own' | 'riding';

/** Rounds of effects, by their places in the programs. */
interface Rounds {
  /** So far, or so many seconds ago. */
  cyclesOf: (effect: number, ago_s?: number) => number;
  /** Seconds since there were so many. */
  since: (effect: number, cycles: number) => number;
}

class Voice {
  readonly wave: Int32Array;
  readonly phase: Float32Array;
  /** Where the phase was when it was changed, and when that was: it goes the short way round. */
  private readonly phaseWas: Float32Array;
  private readonly phaseChanged: Float64Array;
  private readonly from: Float32Array;
  private readonly to: Float32Array;
  private readonly start: Float64Array;
  private readonly span: Float32Array;
  /** Of an effect that ends by itself: its turn when it began, and the rounds so far at which it ends; NaN: not begun. */
  readonly began: Float32Array;
  readonly until: Float64Array;

  constructor(size: number) {
    this.wave = new Int32Array(size).fill(-1);
    this.phase = new Float32Array(size);
    this.phaseWas = new Float32Array(size);
    this.phaseChanged = new Float64Array(size).fill(-Infinity);
    this.from = new Float32Array(size);
    this.to = new Float32Array(size);
    this.start = new Float64Array(size);
    this.span = new Float32Array(size);
    this.began = new Float32Array(size);
    this.until = new Float64Array(size).fill(NaN);
  }

  weight(slot: number, now: number): number {
    const span = this.span[slot] as number;
    const t = span > 0 ? (now - (this.start[slot] as number)) / span : 1;
    const [from, to] = [this.from[slot] as number, this.to[slot] as number];
    if (t >= 1) return to;
    return t <= 0 ? from : from + (to - from) * t;
  }

  fade(slot: number, to: number, start: number, span: number, now: number): void {
    this.from[slot] = this.weight(slot, now);
    this.to[slot] = to;
    this.start[slot] = start;
    this.span[slot] = span;
  }

  stand(slot: number, weight: number): void {
    this.from[slot] = weight;
    this.to[slot] = weight;
    this.span[slot] = 0;
  }

  begin(slot: number, wave: number, phase: number, weight: number): void {
    this.wave[slot] = wave;
    this.phase[slot] = phase;
    this.phaseChanged[slot] = -Infinity;
    this.stand(slot, weight);
    this.began[slot] = 0;
    this.until[slot] = NaN;
  }

  /** The phase now, on its way to a new one. */
  phaseAt(slot: number, now: number): number {
    const phase = this.phase[slot] as number;
    const t = (now - (this.phaseChanged[slot] as number)) / CHANGE_S;
    if (t >= 1) return phase;
    const was = this.phaseWas[slot] as number;
    const way = phase - was;
    return was + (way - Math.round(way)) * t;
  }

  glide(slot: number, phase: number, now: number): void {
    this.phaseWas[slot] = this.phaseAt(slot, now);
    this.phaseChanged[slot] = now;
    this.phase[slot] = phase;
  }

  take(slot: number, other: Voice, now: number): void {
    this.begin(slot, other.wave[slot] as number, other.phaseAt(slot, now), other.weight(slot, now));
    this.began[slot] = other.began[slot] as number;
    this.until[slot] = other.until[slot] as number;
  }

  /**
   * Counts the rounds of an effect that ends by itself: from when it came in, at the start of a round, to its last, also
   * where that was a while ago, as after a jump along a track (effects.test.ts). There and back goes on from where it is,
   * so that it stays in step with itself.
   */
  count(slot: number, of: number, effect: ProgramEffect, counts: Rounds, now: number): void {
    const { rounds, direction } = effect;
    if (rounds === undefined || this.to[slot] === 0) return;
    if (Number.isNaN(this.until[slot])) {
      const ago = now - (this.start[slot] as number);
      if (ago < 0) return;
      const first = counts.cyclesOf(of, ago);
      this.began[slot] = direction === 'bounce' ? 0 : phaseOf(direction, first, 0);
      this.until[slot] = first + rounds;
    }
    const until = this.until[slot] as number;
    if (counts.cyclesOf(of) < until) return;
    // From what it was then, which may be a while ago.
    const end_s = now - counts.since(of, until);
    this.fade(slot, 0, end_s, effect.out_s ?? 0, end_s);
  }

  /** It is whole, or on its way there. */
  staysIn(slot: number): boolean {
    return this.to[slot] === 1;
  }

  /** It ends by itself, and is on its way out. */
  isOver(slot: number): boolean {
    return this.to[slot] === 0 && !Number.isNaN(this.until[slot]);
  }

  /** Where it is in all that it does, from now on. */
  saved(slot: number, now: number): Omit<SavedEffect, 'slot' | 'key'> {
    const start = this.start[slot] as number;
    const end = start + (this.span[slot] as number);
    const ends = !Number.isNaN(this.until[slot]);
    return {
      phase: this.phase[slot] as number,
      weight: this.weight(slot, now),
      to: this.to[slot],
      wait_s: Math.max(0, start - now),
      left_s: Math.max(0, end - Math.max(start, now)),
      ...(ends ? { began: this.began[slot], until: this.until[slot] } : {}),
    };
  }

  restore(slot: number, wave: number, kept: SavedEffect, now: number): void {
    const { phase, weight, to = 1, wait_s = 0, left_s = 1 - weight } = kept;
    this.begin(slot, wave, phase, weight);
    this.fade(slot, to, now + wait_s, left_s, now);
    this.began[slot] = kept.began ?? 0;
    this.until[slot] = kept.until ?? NaN;
  }

  isGone(slot: number, now: number): boolean {
    return this.to[slot] === 0 && this.weight(slot, now) === 0;
  }
}

/** An effect as it ran when it was saved. */
export interface SavedEffect {
  slot: number;
  /** `effect/attribute`. */
  key: string;
  phase: number;
  weight: number;
  /** Where its weight goes; absent in older states, and where it is whole: 1. */
  to?: number;
  /** So long it waits, and so long it takes from then. */
  wait_s?: number;
  left_s?: number;
  /** Another has come in its place; it is on its way out. */
  leaves?: true;
  /** Of one that ends by itself: its turn when it began, and the rounds so far at which it ends. */
  began?: number;
  until?: number;
  /** It has had its last round: it does not run, and does not run again until somebody says it anew. */
  over?: true;
}

/** Columns of what a cue moves that say what becomes of effects (`Moves` of the engine). */
export interface EffectMoves {
  wave: Int32Array;
  phase: Float32Array;
  up: Float32Array;
  tracks?: Uint8Array;
}

/** Effects that count from the beginning of a track: how long ago that was, where it is, and each one’s cycles then. */
export interface SavedAlong {
  ago_s: number;
  /** Absent in older states: `ago_s`. */
  at_s?: number;
  firsts: [effect: string, cycles: number][];
}

interface Along {
  /** When the track began, on the engine's clock. */
  zero_s: number;
  /** Where the track is: it stands while its list does. */
  at_s: number;
  /** By effect: its cycles at its beginning, or at its first beat. */
  firsts: Float64Array;
  /** Its list is let go of: it is over when the last of its effects is. */
  ends: boolean;
}

/** Whether two tracks have the same beats. */
const isSameBeats = (a: readonly BeatSection[], b: readonly BeatSection[]): boolean =>
  a.length === b.length &&
  a.every((s, i) => s.at_s === b[i]?.at_s && s.bpm === b[i]?.bpm && s.first === b[i]?.first);

/** Effects of one list or operator, over its levels. */
export class EffectLayer implements Rounds {
  private along: Along | null = null;
  /** Beats of its list's track; none: effects by beats go at the show's tempo. */
  private beats: readonly BeatSection[] = [];
  /** How many have gone by where the track is. */
  private beat = 0;
  private readonly voices: readonly [Voice, Voice];
  private readonly active: SlotSet;
  /** By slot: the wave of the effect that has had its last round there, since it was said last. */
  private readonly over = new Map<number, number>();

  constructor(
    private readonly size: number,
    private readonly clock: EffectClock,
  ) {
    this.voices = [new Voice(size), new Voice(size)];
    this.active = new SlotSet(size);
  }

  get count(): number {
    return this.active.count;
  }

  runsOn(slot: number): boolean {
    return this.active.has(slot);
  }

  private effectOf(wave: number): ProgramEffect | undefined {
    const { waves, effects } = this.clock.programs;
    const of = waves[wave]?.effect;
    return of === undefined ? undefined : effects[of];
  }

  /**
   * Its list is at a moment of its track: effects count from where that began, each time it is played the same
   * (track.test.ts). Nothing of it runs yet.
   */
  goAlong(at_s: number): void {
    const zero_s = this.clock.now_s - at_s;
    this.along = { zero_s, at_s, firsts: new Float64Array(0), ends: false };
    this.countBeats();
    this.along.firsts = this.firstsOfAll(zero_s);
  }

  /**
   * The beats of its list's track: effects by beats are on them, whatever they were before. That is another moment for them,
   * as after a jump.
   */
  setBeats(beats: readonly BeatSection[]): void {
    if (isSameBeats(this.beats, beats)) return;
    this.beats = beats;
    if (!this.along) return;
    this.countBeats();
    const { firsts, zero_s } = this.along;
    const anew = this.firstsOfAll(zero_s);
    this.clock.programs.effects.forEach((e, i) => {
      if (e.perBeat !== undefined) firsts[i] = anew[i] as number;
    });
  }

  /** The track goes on. @param step_s of its own time; 0 while it stands */
  walk(step_s: number): void {
    if (!this.along || step_s === 0) return;
    this.along.at_s += step_s;
    this.countBeats();
  }

  private countBeats(): void {
    if (this.along && this.beats.length > 0) this.beat = beatsAt(this.beats, this.along.at_s);
  }

  /** Rounds in each beat of the track, of an effect that counts those; undefined of any other. */
  private perBeatOf(effect: number): number | undefined {
    return this.along && this.beats.length > 0
      ? this.clock.programs.effects[effect]?.perBeat
      : undefined;
  }

  /** Where all effects count from, so that each has been running since the track began at that time, or is on its beats. */
  private firstsOfAll(zero_s: number): Float64Array {
    const { programs, cycles, now_s } = this.clock;
    return Float64Array.from(programs.effects, (e, i) =>
      this.perBeatOf(i) === undefined ? (cycles[i] as number) - (now_s - zero_s) * e.hz : 0,
    );
  }

  /** Its list is let go of: what comes in after that goes by the clock of all. */
  endAlong(): void {
    if (this.along) this.along.ends = true;
  }

  /** Rounds of an effect so far, or a while ago: from the beginning of the track where there is one, or on its beats. */
  cyclesOf(effect: number, ago_s = 0): number {
    const { along, beats } = this;
    const first = along?.firsts[effect] ?? 0;
    const perBeat = this.perBeatOf(effect);
    if (along && perBeat !== undefined)
      return (ago_s === 0 ? this.beat : beatsAt(beats, along.at_s - ago_s)) * perBeat - first;
    const { cycles, programs } = this.clock;
    return (cycles[effect] as number) - first - ago_s * (programs.effects[effect]?.hz ?? 0);
  }

  since(effect: number, cycles: number): number {
    const perBeat = this.perBeatOf(effect);
    if (this.along && perBeat !== undefined) {
      if (perBeat === 0) return 0;
      const beats = (cycles + (this.along.firsts[effect] as number)) / perBeat;
      return Math.max(0, this.along.at_s - secondsOfBeats(this.beats, beats));
    }
    const hz = this.clock.programs.effects[effect]?.hz ?? 0;
    return hz > 0 ? (this.cyclesOf(effect) - cycles) / hz : 0;
  }

  private turnOf(effect: number): number {
    const { programs, turns } = this.clock;
    const is = programs.effects[effect];
    return this.along && is
      ? phaseOf(is.direction, this.cyclesOf(effect), 0)
      : (turns[effect] as number);
  }

  /** What a cue says of a slot's effect: it comes in, goes on, or goes out. */
  move(
    slot: number,
    moves: EffectMoves,
    i: number,
    { delay, duration }: { delay: number; duration: number },
  ): void {
    const wave = moves.wave[i] as number;
    const { now_s } = this.clock;
    const phase = moves.phase[i] as number;
    const up = moves.up[i] as number;
    if (wave < 0) this.end(slot, now_s + delay, duration, now_s);
    else if (moves.tracks?.[i] === 1) this.track(slot, wave, phase, now_s + delay, up, now_s);
    else this.begin(slot, wave, phase, now_s + delay, up, now_s);
  }

  /**
   * Brings an effect in on a slot over `span` seconds from `start`, or over the time that the effect itself says; what
   * ran there before leaves in the same time.
   */
  begin(slot: number, wave: number, phase: number, start: number, span: number, now: number): void {
    if (slot >= this.size) return;
    this.over.delete(slot);
    if (this.along?.ends && this.count === 0) this.along = null;
    const [runs, leaves] = this.voices;
    const in_s = this.effectOf(wave)?.in_s ?? span;
    const isSame = this.active.has(slot) && runs.wave[slot] === wave && !runs.isGone(slot, now);
    // One that has had its last round begins anew, beside what is still on its way out.
    if (isSame && !runs.isOver(slot)) {
      if (runs.phase[slot] !== phase) runs.glide(slot, phase, now);
      runs.fade(slot, 1, start, span, now);
      return;
    }
    if (this.active.has(slot) && runs.wave[slot] !== -1) {
      leaves.take(slot, runs, now);
      leaves.fade(slot, 0, start, span, now);
    }
    runs.begin(slot, wave, phase, 0);
    runs.fade(slot, 1, start, in_s, now);
    this.active.add(slot);
  }

  /**
   * The same effect with what an edit made of it. One that has had its last round is not begun again by that
   * (effects.test.ts); one that is on its way in goes on in its own time (player/goes-on.test.ts).
   */
  retell(slot: number, wave: number, phase: number, span: number, now: number): void {
    const runs = this.voices[RUNS];
    const isSame = this.active.has(slot) && runs.wave[slot] === wave;
    if (isSame && runs.staysIn(slot)) {
      if (runs.phase[slot] !== phase) runs.glide(slot, phase, now);
      return;
    }
    const isOver = (isSame && runs.isOver(slot)) || this.over.get(slot) === wave;
    // One that has no last round any more runs on.
    if (isOver && this.effectOf(wave)?.rounds !== undefined) return;
    this.begin(slot, wave, phase, now, span, now);
  }

  /**
   * An effect that was said before, as a full state has it: one that ends by itself goes on where it runs, and is over
   * where it does not; any other comes in (effects.test.ts).
   */
  track(slot: number, wave: number, phase: number, start: number, span: number, now: number): void {
    const runs = this.voices[RUNS];
    const isSame = this.active.has(slot) && runs.wave[slot] === wave;
    if (this.effectOf(wave)?.rounds === undefined || (isSame && !runs.isOver(slot))) {
      this.begin(slot, wave, phase, start, span, now);
      return;
    }
    // On its way out it goes on leaving.
    if (!isSame) this.end(slot, start, span, now);
    this.over.set(slot, wave);
  }

  /** Takes the slot's effect out over `span` seconds from `start`, or over the time that the effect itself says. */
  end(slot: number, start: number, span: number, now: number): void {
    this.over.delete(slot);
    if (!this.active.has(slot)) return;
    for (const voice of this.voices) {
      const out_s = this.effectOf(voice.wave[slot] as number)?.out_s ?? span;
      voice.fade(slot, 0, start, out_s, now);
    }
  }

  /** Whether anything that runs on a slot rides on whatever plays. */
  ridesOn(slot: number): boolean {
    if (!this.active.has(slot)) return false;
    const { waves } = this.clock.programs;
    for (const voice of this.voices) if (waves[voice.wave[slot] as number]?.rides) return true;
    return false;
  }

  /** What runs on a slot has so much of its weight from now on. */
  reweigh(slot: number, share: number, now: number): void {
    if (!this.active.has(slot)) return;
    for (const voice of this.voices) voice.stand(slot, voice.weight(slot, now) * share);
  }

  drop(slot: number): void {
    this.over.delete(slot);
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
      this.advanceSlot(slot, now);
    }
  }

  /** The same where nobody looks at the slots. */
  goOn(): void {
    for (let i = this.count - 1; i >= 0; i--)
      this.advanceSlot(this.active.list[i] as number, this.clock.now_s);
  }

  private advanceSlot(slot: number, now: number): void {
    const { waves, effects } = this.clock.programs;
    const [runs, leaves] = this.voices;
    const of = waves[runs.wave[slot] as number]?.effect ?? -1;
    const effect = effects[of];
    if (effect) runs.count(slot, of, effect, this, now);
    if (!runs.isGone(slot, now) || (leaves.wave[slot] !== -1 && !leaves.isGone(slot, now))) return;
    const wave = runs.wave[slot] as number;
    const isOver = runs.isOver(slot);
    this.drop(slot);
    if (isOver) this.over.set(slot, wave);
  }

  /**
   * The slot's level with its effects on it.
   * @param share how much of it shows, for an operator or a list that lets go
   */
  applied(slot: number, level: number, share: number, which: Which): number {
    if (!this.active.has(slot)) return level;
    const { programs, before, changed, now_s } = this.clock;
    let value = level;
    for (let v = LEAVES; v >= RUNS; v--) {
      const voice = this.voices[v] as Voice;
      const at = voice.wave[slot] as number;
      const wave = programs.waves[at];
      if (!wave || (which !== 'all' && wave.rides !== (which === 'riding'))) continue;
      const weight = voice.weight(slot, now_s) * share;
      if (weight === 0) continue;
      const phase =
        this.turnOf(wave.effect) - (voice.began[slot] as number) + voice.phaseAt(slot, now_s);
      const place = (phase - Math.floor(phase)) * WAVE_SAMPLES;
      const was = changed < 1 ? before[at] : undefined;
      let amount = read(wave.amounts, place);
      let { over } = wave;
      if (was) {
        amount = amount * changed + read(was.amounts, place) * (1 - changed);
        over = over * changed + was.over * (1 - changed);
      }
      value = value * (1 - over * weight) + amount * weight;
    }
    return value;
  }

  /** After a change of the programs: the same effects at their new places; those that are gone end. */
  remap(placeOf: (old: number) => number): void {
    if (this.along) this.along.firsts = this.firstsAfterChange(this.along);
    for (const [slot, wave] of this.over) this.over.set(slot, placeOf(wave));
    for (let i = this.count - 1; i >= 0; i--) {
      const slot = this.active.list[i] as number;
      for (const voice of this.voices) {
        const old = voice.wave[slot] as number;
        if (old >= 0) voice.wave[slot] = placeOf(old);
      }
      if (this.voices.every((voice) => voice.wave[slot] === -1)) this.drop(slot);
    }
  }

  /** Where each effect counts from after a change of the programs, so that none of them jumps (effects.test.ts). */
  private firstsAfterChange({ firsts, zero_s }: Along): Float64Array {
    const { programs, cycles, was } = this.clock;
    const anew = this.firstsOfAll(zero_s);
    return Float64Array.from(programs.effects, ({ id, direction }, i) => {
      const old = was.get(id);
      if (!old) return anew[i] as number;
      const onBeats = (perBeat?: number): number | undefined =>
        perBeat === undefined || this.beats.length === 0 ? undefined : this.beat * perBeat;
      const before = (onBeats(old.perBeat) ?? old.cycles) - (firsts[old.place] ?? 0);
      const now = onBeats(this.perBeatOf(i)) ?? cycles[i] ?? 0;
      return old.direction === direction
        ? now - before
        : now - cyclesAt(direction, phaseOf(old.direction, before, 0));
    });
  }

  savedAlong(): SavedAlong | null {
    if (!this.along) return null;
    const { zero_s, at_s, firsts } = this.along;
    const { programs, now_s } = this.clock;
    return {
      ago_s: now_s - zero_s,
      at_s,
      firsts: programs.effects.map((e, i) => [e.id, firsts[i] ?? 0]),
    };
  }

  restoreAlong({ ago_s, at_s, firsts }: SavedAlong): void {
    this.goAlong(at_s ?? ago_s);
    if (!this.along) return;
    this.along.zero_s = this.clock.now_s - ago_s;
    this.along.firsts = this.firstsOfAll(this.along.zero_s);
    const known = new Map(firsts);
    this.clock.programs.effects.forEach((e, i) => {
      const first = known.get(e.id);
      // An older state counted the show's beats.
      if (!this.along || first === undefined) return;
      if (at_s !== undefined || this.perBeatOf(i) === undefined) this.along.firsts[i] = first;
    });
  }

  /** What runs, with what is on its way out, for keeping. */
  saved(): SavedEffect[] {
    const kept: SavedEffect[] = [];
    const { programs, now_s: now } = this.clock;
    for (let i = 0; i < this.count; i++) {
      const slot = this.active.list[i] as number;
      for (const voice of this.voices) {
        const key = programs.waves[voice.wave[slot] as number]?.key;
        if (key === undefined || voice.isGone(slot, now)) continue;
        const leaves = voice === this.voices[LEAVES] ? { leaves: true as const } : {};
        kept.push({ slot, key, ...voice.saved(slot, now), ...leaves });
      }
    }
    for (const [slot, wave] of this.over) {
      const key = programs.waves[wave]?.key;
      if (key !== undefined) kept.push({ slot, key, phase: 0, weight: 0, over: true });
    }
    return kept;
  }

  /** What was on its way in goes on from where it was; an effect that ends by itself goes on counting. */
  restore(slot: number, wave: number, kept: SavedEffect): void {
    if (slot >= this.size) return;
    if (kept.over) {
      this.over.set(slot, wave);
      return;
    }
    this.voices[kept.leaves ? LEAVES : RUNS].restore(slot, wave, kept, this.clock.now_s);
    this.active.add(slot);
  }
}

/** A table between its samples. @param place 0 … WAVE_SAMPLES, the end left out */
function read(table: Float32Array, place: number): number {
  const low = Math.floor(place);
  const a = table[low] as number;
  return a + ((table[low + 1] as number) - a) * (place - low);
}
