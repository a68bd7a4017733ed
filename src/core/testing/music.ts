/** Music for tests: made of arithmetic, so that where its beats are is known. */
import type { Pcm } from '../sounds/shape.ts';

/** A kick on each beat with a click between, over a tone; what is played on a beat depends on its number, as a tune does. */
export function music(beats: readonly number[], length_s: number, rate_hz = 8000, noise = 0): Pcm {
  const out = new Float32Array(Math.round(length_s * rate_hz));
  let seed = 1;
  const random = (): number => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
    return seed / 1_073_741_824 - 1;
  };
  beats.forEach((at_s, n) => {
    const strong = n % 3 === 0 ? 0.8 : 0.45;
    const pitch = 180 + ((n * 7) % 12) * 35;
    const loud = 0.1 + 0.25 * (((n * 5) % 9) / 9);
    for (let i = 0; i < rate_hz * 0.35; i++) {
      const t = i / rate_hz;
      const k = Math.round(at_s * rate_hz) + i;
      if (k >= out.length || k < 0) continue;
      const kick = strong * Math.exp(-t * 30) * Math.sin(2 * Math.PI * 70 * t);
      const tone = loud * Math.exp(-t * 6) * Math.sin(2 * Math.PI * pitch * t);
      out[k] = (out[k] ?? 0) + kick + tone;
    }
  });
  if (noise > 0) for (let i = 0; i < out.length; i++) out[i] = (out[i] ?? 0) + noise * random();
  return { channels: [out], rate_hz };
}

/** Beats of a steady tempo. */
export const steady = (bpm: number, first_s: number, length_s: number): number[] =>
  Array.from(
    { length: Math.max(0, Math.floor(((length_s - first_s) * bpm) / 60)) },
    (_, i) => first_s + (i * 60) / bpm,
  );
