/**
 * Additive mixing and its reverse. Emitters are CIE 1931 xyY; a mix is their weighted sum in XYZ.
 * Display colours are linear or gamma-coded sRGB (IEC 61966-2-1).
 */
import { clamp } from '../numbers.ts';
import type { Emitter } from '../types/rows.ts';

/** Tristimulus values of the CIE 1931 observer, linear in light; Y is its brightness. */
export type XYZ = [number, number, number];
/** A colour without its brightness, CIE 1931 x and y. */
export interface Chromaticity {
  x: number;
  y: number;
}

/** CIE XYZ of a light given by its chromaticity and luminance. */
export const toXYZ = (e: Emitter): XYZ => [(e.x / e.y) * e.Y, e.Y, ((1 - e.x - e.y) / e.y) * e.Y];

/** Sum of emitters at their weights 0…1. */
export function mixXYZ(emitters: readonly Emitter[], weights: readonly number[]): XYZ {
  const sum: XYZ = [0, 0, 0];
  emitters.forEach((e, i) => {
    const xyz = toXYZ(e);
    for (let k = 0; k < 3; k++) sum[k] = (sum[k] ?? 0) + (xyz[k] ?? 0) * (weights[i] ?? 0);
  });
  return sum;
}

/** CIE 1931 x and y; undefined for what is dark. */
export function chromaticity([X, Y, Z]: XYZ): Chromaticity | undefined {
  const sum = X + Y + Z;
  return sum > 1e-9 ? { x: X / sum, y: Y / sum } : undefined;
}

/** XYZ to linear sRGB; components may leave 0…1. */
export const toLinearRGB = ([X, Y, Z]: XYZ): XYZ => [
  3.2406 * X - 1.5372 * Y - 0.4986 * Z,
  -0.9689 * X + 1.8758 * Y + 0.0415 * Z,
  0.0557 * X - 0.204 * Y + 1.057 * Z,
];
/** Linear sRGB, 0 to 1 each, as CIE XYZ for D65 (IEC 61966-2-1). */
export const fromLinearRGB = ([r, g, b]: XYZ): XYZ => [
  0.4124 * r + 0.3576 * g + 0.1805 * b,
  0.2126 * r + 0.7152 * g + 0.0722 * b,
  0.0193 * r + 0.1192 * g + 0.9505 * b,
];

const gammaOut = (v: number): number =>
  v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;
const gammaIn = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** The hue and saturation of light for a screen: brightest component at 255, brightness told otherwise. */
export function displayRGB(xyz: XYZ): [number, number, number] {
  const linear = toLinearRGB(xyz).map((v) => Math.max(0, v));
  const top = Math.max(...linear, 1e-9);
  return linear.map((v) => Math.round(255 * gammaOut(v / top))) as [number, number, number];
}

/** Hue 0…360 and saturation 0…1 at full value, as the chromaticity of that sRGB colour. */
export function hueSaturation(hue: number, saturation: number): Chromaticity {
  const channel = (n: number): number => {
    const k = (n + hue / 60) % 6;
    return gammaIn(1 - saturation * Math.max(0, Math.min(k, 4 - k, 1)));
  };
  return (
    chromaticity(fromLinearRGB([channel(5), channel(3), channel(1)])) ?? { x: 0.3127, y: 0.329 }
  );
}

/** Hue and saturation of light as seen on an sRGB screen. */
export function toHueSaturation(xyz: XYZ): { hue: number; saturation: number } {
  const [r, g, b] = displayRGB(xyz).map((v) => v / 255) as XYZ;
  const top = Math.max(r, g, b);
  const low = Math.min(r, g, b);
  const span = top - low;
  if (span < 1e-6) return { hue: 0, saturation: 0 };
  return { hue: sixth([r, g, b], top, span) * 60, saturation: span / top };
}

/** Hue in sixths of the circle, 0 red to 6: which primary is strongest, and which way the others pull it. */
function sixth([r, g, b]: XYZ, top: number, span: number): number {
  if (top === r) return ((g - b) / span + 6) % 6;
  return top === g ? (b - r) / span + 2 : (r - g) / span + 4;
}

/**
 * Chromaticity of white light at a temperature: Planckian locus, cubic approximation by Kim et al. (2002).
 * @param kelvin 1667…25000
 */
export function kelvin(kelvin: number): Chromaticity {
  const T = clamp(kelvin, 1667, 25_000);
  const x =
    T <= 4000
      ? -0.2661239e9 / T ** 3 - 0.2343589e6 / T ** 2 + 0.8776956e3 / T + 0.17991
      : -3.0258469e9 / T ** 3 + 2.1070379e6 / T ** 2 + 0.2226347e3 / T + 0.24039;
  return { x, y: locusY(T, x) };
}

