/** The show's effects as tables for the clock's thread: one wave for each effect and attribute. */
import { hertz, waveTable } from '../effects/wave.ts';
import { baseOf } from '../rig/attributes.ts';
import type { EffectRow } from '../effects/rows.ts';
import type { Show } from '../show/show.ts';

export interface Wave {
  /** `effect/attribute`: the same after a change of the effect. */
  key: string;
  /** Place in `Programs.effects`. */
  effect: number;
  table: Float32Array;
  size: number;
  base: number;
  absolute: boolean;
}

export interface Programs {
  effects: { id: string; hz: number; direction: EffectRow['direction'] }[];
  waves: Wave[];
}

export const NO_PROGRAMS: Programs = { effects: [], waves: [] };

/** @param tempo_bpm the show's shared tempo @param sizes by effect: what its size is times, where a fader holds it */
export function compileEffects(
  show: Pick<Show, 'effects'>,
  tempo_bpm: number,
  sizes: ReadonlyMap<string, number> = new Map(),
): Programs {
  const programs: Programs = { effects: [], waves: [] };
  for (const effect of show.effects.values()) {
    const at =
      programs.effects.push({
        id: effect.id,
        hz: hertz(effect.speed, tempo_bpm),
        direction: effect.direction,
      }) - 1;
    for (const track of effect.tracks)
      programs.waves.push({
        key: `${effect.id}/${track.attribute}`,
        effect: at,
        table: waveTable(track),
        size: track.size * (sizes.get(effect.id) ?? 1),
        base: track.base,
        absolute: track.mode === 'absolute',
      });
  }
  return programs;
}

/** Finds the wave of an effect for an attribute; that of the whole unit serves its cells. */
export function waveFinder(programs: Programs): (effectId: string, attribute: string) => number {
  const index = new Map(programs.waves.map((w, i) => [w.key, i]));
  return (effectId, attribute) =>
    index.get(`${effectId}/${attribute}`) ?? index.get(`${effectId}/${baseOf(attribute)}`) ?? -1;
}
