/**
 * The clock of effects: each counts its cycles, so that a change of speed bends its way and never jumps
 * (docs/playback.md, Effects; effects.test.ts).
 */
import type { EffectRow } from '../effects/rows.ts';
import { cyclesAt, phaseOf } from '../effects/wave.ts';
import { NO_PROGRAMS, type Programs, type Wave } from './programs.ts';

/** What is changed in an effect that runs arrives over this time, so that nothing jumps (effects.test.ts). */
export const CHANGE_S = 0.15;

/** What a wave gave before it was changed, while that still shows. */
interface Before {
  amounts: Float32Array;
  over: number;
}

/** An effect before a change of the programs. */
interface Was {
  place: number;
  direction: EffectRow['direction'];
  perBeat: number | undefined;
  cycles: number;
  phase: number;
}

const isSameTable = (a: Float32Array, b: Float32Array): boolean => {
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** How far each effect has gone, shared by everything in which it runs. */
export class EffectClock {
  programs: Programs = NO_PROGRAMS;
  /** By effect: its cycles with its direction, as a phase 0…1. */
  turns = new Float64Array(0);
  /** The engine's time. */
  now_s = 0;
  /** By effect: cycles so far. */
  cycles = new Float64Array(0);
  /** By wave: what it gave before, where it was changed a moment ago. */
  before: (Before | undefined)[] = [];
  /** How much of what waves are now shows against what they were, 0…1. */
  changed = 1;
  private changedAt_s = -Infinity;
  /** By id: effects as they were before the programs were set last. */
  was: ReadonlyMap<string, Was> = new Map();

  /** @returns where a wave of the programs before stands in these; -1 for one that is gone */
  set(programs: Programs): (place: number) => number {
    const places = new Map(programs.waves.map((w, i) => [w.key, i]));
    const old = this.programs;
    const oldPlaces = new Map(old.waves.map((w, i) => [w.key, i]));
    const shown = programs.waves.map((w) => this.shownBefore(w, oldPlaces.get(w.key)));
    const turned = new Map(
      old.effects.map((e, place): [string, Was] => [
        e.id,
        {
          place,
          direction: e.direction,
          perBeat: e.perBeat,
          cycles: this.cycles[place] ?? 0,
          phase: this.turns[place] ?? 0,
        },
      ]),
    );
    this.was = turned;
    this.programs = programs;
    this.cycles = Float64Array.from(programs.effects, (e) => {
      const was = turned.get(e.id);
      if (!was) return 0;
      return was.direction === e.direction ? was.cycles : cyclesAt(e.direction, was.phase);
    });
    this.turns = new Float64Array(programs.effects.length);
    this.before = shown;
    this.changedAt_s = shown.some((b) => b !== undefined) ? this.now_s : -Infinity;
    this.turn(0);
    return (place) => places.get(old.waves[place]?.key ?? '') ?? -1;
  }

  /** What a wave shows at this moment, if it is about to be another. */
  private shownBefore(next: Wave, place: number | undefined): Before | undefined {
    const now = place === undefined ? undefined : this.programs.waves[place];
    if (!now || place === undefined) return undefined;
    const was = this.changed < 1 ? this.before[place] : undefined;
    if (!was)
      return now.over === next.over && isSameTable(now.amounts, next.amounts)
        ? undefined
        : { amounts: now.amounts, over: now.over };
    const share = this.changed;
    return {
      amounts: now.amounts.map((a, i) => a * share + (was.amounts[i] ?? 0) * (1 - share)),
      over: now.over * share + was.over * (1 - share),
    };
  }

  /** Moves every effect on. @returns seconds since the last time */
  advance(now_s: number): number {
    const step_s = Math.max(0, now_s - this.now_s);
    this.now_s = now_s;
    this.turn(step_s);
    return step_s;
  }

  private turn(step_s: number): void {
    const { effects } = this.programs;
    const since = (this.now_s - this.changedAt_s) / CHANGE_S;
    this.changed = since >= 1 ? 1 : since;
    for (let i = 0; i < effects.length; i++) {
      const effect = effects[i];
      if (!effect) continue;
      this.cycles[i] = (this.cycles[i] as number) + step_s * effect.hz;
      this.turns[i] = phaseOf(effect.direction, this.cycles[i] as number, 0);
    }
  }

  /** Cycles so far by effect id, to be kept. */
  counted(): [string, number][] {
    return this.programs.effects.map((e, i) => [e.id, this.cycles[i] ?? 0]);
  }

  goOn(counted: readonly [string, number][], now_s: number): void {
    const cycles = new Map(counted);
    this.programs.effects.forEach((e, i) => (this.cycles[i] = cycles.get(e.id) ?? 0));
    this.now_s = now_s;
    this.turn(0);
  }
}