/** The other coordinate of the locus, for temperature T in kelvin and its x. */
function locusY(T: number, x: number): number {
  if (T <= 2222) return -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683;
  if (T <= 4000) return -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867;
  return 3.081758 * x ** 3 - 5.8733867 * x ** 2 + 3.75112997 * x - 0.37001483;
}

/** How bright each emitter burns for a colour, 0…1, in the emitters’ order. */
export interface Solution {
  weights: number[];
  /** The target lay outside the emitters' gamut; `at` is the nearest chromaticity in CIE 1976 u'v'. */
  outside: boolean;
  at: Chromaticity;
}

/** CIE 1976 u'v'. */
export const toUv = ({ x, y }: Chromaticity): [number, number] => {
  const d = -2 * x + 12 * y + 3;
  return [(4 * x) / d, (9 * y) / d];
};
const fromUv = ([u, v]: [number, number]): Chromaticity => {
  const d = 6 * u - 16 * v + 12;
  return { x: (9 * u) / d, y: (4 * v) / d };
};

/** The colour a share of the way from one to another, on the straight line in u'v', which looks even. */
export function between(a: Chromaticity, b: Chromaticity, t: number): Chromaticity {
  const [p, q] = [toUv(a), toUv(b)];
  return fromUv([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]);
}

/** Emitters whose chromaticities differ by less than this in u'v' are one; a triangle flatter than this is a line. */
const FLAT_UV = 1e-5;
/** Nearer than this to what the emitters reach, a target counts as reached. */
const REACHED_UV = 1e-6;

/**
 * Brightest weights 0…1 whose mix has the target chromaticity, or the nearest one that the emitters reach. One emitter
 * reaches a point, emitters of two colours a line, others an area; the answer to a luminous target is never darkness.
 * @param emitters at least one; without any the answer has no weights and `at` is the target
 */
export function solveEmitters(emitters: readonly Emitter[], target: Chromaticity): Solution {
  if (emitters.length === 0) return { weights: [], outside: true, at: target };
  const line = asLine(emitters);
  if (line) return onLine(emitters, line, target);
  const exact = corner(emitters, target);
  if (exact) return { weights: exact, outside: false, at: target };
  const at = nearestInGamut(emitters, target);
  return { weights: corner(emitters, at) ?? onEdge(emitters, at), outside: true, at };
}

/** A line in u'v' that all emitters lie on, with each one's place along it. */
interface GamutLine {
  from: [number, number];
  /** Unit length; [0, 0] where all emitters are of one chromaticity. */
  along: [number, number];
  places: number[];
}

