/**
 * The beat of a sound, found in where something begins: how alike it is to itself some time later (autocorrelation), then
 * the row of beats on which most begins. It is a guess, and says how sure it is.
 */
import { STEPS_A_SECOND } from './shape.ts';

/** A beat as it was heard. */
export interface FoundBeat {
  bpm: number;
  /** A beat, in seconds from the beginning of what was listened to; the first of them. */
  first_s: number;
  /** 0 to 1: how much more begins on its beats than between them. */
  sure: number;
}

const SLOWEST = 50;
const FASTEST = 210;
/** People tap near this, and feel half and double of it as the same. */
const USUAL_BPM = 112;
const USUAL_OCTAVES = 0.9;
/** Repetitions that are looked at: over more of them the tempo is told more exactly. */
const AFTER = [1, 2, 4, 8];
/** Less than so much altogether is silence. */
const LEAST = 40;
/** Fewer seconds say nothing. */
const LEAST_S = 4;
/** Of a beat: what begins that near belongs to it. */
const NEAR = 0.12;
/** Finer steps of the tempo than those of the sound, in per mille. */
const FINE = [
  -0.012, -0.009, -0.006, -0.004, -0.002, -0.001, 0, 0.001, 0.002, 0.004, 0.006, 0.009, 0.012,
];

/** Above the usual of about a second round each step: slow swelling counts for nothing. */
function flattened(onsets: Uint8Array): Float32Array {
  const half = STEPS_A_SECOND / 2;
  const sums = new Float64Array(onsets.length + 1);
  for (let i = 0; i < onsets.length; i++) sums[i + 1] = (sums[i] ?? 0) + (onsets[i] ?? 0);
  return Float32Array.from(onsets, (v, i) => {
    const [a, b] = [Math.max(0, i - half), Math.min(onsets.length, i + half)];
    return Math.max(0, v - ((sums[b] ?? 0) - (sums[a] ?? 0)) / (b - a));
  });
}

/** How alike it is to itself so many steps later; between two steps in proportion. */
function likeness(x: Float32Array, lag: number): number {
  const whole = Math.floor(lag);
  const part = lag - whole;
  let sum = 0;
  const n = x.length - whole - 1;
  for (let i = 0; i < n; i++)
    sum += (x[i] ?? 0) * ((x[i + whole] ?? 0) * (1 - part) + (x[i + whole + 1] ?? 0) * part);
  return n > 0 ? sum / n : 0;
}

const felt = (bpm: number): number =>
  Math.exp(-0.5 * (Math.log2(bpm / USUAL_BPM) / USUAL_OCTAVES) ** 2);

/** What lies on a row of beats: near each the most of what begins. */
function onRow(x: Float32Array, step: number, first: number): number {
  let sum = 0;
  for (let at = first; at < x.length; at += step) {
    const i = Math.round(at);
    sum += Math.max(x[i] ?? 0, 0.7 * (x[i - 1] ?? 0), 0.7 * (x[i + 1] ?? 0));
  }
  return sum;
}

function bestRow(x: Float32Array, step: number): { first: number; sum: number } {
  let best = { first: 0, sum: -1 };
  for (let first = 0; first < step; first++) {
    const sum = onRow(x, step, first);
    if (sum > best.sum) best = { first, sum };
  }
  return best;
}

/** A line through the strongest beginning near each beat: the tempo to a hundredth. */
function refined(x: Float32Array, step: number, first: number): { step: number; first: number } {
  const near = step * NEAR;
  let [n, sn, st, snn, snt] = [0, 0, 0, 0, 0];
  for (let k = 0; first + k * step < x.length; k++) {
    const at = first + k * step;
    let [peak, where] = [0, 0];
    for (let i = Math.ceil(at - near); i <= at + near; i++)
      if ((x[i] ?? 0) > peak) [peak, where] = [x[i] ?? 0, i];
    if (peak === 0) continue;
    n += peak;
    sn += peak * k;
    st += peak * where;
    snn += peak * k * k;
    snt += peak * k * where;
  }
  const spread = n * snn - sn * sn;
  if (spread === 0) return { step, first };
  const slope = (n * snt - sn * st) / spread;
  return { step: slope, first: (st - slope * sn) / n };
}

/** Of the strongest beginning: what is less is breath, or a hand on a string. */
const CLEAR = 0.25;

/** When the music begins, in seconds: the first clear beginning. */
export function beginsAt(onsets: Uint8Array): number {
  const most = onsets.reduce((m, v) => Math.max(m, v), 0);
  return (
    Math.max(
      0,
      onsets.findIndex((v) => v > 0 && v >= most * CLEAR),
    ) / STEPS_A_SECOND
  );
}

/** @param onsets how much begins at each hundredth of a second @returns undefined where nothing beats, or there is too little of it */
export function findBeat(onsets: Uint8Array): FoundBeat | undefined {
  if (onsets.length < LEAST_S * STEPS_A_SECOND) return undefined;
  const x = flattened(onsets);
  const total = x.reduce((sum, v) => sum + v, 0);
  if (total < LEAST) return undefined;
  let best = { step: 0, score: 0 };
  const shortest = (60 / FASTEST) * STEPS_A_SECOND;
  const longest = (60 / SLOWEST) * STEPS_A_SECOND;
  for (let step = shortest; step <= longest; step += 0.5) {
    const alike = AFTER.reduce((sum, n) => sum + likeness(x, step * n), 0);
    const score = alike * felt((60 * STEPS_A_SECOND) / step);
    if (score > best.score) best = { step, score };
  }
  if (best.step === 0) return undefined;
  let row = { step: best.step, first: 0, sum: -1 };
  for (const by of FINE) {
    const step = best.step * (1 + by);
    const { first, sum } = bestRow(x, step);
    if (sum > row.sum) row = { step, first, sum };
  }
  let { step, first } = refined(x, row.step, row.first);
  ({ step, first } = refined(x, step, first));
  while (first < 0) first += step;
  while (first >= step) first -= step;
  // What begins near its beats, of all that begins; by chance it would be their share of time.
  let on = 0;
  for (let i = 0; i < x.length; i++) {
    const beats = (i - first) / step;
    if (Math.abs(beats - Math.round(beats)) <= NEAR) on += x[i] ?? 0;
  }
  const sure = Math.max(0, Math.min(1, (on / total - 2 * NEAR) / (1 - 2 * NEAR)));
  return { bpm: (60 * STEPS_A_SECOND) / step, first_s: first / STEPS_A_SECOND, sure };
}
