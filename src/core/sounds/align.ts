/**
 * One recording laid against another of the same music: which moment of the new one is which of the old one. Two rounds of
 * dynamic time warping over loudness and beginnings: a coarse one that may be far off, then a fine one near what it found.
 */

/** A moment of the old recording, and the same of the new one, in seconds; both rise. */
export type Pair = readonly [old_s: number, new_s: number];

/** Where one recording is in another. */
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
/** And no further than this many fine ones, however it jumps: a part of half a minute. */
const MOST_FINE_SIDE = 160;
/** Going on in one alone costs this much more: a way that is straight is believed first. */
const BENT = 0.08;
/**
 * A step of one that comes before the other begins, or after it ends. Silence costs little there: what is waited for before
 * the first note belongs there, and not into the rests behind it. Music costs more: a tune that comes round is not laid a
 * round later (sounds.test.ts).
 */
const [BESIDE_SILENT, BESIDE] = [0.12, 0.4];
/** Below this share of what it usually is loud it is silence, or the room. */
const SILENT = 0.6;
/** A way is told by points so that it is nowhere further off. */
const TOLD_S = 0.03;
const STEP_S = 0.01;
/** Steps of the fine round at both ends that are not believed. */
const EDGE = 28;

interface Feature {
  loud: Float32Array;
  begins: Float32Array;
  /** What it costs to leave out so many steps from its beginning on. */
  beside: Float32Array;
}

/** Means, or the most, of so many steps. */
function means(of: Uint8Array, by: number, most: boolean): Float32Array {
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
  return out;
}

/** About nothing, with a spread of one, so that a quieter recording is the same music. */
function spread(values: Float32Array): Float32Array {
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  const wide = Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length) || 1;
  return values.map((v) => (v - mean) / wide);
}

function feature(s: Heard, by: number): Feature {
  const loud = means(s.loudness, by, false);
  const mean = loud.reduce((n, v) => n + v, 0) / loud.length;
  const beside = new Float32Array(loud.length + 1);
  for (let i = 0; i < loud.length; i++)
    beside[i + 1] = (beside[i] ?? 0) + ((loud[i] ?? 0) < mean * SILENT ? BESIDE_SILENT : BESIDE);
  return { loud: spread(loud), begins: spread(means(s.onsets, by, true)), beside };
}

/** 0 for the same, near 1 for anything else. */
function apart(a: Feature, i: number, b: Feature, j: number): number {
  const loud = Math.abs((a.loud[i] ?? 0) - (b.loud[j] ?? 0));
  const begins = Math.abs((a.begins[i] ?? 0) - (b.begins[j] ?? 0));
  return Math.min(1, (loud + begins) / 4);
}

/** By which step a place of the table is come to. */
const [BOTH, OLD, FRESH, BEGINS] = [0, 1, 2, 3] as const;

function stepTo(least: number, old: number, fresh: number): number {
  if (least === old) return OLD;
  return least === fresh ? FRESH : BEGINS;
}

/** What is known of each place that was looked at: `wide` of the new one for each step of the old one. */
interface Table {
  from: Uint8Array;
  offset: Int32Array;
  n: number;
  m: number;
  wide: number;
}

/** What it costs to leave out the steps from one to another. */
const left = ({ beside }: Feature, from: number, to: number): number =>
  (beside[to] ?? 0) - (beside[from] ?? 0);

interface Way {
  /** For each step of the old one, the step of the new one. */
  at: Float64Array;
  /** Between these steps of the old one both are there. */
  from: number;
  to: number;
  /** A step of it, on the way, without what is left out. */
  cost: number;
}

/**
 * The cheapest way through both. It begins where one of them begins, and ends where one of them ends: what the other has
 * before and after stands beside it. @param middle of what is looked at, for each step of the old one
 */
function warp(a: Feature, b: Feature, middle: (i: number) => number, side: number): Way {
  const [n, m, wide] = [a.loud.length, b.loud.length, 2 * side + 1];
  const from = new Uint8Array(n * wide);
  const offset = Int32Array.from({ length: n }, (_, i) => Math.round(middle(i)) - side);
  let end = { cost: Infinity, outside: 0, i: n - 1, j: m - 1, k: side };
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
      const both = i === 0 ? Infinity : (before[k + shift - 1] ?? Infinity);
      const old = i === 0 ? Infinity : (before[k + shift] ?? Infinity) + BENT;
      const fresh = (now[k - 1] ?? Infinity) + BENT;
      const first = i === 0 || j === 0 ? left(a, 0, i) + left(b, 0, j) : Infinity;
      const least = Math.min(both, old, fresh, first);
      now[k] = least + apart(a, i, b, j);
      if (least !== both) from[i * wide + k] = stepTo(least, old, fresh);
      if (i < n - 1 && j < m - 1) continue;
      const outside = left(a, i + 1, n) + left(b, j + 1, m);
      const cost = (now[k] ?? Infinity) + outside;
      if (cost < end.cost) end = { cost, outside, i, j, k };
    }
    [before, now] = [now, before];
  }
  const way = backFrom(end, { from, offset, n, m, wide });
  const [i, j] = [way.from, way.at[way.from] ?? 0];
  const outside = left(a, 0, i) + left(b, 0, j) + end.outside;
  return { ...way, to: end.i, cost: (end.cost - outside) / Math.max(1, end.i - i, end.j - j) };
}

/** The way back from its end: which step of the new one each of the old one is; beside it, the nearest that there is. */
function backFrom(
  end: { i: number; k: number },
  { from, offset, n, m, wide }: Table,
): Pick<Way, 'at' | 'from'> {
  const at = new Float64Array(n).fill(m - 1, end.i + 1);
  let { i, k } = end;
  for (;;) {
    const step = from[i * wide + k] ?? BEGINS;
    // Of several of the new one that one of the old one is, the first.
    at[i] = (offset[i] ?? 0) + k;
    if (step === BEGINS || (i === 0 && step !== FRESH)) return { at, from: i };
    if (step === FRESH) k--;
    else {
      k += (offset[i] ?? 0) - (offset[i - 1] ?? 0) - (step === BOTH ? 1 : 0);
      i--;
    }
  }
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

/** What is looked at has to hang together where the way jumps, as where a verse was put in: so far to both sides it does. */
function overJumps(at: Float64Array): number {
  let most = 0;
  for (let i = 1; i < at.length; i++) most = Math.max(most, (at[i] ?? 0) - (at[i - 1] ?? 0));
  return Math.min(MOST_FINE_SIDE, Math.ceil(most / 2) + 2);
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
  const fine = warp(c, d, near, Math.max(Math.ceil(FINE_SIDE * by), overJumps(coarse.at)));
  const way = smoothed(fine.at).map((j, i): Pair => [i * FINE * STEP_S, j * FINE * STEP_S]);
  // Where one of them begins or ends there is silence, and nothing to hold on to: there it goes on as it does within.
  const first = fine.from + EDGE;
  const within = way.slice(first, Math.max(first + 2, fine.to + 1 - EDGE));
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
