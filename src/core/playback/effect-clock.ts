/**
 * The clock of effects: each counts its cycles, so that a change of speed bends its way and never jumps
 * (docs/playback.md, Effects; effects.test.ts).
 */
import { phaseOf } from '../effects/wave.ts';
import { NO_PROGRAMS, type Programs } from './programs.ts';

export class EffectClock {
  programs: Programs = NO_PROGRAMS;
  /** By effect: its cycles with its direction, as a phase 0…1. */
  turns = new Float64Array(0);
  /** The engine's time. */
  now_s = 0;
  /** By effect: cycles so far. */
  private cycles = new Float64Array(0);

  /** @returns where a wave of the programs before stands in these; -1 for one that is gone */
  set(programs: Programs): (place: number) => number {
    const places = new Map(programs.waves.map((w, i) => [w.key, i]));
    const old = this.programs;
    const before = new Map(this.counted());
    this.programs = programs;
    this.cycles = Float64Array.from(programs.effects, (e) => before.get(e.id) ?? 0);
    this.turns = new Float64Array(programs.effects.length);
    this.turn(0);
    return (place) => places.get(old.waves[place]?.key ?? '') ?? -1;
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
