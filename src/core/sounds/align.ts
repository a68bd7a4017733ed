/**
 * One recording laid against another of the same music: which moment of the new one is which of the old one. Two rounds of
 * dynamic time warping over loudness and beginnings: a coarse one that may be far off, then a fine one near what it found.
 */

/** A moment of the old recording, and the same of the new one, in seconds; both rise. */
export type Pair = readonly [old_s: number, new_s: number];

export interface Aligned {
  pairs: Pair[];
  /** 0 to 1: how alike the two are along the way; below a half they are hardly the same music. */
  alike: number;
}

/** Steps of 10 ms that are one of the coarse round, at least, and more where there would be more than so many of them; and of the fine round. */
const COARSE = 10;
const MOST_COARSE = 20_000;
const FINE = 4;
/** The coarse round looks so far to both sides of the straight way, and no less than that. */
const SIDE_SHARE = 0.12;
const LEAST_SIDE = 100;
/** The fine round looks so many coarse steps to both sides. */
const FINE_SIDE = 2.5;
/** Going on in one alone costs this much more: a way that is straight is believed first. */
const BENT = 0.08;
/** A way is told by points so that it is nowhere further off. */
const TOLD_S = 0.03;
const STEP_S = 0.01;
/** Steps of the fine round at both ends that are not believed. */
const EDGE = 28;

interface Feature {
  loud: Float32Array;
  begins: Float32Array;
}

/** Means of so many steps, evened out to a spread of one, so that a quieter recording is the same music. */
function evened(of: Uint8Array, by: number, most: boolean): Float32Array {
  const out = new Float32Array(Math.max(1, Math.ceil(of.length / by)));
  for (let i = 0; i < out.length; i++) {
    let [sum, top, n] = [0, 0, 0];
    for (let k = i * by; k < Math.min(of.length, (i + 1) * by); k++) {
      sum += of[k] ?? 0;
      top = Math.max(top, of[k] ?? 0);
      n++;
    }
    out[i] = Math.sqrt(most ? top : sum / Math.max(1, n));
  }
  const mean = out.reduce((s, v) => s + v, 0) / out.length;
  const spread = Math.sqrt(out.reduce((s, v) => s + (v - mean) ** 2, 0) / out.length) || 1;
  return out.map((v) => (v - mean) / spread);
}

const feature = (s: Heard, by: number): Feature => ({
  loud: evened(s.loudness, by, false),
  begins: evened(s.onsets, by, true),
});

/** 0 for the same, near 1 for anything else. */
function apart(a: Feature, i: number, b: Feature, j: number): number {
  const loud = Math.abs((a.loud[i] ?? 0) - (b.loud[j] ?? 0));
  const begins = Math.abs((a.begins[i] ?? 0) - (b.begins[j] ?? 0));
  return Math.min(1, (loud + begins) / 4);
}

interface Way {
  /** For each step of the old one, the step of the new one. */
  at: Float64Array;
  cost: number;
}

/** The cheapest way through both, from the beginning to the end. @param middle of what is looked at, for each step of the old one */
function warp(a: Feature, b: Feature, middle: (i: number) => number, side: number): Way {
  const [n, m, wide] = [a.loud.length, b.loud.length, 2 * side + 1];
  const from = new Uint8Array(n * wide);
  const offset = Int32Array.from({ length: n }, (_, i) => Math.round(middle(i)) - side);
  let before = new Float32Array(wide).fill(Infinity);
  let now = new Float32Array(wide);
  for (let i = 0; i < n; i++) {
    const shift = i === 0 ? 0 : (offset[i] ?? 0) - (offset[i - 1] ?? 0);
    for (let k = 0; k < wide; k++) {
      const j = (offset[i] ?? 0) + k;
      if (j < 0 || j >= m) {
        now[k] = Infinity;
        continue;
      }
      const here = apart(a, i, b, j);
      if (i === 0 && j === 0) {
        now[k] = here;
        continue;
      }
      const both = before[k + shift - 1] ?? Infinity;
      // What comes before one of them begins, or after it ends, bends nothing.
      const bent = i === 0 || j === 0 || i === n - 1 || j === m - 1 ? 0 : BENT;
      const old = (before[k + shift] ?? Infinity) + bent;
      const fresh = (now[k - 1] ?? Infinity) + bent;
      const least = Math.min(both, old, fresh);
      now[k] = least + here;
      if (least !== both) from[i * wide + k] = least === old ? 1 : 2;
    }
    [before, now] = [now, before];
  }
  // Back from the end of both, or from as near as was looked.
  let k = Math.max(0, Math.min(wide - 1, m - 1 - (offset[n - 1] ?? 0)));
  const cost = (before[k] ?? Infinity) / Math.max(n, m);
  const at = new Float64Array(n);
  let i = n - 1;
  while (i >= 0) {
    at[i] = (offset[i] ?? 0) + k;
    const step = from[i * wide + k] ?? 0;
    const shift = i === 0 ? 0 : (offset[i] ?? 0) - (offset[i - 1] ?? 0);
    if (step === 2 && k > 0) k--;
    else {
      k = Math.max(0, Math.min(wide - 1, k + shift - (step === 0 ? 1 : 0)));
      i--;
    }
  }
  return { at, cost };
}

