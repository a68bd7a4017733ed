/** How different two colours look: CIE L*a*b* (CIE 15) and the CIEDE2000 difference (CIE 142-2001, ISO/CIE 11664-6). */
import type { Chromaticity, XYZ } from './mix.ts';

/** A colour in CIE 1976 L*a*b*: L from 0 to 100, a and b about -128 to 127. */
export type Lab = readonly [L: number, a: number, b: number];

/** D65, 2 degree observer, Y = 1. */
const WHITE: XYZ = [0.95047, 1, 1.08883];
const EPSILON = 216 / 24389;
const KAPPA = 24389 / 27;

/** @param xyz relative to a white of Y = 1 */
export function toLab(xyz: XYZ): Lab {
  const f = (v: number): number => (v > EPSILON ? Math.cbrt(v) : (KAPPA * v + 16) / 116);
  const [x, y, z] = [f(xyz[0] / WHITE[0]), f(xyz[1] / WHITE[1]), f(xyz[2] / WHITE[2])];
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

const rad = (deg: number): number => (deg * Math.PI) / 180;
const hue = (b: number, a: number): number => {
  if (a === 0 && b === 0) return 0;
  const h = (Math.atan2(b, a) * 180) / Math.PI;
  return h < 0 ? h + 360 : h;
};

/** From one hue to the other by the shorter way, −180 to 180 degrees. */
function apartBy(h1: number, h2: number): number {
  const apart = h2 - h1;
  if (Math.abs(apart) <= 180) return apart;
  return apart > 180 ? apart - 360 : apart + 360;
}

/** The hue between two, on the shorter way, in degrees. */
function halfway(h1: number, h2: number): number {
  const sum = h1 + h2;
  if (Math.abs(h2 - h1) <= 180) return sum / 2;
  return sum < 360 ? (sum + 360) / 2 : (sum - 360) / 2;
}

/** CIEDE2000 with all weights 1; below 1 nobody sees it, 2 to 3 is seen side by side, 10 at a glance. */
export function deltaE2000([L1, a1, b1]: Lab, [L2, a2, b2]: Lab): number {
  const C7 = ((Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2) ** 7;
  const G = 0.5 * (1 - Math.sqrt(C7 / (C7 + 25 ** 7)));
  const [p1, p2] = [a1 * (1 + G), a2 * (1 + G)];
  const [C1, C2] = [Math.hypot(p1, b1), Math.hypot(p2, b2)];
  const [h1, h2] = [hue(b1, p1), hue(b2, p2)];
  const grey = C1 * C2 === 0;
  const dh = grey ? 0 : apartBy(h1, h2);
  const dH = 2 * Math.sqrt(C1 * C2) * Math.sin(rad(dh / 2));
  const L = (L1 + L2) / 2;
  const C = (C1 + C2) / 2;
  const h = grey ? h1 + h2 : halfway(h1, h2);
  const T =
    1 -
    0.17 * Math.cos(rad(h - 30)) +
    0.24 * Math.cos(rad(2 * h)) +
    0.32 * Math.cos(rad(3 * h + 6)) -
    0.2 * Math.cos(rad(4 * h - 63));
  const turn = 30 * Math.exp(-(((h - 275) / 25) ** 2));
  const RC = 2 * Math.sqrt(C ** 7 / (C ** 7 + 25 ** 7));
  const SL = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2);
  const SC = 1 + 0.045 * C;
  const SH = 1 + 0.015 * C * T;
  const [l, c, k] = [(L2 - L1) / SL, (C2 - C1) / SC, dH / SH];
  return Math.sqrt(Math.max(0, l * l + c * c + k * k - Math.sin(rad(2 * turn)) * RC * c * k));
}

/** Light is compared at one brightness: an intensity is set apart from a colour. About L* 76. */
const COMPARED_Y = 0.5;

/** Difference of two chromaticities at the same brightness. */
export function chromaticityDeltaE(a: Chromaticity, b: Chromaticity): number {
  const lab = ({ x, y }: Chromaticity): Lab => {
    const safe = Math.max(1e-4, y);
    return toLab([
      (x / safe) * COMPARED_Y,
      COMPARED_Y,
      (Math.max(0, 1 - x - y) / safe) * COMPARED_Y,
    ]);
  };
  return deltaE2000(lab(a), lab(b));
}
