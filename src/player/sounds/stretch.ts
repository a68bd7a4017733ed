/**
 * Slower or faster at the same pitch (waveform similarity overlap-add, Verhelst and Roelands 1993): short grains at their
 * own speed, each laid where it goes on best from the one before it, within a little of where the clock has it.
 */
import type { Samples } from './samples.ts';

/** From one grain to the next, and how far from its moment it may begin: a voice's longest wave fits in it. */
const HOP_S = 0.02;
const SEEK_S = 0.012;
/** Likeness is looked for in every so manyth frame. */
const COARSE = 6;
const FINE = 1;

/** The wave between four samples (Catmull and Rom): what is slowed down does not crackle. */
export const between = (a: number, b: number, c: number, d: number, x: number): number =>
  b + 0.5 * x * (c - a + x * (2 * a - 5 * b + 4 * c - d + x * (3 * (b - c) + d - a)));

interface Reading {
  first: number;
  left: Float32Array;
  right: Float32Array;
}
function reading(samples: Samples, from: number, frames: number): Reading {
  const first = Math.floor(from) - 1;
  const [left, right] = [new Float32Array(frames + 6), new Float32Array(frames + 6)];
  samples.read(first, left, right);
  return { first, left, right };
}
const at = (of: Float32Array, place: number): number => {
  const k = Math.floor(place);
  return between(of[k - 1] ?? 0, of[k] ?? 0, of[k + 1] ?? 0, of[k + 2] ?? 0, place - k);
};

/** How alike two stretches are, −1 to 1, of both channels together. */
function likeness(a: Reading, from: number, b: Reading, to: number, frames: number): number {
  let [both, one, other] = [0, 0, 1e-12];
  for (let i = 0; i < frames; i += COARSE) {
    const x = (a.left[from + i] ?? 0) + (a.right[from + i] ?? 0);
    const y = (b.left[to + i] ?? 0) + (b.right[to + i] ?? 0);
    both += x * y;
    one += x * x;
    other += y * y;
  }
  return both / Math.sqrt((one + 1e-12) * other);
}

/** One voice that goes at another rate than its pitch. */
export class Stretch {
  /** Frames of the file where the grain that ends and the one that begins are. */
  private ending = 0;
  private begun = 0;
  /** Frames of the output since the newer one began; as many as a hop: the next is due. */
  private since = Infinity;

  /** @param native frames of the file that a frame of the output goes on by at its own pitch */
  constructor(private readonly native: number) {}

  /**
   * The next frames, of both channels.
   * @param cursor frame of the file where the clock is, at the first of them
   * @param step frames of the file that the clock goes on by with each
   */
  fill(
    samples: Samples,
    cursor: number,
    step: number,
    out_hz: number,
    [left, right]: readonly [Float32Array, Float32Array],
  ): void {
    const hop = Math.round(HOP_S * out_hz);
    for (let done = 0; done < left.length;) {
      if (this.since >= hop) this.next(samples, cursor + done * step, hop);
      const count = Math.min(left.length - done, hop - this.since);
      const frames = Math.ceil(count * this.native) + 2;
      const one = reading(samples, this.ending, frames);
      const two = reading(samples, this.begun, frames);
      for (let i = 0; i < count; i++) {
        // Both together are as loud as one: they are alike.
        const share = 0.5 - 0.5 * Math.cos((Math.PI * (this.since + i)) / hop);
        const [a, b] = [
          this.ending + i * this.native - one.first,
          this.begun + i * this.native - two.first,
        ];
        left[done + i] = at(one.left, a) * (1 - share) + at(two.left, b) * share;
        right[done + i] = at(one.right, a) * (1 - share) + at(two.right, b) * share;
      }
      this.ending += count * this.native;
      this.begun += count * this.native;
      this.since += count;
      done += count;
    }
  }

  /** The newer grain becomes the one that ends; the next begins where it goes on best from that. */
  private next(samples: Samples, wanted: number, hop: number): void {
    const isFirst = this.since === Infinity;
    this.since = 0;
    if (isFirst) {
      this.ending = this.begun = wanted;
      return;
    }
    this.ending = this.begun;
    const seek = Math.round(SEEK_S * samples.rate_hz);
    const frames = Math.round(hop * this.native);
    const goesOn = reading(samples, this.ending, frames);
    const around = reading(samples, wanted - seek, frames + 2 * seek);
    const find = (from: number, to: number, by: number): number => {
      let [best, most] = [from, -Infinity];
      for (let k = Math.max(0, from); k <= Math.min(2 * seek, to); k += by) {
        const like = likeness(goesOn, 1, around, 1 + k, frames);
        if (like > most) [best, most] = [k, like];
      }
      return best;
    };
    const near = find(0, 2 * seek, COARSE);
    this.begun = wanted - seek + find(near - COARSE, near + COARSE, FINE);
  }
}