/** Points so that the way between them is straight enough (Ramer, Douglas and Peucker). */
function simplified(way: readonly Pair[], off_s: number): Pair[] {
  const keep = new Set([0, way.length - 1]);
  const open: [number, number][] = [[0, way.length - 1]];
  for (let part = open.pop(); part; part = open.pop()) {
    const [a, b] = part;
    const [[x0, y0], [x1, y1]] = [way[a] ?? [0, 0], way[b] ?? [0, 0]];
    let [worst, where] = [off_s, -1];
    for (let i = a + 1; i < b; i++) {
      const [x, y] = way[i] ?? [0, 0];
      const off = Math.abs(y - (y0 + ((y1 - y0) * (x - x0)) / (x1 - x0 || 1)));
      if (off > worst) [worst, where] = [off, i];
    }
    if (where < 0) continue;
    keep.add(where);
    open.push([a, where], [where, b]);
  }
  return [...keep].sort((p, q) => p - q).map((i) => way[i] ?? [0, 0]);
}

/** The middle of each five: steps of the way back and forth are none of the music. */
const smoothed = (at: Float64Array): number[] =>
  Array.from(at, (_, i) => {
    let [sum, n] = [0, 0];
    for (let k = Math.max(0, i - 6); k <= Math.min(at.length - 1, i + 6); k++) {
      sum += at[k] ?? 0;
      n++;
    }
    return sum / n;
  });

/** Loudness and beginnings by hundredths of a second (`shape.ts`). */
export interface Heard {
  loudness: Uint8Array;
  onsets: Uint8Array;
}

/** @returns undefined where either is too short to be compared */
export function align(before: Heard, after: Heard): Aligned | undefined {
  const [n, m] = [before.onsets.length, after.onsets.length];
  if (n < COARSE * 8 || m < COARSE * 8) return undefined;
  const step = Math.max(COARSE, Math.ceil(n / MOST_COARSE));
  const [a, b] = [feature(before, step), feature(after, step)];
  const slope = b.loud.length / a.loud.length;
  const side = Math.max(LEAST_SIDE, Math.ceil(a.loud.length * SIDE_SHARE));
  const coarse = warp(a, b, (i) => i * slope, Math.min(side, b.loud.length));
  const [c, d] = [feature(before, FINE), feature(after, FINE)];
  const by = step / FINE;
  const near = (i: number): number => {
    const at = i / by;
    const whole = Math.min(coarse.at.length - 1, Math.floor(at));
    const next = coarse.at[Math.min(coarse.at.length - 1, whole + 1)] ?? 0;
    const here = coarse.at[whole] ?? 0;
    return (here + (next - here) * (at - whole)) * by;
  };
  const fine = warp(c, d, near, Math.ceil(FINE_SIDE * by));
  const way = smoothed(fine.at).map((j, i): Pair => [i * FINE * STEP_S, j * FINE * STEP_S]);
  // At their ends there is silence, and nothing to hold on to: there it goes on as it does within.
  const within = way.slice(EDGE, Math.max(EDGE + 2, way.length - EDGE));
  const points = simplified(within, TOLD_S).filter(
    ([x, y], i, all) => i === 0 || (x > (all[i - 1]?.[0] ?? 0) && y > (all[i - 1]?.[1] ?? 0)),
  );
  return { pairs: points, alike: Math.max(0, 1 - fine.cost * 2.5) };
}

/** The moment of the new recording for one of the old; beyond the ends it goes on as fast as time. */
export function throughPairs(pairs: readonly Pair[], old_s: number): number {
  const [first] = pairs;
  const last = pairs.at(-1);
  if (!first || !last) return old_s;
  if (old_s <= first[0]) return first[1] + old_s - first[0];
  if (old_s >= last[0]) return last[1] + old_s - last[0];
  const i = pairs.findIndex(([x]) => x > old_s);
  const [x0, y0] = pairs[i - 1] ?? first;
  const [x1, y1] = pairs[i] ?? last;
  return y0 + ((y1 - y0) * (old_s - x0)) / (x1 - x0);
}
