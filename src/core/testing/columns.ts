/** What the engine is told, as columns, for tests and measurements. */
import type { Moves, Sought } from '../playback/list-moves.ts';
import type { Holds } from '../playback/operator.ts';

interface Column {
  level: number;
  fade_s?: number;
  delay_s?: number;
  wave?: number;
  phase?: number;
}

const list = (slots: number | readonly number[]): readonly number[] =>
  typeof slots === 'number' ? [slots] : slots;

/** The same for one slot or several. */
export function holds(
  slots: number | readonly number[],
  { level, fade_s = 0, delay_s = 0, wave = -1, phase = 0 }: Column,
): Holds {
  const at = list(slots);
  const all = (v: number): Float32Array => new Float32Array(at.length).fill(v);
  return {
    slots: Uint32Array.from(at),
    levels: all(level),
    fade_s: all(fade_s),
    delay_s: all(delay_s),
    wave: new Int32Array(at.length).fill(wave),
    phase: all(phase),
  };
}

/** Moves of slots as the engine takes them, as columns. */
export function moves(
  slots: number | readonly number[],
  {
    level,
    up_s = 0,
    down_s = up_s,
    delay_s = 0,
    curve = 0,
    wave = -1,
    phase = 0,
  }: Column & { up_s?: number; down_s?: number; curve?: number },
): Moves {
  const at = list(slots);
  const all = (v: number): Float32Array => new Float32Array(at.length).fill(v);
  return {
    slot: Uint32Array.from(at),
    level: all(level),
    up: all(up_s),
    down: all(down_s),
    delay: all(delay_s),
    curve: new Uint8Array(at.length).fill(curve),
    wave: new Int32Array(at.length).fill(wave),
    phase: all(phase),
  };
}

/** A moment of a track at which nothing of its list is on stage. */
export const soughtAt = (at_s: number): Sought => ({
  slot: new Uint32Array(0),
  from: new Float32Array(0),
  to: new Float32Array(0),
  ago: new Float64Array(0),
  span: new Float32Array(0),
  curve: new Uint8Array(0),
  effects: [],
  at_s,
  ago_s: 0,
  total_s: 0,
});
