/** The show's effects as tables for the clock's thread: one wave for each effect and attribute, or for each unit where its steps go elsewhere on each. */
import {
  attributesOfLane,
  isByUnit,
  laneOf,
  levelsOfSteps,
  saysAnything,
} from '../effects/lanes.ts';
import { amountsOf, hertz } from '../effects/wave.ts';
import { modeOf } from '../fixtures/points.ts';
import { baseOf } from '../rig/attributes.ts';
import type { PaletteSource } from '../palettes/resolve.ts';
import type { EffectRow, EffectTrack } from '../effects/rows.ts';

/** What an effect does to one slot. */
export interface Wave {
  /** `effect/attribute`, or `effect/attribute/unit`: the same after a change of the effect. */
  key: string;
  /** Place in `Programs.effects`. */
  effect: number;
  /** What it adds to the level beneath, or puts in its place, over a round; `WAVE_SAMPLES` and the first again. */
  amounts: Float32Array;
  /** 0: adds to the level beneath; 1: takes its place; between, on the way from the one to the other. */
  over: number;
  /** Goes on over a level of another list. */
  rides: boolean;
}

/** How an effect goes. */
export interface ProgramEffect {
  id: string;
  hz: number;
  /** Of one that goes by beats: rounds in each. A list on a track with beats counts those, and not the show's. */
  perBeat?: number;
  direction: EffectRow['direction'];
  /** Rounds until it ends; absent: never. */
  rounds?: number;
  in_s?: number;
  out_s?: number;
}

/** Effects, ready to be played. */
export interface Programs {
  effects: ProgramEffect[];
  waves: Wave[];
  /** Whether any wave rides: the merge looks for them only then. */
  rides: boolean;
}

/** Of a show without effects. */
export const NO_PROGRAMS: Programs = { effects: [], waves: [], rides: false };

/** Finds the place of an effect's wave in the clock's programs; -1 where it has none. */
export type FindWave = (effectId: string, attribute: string, fixtureId: string) => number;

/** A lane's waves for single units: those that go to the same levels share one table. */
function wavesByUnit(
  show: PaletteSource,
  effect: EffectRow,
  track: EffectTrack,
  wave: (key: string, amounts: Float32Array) => Wave,
  size: number,
): Wave[] {
  const tables = new Map<string, Float32Array>();
  return [...show.fixtures.values()].flatMap((fixture) => {
    const mode = modeOf(show, fixture);
    if (!mode) return [];
    return attributesOfLane(mode, track)
      .filter(
        (a) =>
          laneOf(effect, a) === track &&
          (track.attribute === a || saysAnything(show, track, fixture.id, a)),
      )
      .map((attribute) => {
        const levels = levelsOfSteps(show, track, fixture, attribute);
        const same = levels.join();
        const amounts =
          tables.get(same) ??
          amountsOf(track, (step) => levels[track.steps?.indexOf(step) ?? 0] ?? step.level, size);
        tables.set(same, amounts);
        return wave(`${effect.id}/${attribute}/${fixture.id}`, amounts);
      });
  });
}

/** @param tempo_bpm the show's shared tempo @param sizes by effect: what its size is times, where a fader holds it @param paces the same of its speed */
export function compileEffects(
  show: PaletteSource,
  tempo_bpm: number,
  sizes: ReadonlyMap<string, number> = new Map(),
  paces: ReadonlyMap<string, number> = new Map(),
): Programs {
  const programs: Programs = { effects: [], waves: [], rides: false };
  for (const effect of show.effects.values()) {
    const { id, speed, direction, rounds, in_s, out_s, rides = false } = effect;
    const pace = paces.get(id) ?? 1;
    const at =
      programs.effects.push({
        id,
        hz: hertz(speed, tempo_bpm) * pace,
        direction,
        ...('beats' in speed ? { perBeat: pace / speed.beats } : {}),
        ...(rounds === undefined ? {} : { rounds }),
        ...(in_s === undefined ? {} : { in_s }),
        ...(out_s === undefined ? {} : { out_s }),
      }) - 1;
    programs.rides ||= rides;
    for (const track of effect.tracks) {
      const size = track.size * (sizes.get(id) ?? 1);
      const wave = (key: string, amounts: Float32Array): Wave => ({
        key,
        effect: at,
        amounts,
        over: track.mode === 'absolute' ? 1 : 0,
        rides,
      });
      if (isByUnit(track)) programs.waves.push(...wavesByUnit(show, effect, track, wave, size));
      else programs.waves.push(wave(`${id}/${track.attribute}`, amountsOf(track, undefined, size)));
    }
  }
  return programs;
}

/** Finds the wave of an effect for an attribute of a unit; that of the whole unit serves its cells. */
export function waveFinder(programs: Programs): FindWave {
  const index = new Map(programs.waves.map((w, i) => [w.key, i]));
  return (effectId, attribute, fixtureId) =>
    index.get(`${effectId}/${attribute}/${fixtureId}`) ??
    index.get(`${effectId}/${attribute}`) ??
    index.get(`${effectId}/${baseOf(attribute)}`) ??
    -1;
}
