/** What an effect adds to or makes of a level at a moment of its cycle. */
import type { EffectRow, EffectTrack } from './rows.ts';

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

/** Steps follow each other evenly; each spends its share on the way from the one before it. */
function stepped(steps: NonNullable<EffectTrack['steps']>, p: number): number {
  const n = steps.length;
  const place = Math.min(n - 1e-9, p * n);
  const i = Math.floor(place);
  const step = steps[i] ?? { level: 0, share: 0 };
  const before = steps[(i + n - 1) % n]?.level ?? 0;
  const within = place - i;
  return step.share > 0 && within < step.share
    ? before + ((step.level - before) * within) / step.share
    : step.level;
}

/** The wave, 0…1, at a phase of the cycle 0…1; outside its width it rests at 0, steps at their last level. */
export function waveAt(
  track: Pick<EffectTrack, 'wave' | 'steps' | 'width' | 'offset'>,
  phase: number,
): number {
  const shifted = phase + track.offset;
  const p = (shifted - Math.floor(shifted)) / track.width;
  if (track.wave === 'steps')
    return stepped(track.steps ?? [{ level: 0, share: 0 }], Math.min(p, 1 - 1e-9));
  return p >= 1 ? 0 : plain(track.wave, p);
}

/** A level with the track on it, not yet held within 0…1. @param weight 0…1, how much of the effect shows */
export function appliedTo(track: EffectTrack, level: number, phase: number, weight = 1): number {
  const w = waveAt(track, phase);
  return track.mode === 'relative'
    ? level + track.size * (w - 0.5) * weight
    : level * (1 - weight) + (track.base + track.size * w) * weight;
}

/** Samples of a cycle, for the clock's thread; the first is repeated at the end so that reading between never wraps. */
export const WAVE_SAMPLES = 256;
export const waveTable = (track: EffectTrack): Float32Array =>
  Float32Array.from({ length: WAVE_SAMPLES + 1 }, (_, i) =>
    waveAt(track, (i % WAVE_SAMPLES) / WAVE_SAMPLES),
  );

/** Cycles a second. @param tempo_bpm the show's shared tempo */
export const hertz = (speed: EffectRow['speed'], tempo_bpm: number): number =>
  'hz' in speed ? speed.hz : tempo_bpm / 60 / speed.beats;

const partOf = (v: number): number => v - Math.floor(v);

/** Phase of the cycle after so many cycles, by the direction. */
export function phaseOf(direction: EffectRow['direction'], cycles: number, offset: number): number {
  if (direction === 'forward') return partOf(cycles + offset);
  if (direction === 'back') return partOf(offset - cycles);
  // There in one cycle, back in the next.
  const there = partOf(cycles / 2) * 2;
  return partOf((there <= 1 ? there : 2 - there) * (1 - 1e-9) + offset);
}
