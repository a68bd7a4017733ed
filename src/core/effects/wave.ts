/** What an effect adds to or makes of a level at a moment of its cycle. */
import type { EffectRow, EffectStep, EffectTrack } from './rows.ts';

const plain = (wave: Exclude<EffectTrack['wave'], 'steps'>, p: number): number => {
  switch (wave) {
    case 'sine':
      return (1 - Math.cos(2 * Math.PI * p)) / 2;
    case 'triangle':
      return p < 0.5 ? p * 2 : 2 - p * 2;
    case 'rise':
      return p;
    case 'fall':
      return 1 - p;
    case 'square':
      return p < 0.5 ? 1 : 0;
  }
};

/** What a step goes to, for one unit. */
export type LevelOfStep = (step: EffectStep) => number;
const ownLevel: LevelOfStep = (step) => step.level;

/** How much of the round a step takes, against the others. */
export const takesOf = (step: EffectStep): number => step.takes ?? 1;

const eased = (t: number): number => (1 - Math.cos(Math.PI * t)) / 2;

/** Steps follow each other, each as long as it takes; each spends its share on the way from the one before it. */
function stepped(
  { steps = [], curve }: Pick<EffectTrack, 'steps' | 'curve'>,
  p: number,
  levelOf: LevelOfStep,
): number {
  let place = p * steps.reduce((sum, step) => sum + takesOf(step), 0);
  for (const [i, step] of steps.entries()) {
    const takes = takesOf(step);
    if (place >= takes && i < steps.length - 1) {
      place -= takes;
      continue;
    }
    const to = levelOf(step);
    const within = place / takes;
    if (step.share === 0 || within >= step.share) return to;
    const last = steps[(i + steps.length - 1) % steps.length] ?? step;
    const from = levelOf(last);
    const t = within / step.share;
    return from + (to - from) * (curve === 'smooth' ? eased(t) : t);
  }
  return 0;
}

/**
 * The wave, 0…1, at a phase of the round 0…1; outside its width it rests at 0, steps at their last level.
 * @param levelOf what a step goes to, where that differs from unit to unit
 */
export function waveAt(
  track: Pick<EffectTrack, 'wave' | 'steps' | 'width' | 'offset' | 'curve'>,
  phase: number,
  levelOf: LevelOfStep = ownLevel,
): number {
  const shifted = phase + track.offset;
  const p = (shifted - Math.floor(shifted)) / track.width;
  if (track.wave === 'steps') return stepped(track, Math.min(p, 1 - 1e-9), levelOf);
  return p >= 1 ? 0 : plain(track.wave, p);
}

/** A level with the track on it, not yet held within 0…1. @param weight 0…1, how much of the effect shows */
export function appliedTo(track: EffectTrack, level: number, phase: number, weight = 1): number {
  const w = waveAt(track, phase);
  return track.mode === 'relative'
    ? level + track.size * (w - 0.5) * weight
    : level * (1 - weight) + (track.base + track.size * w) * weight;
}

/** Samples of a round, for the clock's thread; the first is repeated at the end so that reading between never wraps. */
export const WAVE_SAMPLES = 256;

/** What a track adds to the level beneath, or puts in its place, over a round: 0…1 of the range. */
export const amountsOf = (
  track: EffectTrack,
  levelOf: LevelOfStep = ownLevel,
  size = track.size,
): Float32Array =>
  Float32Array.from({ length: WAVE_SAMPLES + 1 }, (_, i) => {
    const w = waveAt(track, (i % WAVE_SAMPLES) / WAVE_SAMPLES, levelOf);
    return track.mode === 'relative' ? size * (w - 0.5) : track.base + size * w;
  });

/** Rounds a second. @param tempo_bpm the show's shared tempo */
export const hertz = (speed: EffectRow['speed'], tempo_bpm: number): number => {
  if ('hz' in speed) return speed.hz;
  return 'round_s' in speed ? 1 / speed.round_s : tempo_bpm / 60 / speed.beats;
};

const partOf = (v: number): number => v - Math.floor(v);

/** Phase of the cycle after so many cycles, by the direction. */
export function phaseOf(direction: EffectRow['direction'], cycles: number, offset: number): number {
  if (direction === 'forward') return partOf(cycles + offset);
  if (direction === 'back') return partOf(offset - cycles);
  // There in one cycle, back in the next.
  const there = partOf(cycles / 2) * 2;
  return partOf((there <= 1 ? there : 2 - there) * (1 - 1e-9) + offset);
}

/** Cycles at which another direction has the phase that this one has now, so that a turn of the way jumps nowhere. */
export function cyclesAt(direction: EffectRow['direction'], phase: number): number {
  return direction === 'back' ? 1 - phase : phase;
}