/** The line that the emitters lie on, or undefined where they span an area. */
function asLine(emitters: readonly Emitter[]): GamutLine | undefined {
  const points = emitters.map(toUv);
  let a: [number, number] = points[0] ?? [0, 0];
  let b = a;
  for (const p of points)
    for (const q of points)
      if (Math.hypot(q[0] - p[0], q[1] - p[1]) > Math.hypot(b[0] - a[0], b[1] - a[1]))
        [a, b] = [p, q];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const along: [number, number] =
    length < FLAT_UV ? [0, 0] : [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const aside = (p: [number, number]): number =>
    (p[0] - a[0]) * along[1] - (p[1] - a[1]) * along[0];
  if (points.some((p) => Math.abs(aside(p)) > FLAT_UV)) return undefined;
  return {
    from: a,
    along,
    places: points.map((p) => (p[0] - a[0]) * along[0] + (p[1] - a[1]) * along[1]),
  };
}

/** The nearest point of the line, as bright as it can be: all weights but one are 0 or 1. */
function onLine(
  emitters: readonly Emitter[],
  { from, along, places }: GamutLine,
  target: Chromaticity,
): Solution {
  const [u, v] = toUv(target);
  const wanted = (u - from[0]) * along[0] + (v - from[1]) * along[1];
  const place = Math.min(Math.max(wanted, Math.min(...places)), Math.max(...places));
  const at: [number, number] = [from[0] + along[0] * place, from[1] + along[1] * place];
  const outside = Math.hypot(at[0] - u, at[1] - v) > REACHED_UV;
  // A mix lies at the mean of its parts' places, each weighed by what its light adds to u'v' (X + 15Y + 3Z).
  const pulls = emitters.map((e, i) => {
    const [X, Y, Z] = toXYZ(e);
    return { pull: (X + 15 * Y + 3 * Z) * ((places[i] ?? 0) - place), Y };
  });
  return { weights: balanced(pulls), outside, at: outside ? fromUv(at) : target };
}

/** Brightest weights at which the pulls to either side cancel out. */
function balanced(pulls: readonly { pull: number; Y: number }[]): number[] {
  const free = pulls.map(({ pull }) => Math.abs(pull) < 1e-12);
  const sum = (sign: 1 | -1): number =>
    pulls.reduce((s, { pull }, i) => s + (free[i] || pull * sign <= 0 ? 0 : Math.abs(pull)), 0);
  const room = Math.min(sum(1), sum(-1));
  const weights: number[] = free.map((is) => (is ? 1 : 0));
  // On either side those come first that give most light for their pull.
  for (const sign of [1, -1] as const) {
    let left = room;
    const side = pulls
      .map((p, i) => ({ ...p, i }))
      .filter(({ pull, i }) => !free[i] && pull * sign > 0);
    for (const { pull, i } of side.sort(
      (a, b) => b.Y / Math.abs(b.pull) - a.Y / Math.abs(a.pull),
    )) {
      weights[i] = Math.min(1, left / Math.abs(pull));
      left = Math.max(0, left - Math.abs(pull));
    }
  }
  return weights;
}

/** The two emitters of the edge that a chromaticity lies nearest to, mixed along it. */
function onEdge(emitters: readonly Emitter[], at: Chromaticity): number[] {
  let best: { weights: number[]; off: number } | undefined;
  const [u, v] = toUv(at);
  for (let i = 0; i < emitters.length; i++) {
    for (let j = i + 1; j < emitters.length; j++) {
      const pair = [emitters[i], emitters[j]].filter((e) => e !== undefined);
      const line = asLine(pair);
      if (!line) continue;
      const { weights, at: near } = onLine(pair, line, at);
      const [s, t] = toUv(near);
      const off = Math.hypot(s - u, t - v);
      if (!best || off < best.off)
        best = {
          off,
          weights: emitters.map((_, k) => weights[[i, j].indexOf(k)] ?? 0),
        };
    }
  }
  return best?.weights ?? emitters.map(() => 1);
}

/**
 * The best solution of this small linear programme lies at a corner, where all weights but two are 0 or 1; with at most
 * eight emitters all corners are tried.
 */
function corner(emitters: readonly Emitter[], { x, y }: Chromaticity): number[] | undefined {
  // Two linear conditions on the weights: X - x·(X+Y+Z) = 0 and Y - y·(X+Y+Z) = 0.
  const rows = emitters.map((e) => {
    const [X, Y, Z] = toXYZ(e);
    const sum = X + Y + Z;
    return { a: X - x * sum, b: Y - y * sum, Y, size: sum };
  });
  const n = rows.length;
  const slack = 1e-7;
  let best: number[] | undefined;
  let bestY = 1e-9;
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < n; j++) {
      const p = rows[i];
      const q = rows[j];
      if (!p || !q) continue;
      const det = p.a * q.b - q.a * p.b;
      const rest = rows.map((_, k) => k).filter((k) => k !== i && k !== j);
      for (let bits = 0; bits < 1 << rest.length; bits++) {
        let a = 0;
        let b = 0;
        let Y = 0;
        rest.forEach((k, bit) => {
          if (((bits >> bit) & 1) === 0) return;
          a -= rows[k]?.a ?? 0;
          b -= rows[k]?.b ?? 0;
          Y += rows[k]?.Y ?? 0;
        });
        if (Math.abs(det) < 1e-12) continue;
        const wi = (a * q.b - q.a * b) / det;
        const wj = (p.a * b - a * p.b) / det;
        if (wi < -slack || wj < -slack || wi > 1 + slack || wj > 1 + slack) continue;
        const total = Y + wi * p.Y + wj * q.Y;
        if (total <= bestY) continue;
        bestY = total;
        const weights = rows.map(() => 0);
        rest.forEach((k, bit) => (weights[k] = (bits >> bit) & 1));
        weights[i] = clamp(wi);
        weights[j] = clamp(wj);
        best = weights;
      }
    }
  }
  return best;
}

/** Nearest point on the gamut's edge in u'v', drawn in by a hair so that it can be solved. */
function nearestInGamut(emitters: readonly Emitter[], target: Chromaticity): Chromaticity {
  const points = emitters.map(toUv);
  const [tu, tv] = toUv(target);
  const cu = points.reduce((s, p) => s + p[0], 0) / points.length;
  const cv = points.reduce((s, p) => s + p[1], 0) / points.length;
  let best: [number, number] = [cu, cv];
  let distance = Infinity;
  for (let i = 0; i < points.length; i++) {
    for (let j = i; j < points.length; j++) {
      const a = points[i] ?? [0, 0];
      const b = points[j] ?? [0, 0];
      const length = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2;
      const t =
        length === 0
          ? 0
          : clamp(((tu - a[0]) * (b[0] - a[0]) + (tv - a[1]) * (b[1] - a[1])) / length);
      const p: [number, number] = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
      const d = (p[0] - tu) ** 2 + (p[1] - tv) ** 2;
      if (d < distance) {
        distance = d;
        best = p;
      }
    }
  }
  const inward = 1e-4;
  return fromUv([best[0] + (cu - best[0]) * inward, best[1] + (cv - best[1]) * inward]);
}
