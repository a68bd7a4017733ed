/** How warm a white is. */
import { kelvin, toUv, type Chromaticity } from './mix.ts';

/** Farther from the locus than this is a colour and no white (CIE 15 allows 0.05; narrower for words). */
const WHITE_UV = 0.015;

/**
 * Correlated colour temperature: the black body nearest in the u', 2/3 v' diagram (CIE 15).
 * @returns kelvin within 1667…25000, or undefined for what is a colour
 */
export function correlatedKelvin(c: Chromaticity): number | undefined {
  const [u, v] = toUv(c);
  const distance = (mired: number): number => {
    const [a, b] = toUv(kelvin(1e6 / mired));
    return Math.hypot(a - u, ((b - v) * 2) / 3);
  };
  // Distance along the locus has one low point: halve the interval about it, in mired, where steps look even.
  let [low, high] = [40, 600];
  for (let i = 0; i < 60 && high - low > 1e-3; i++) {
    const [a, b] = [low + (high - low) / 3, high - (high - low) / 3];
    if (distance(a) < distance(b)) high = b;
    else low = a;
  }
  const mired = (low + high) / 2;
  return distance(mired) > WHITE_UV ? undefined : 1e6 / mired;
}
