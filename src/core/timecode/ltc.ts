/**
 * Linear timecode as sound (SMPTE ST 12-1, 8): 80 bits a frame in biphase mark, digits in BCD with the least significant
 * bit first, the sync word 0011 1111 1111 1101 at the end. Read forwards and backwards at a tenth to ten times its speed.
 */
import { COUNTS, isTimecode, timecodeOf, type Timecode } from './rate.ts';
import type { Rate } from './rows.ts';

const BITS = 80;
const SYNC = 0b0011111111111101;
/** The same word from its end. */
const SYNC_BACK = 0b1011111111111100;
const WORD = 0xffff;
/** Less than this of the loudest is no edge: hiss, and what is left of another track. */
const HYSTERESIS = 0.15;

/** What a reader of linear timecode has between two pieces of sound. */
export interface LtcState {
  /** Samples since the last edge, and which side of the middle the signal is on. */
  since: number;
  isHigh: boolean;
  /** How loud it is, so that a quiet line is read as well. */
  peak: number;
  /** Samples of a whole bit, as they come. */
  bit: number;
  /** A half bit was heard: a one is two of them. */
  half: boolean;
  bits: number[];
  word: number;
  /** Samples in all. */
  samples: number;
  /** The last frame that was read, and when. */
  last: { frame: number; at: number } | null;
}

/** A reader of linear timecode that has heard nothing. */
export const freshLtc = (): LtcState => ({
  since: 0,
  isHigh: false,
  peak: 0,
  bit: 0,
  half: false,
  bits: [],
  word: 0,
  samples: 0,
  last: null,
});

/** A frame of linear timecode (SMPTE ST 12-1). */
export interface LtcHeard {
  time: Timecode;
  way: 1 | -1;
  /** Samples since the reader began, at the end of the frame. */
  at: number;
}

const digits = (bits: readonly number[], from: number, length: number): number =>
  bits.slice(from, from + length).reduce((sum, b, i) => sum + (b << i), 0);

/** 64 bits before the sync word, as they stand in a frame that is read forwards. */
function timeOf(bits: readonly number[], count: number): Timecode | undefined {
  const f = digits(bits, 0, 4) + 10 * digits(bits, 8, 2);
  const s = digits(bits, 16, 4) + 10 * digits(bits, 24, 3);
  const m = digits(bits, 32, 4) + 10 * digits(bits, 40, 3);
  const h = digits(bits, 48, 4) + 10 * digits(bits, 56, 2);
  const isDrop = bits[10] === 1;
  const whole = count === 24 || count === 25 ? (String(count) as '24' | '25') : '30';
  const rate: Rate = isDrop ? '29.97 drop' : whole;
  const time = { h, m, s, f, rate };
  return isTimecode(time) ? time : undefined;
}

/** Frames a second, by how long a bit takes; between rates the nearest. */
function countOf(bit: number, sampleRate: number): number {
  const perSecond = sampleRate / (bit * BITS);
  return [24, 25, 30].reduce(
    (best, c) => (Math.abs(c - perSecond) < Math.abs(best - perSecond) ? c : best),
    30,
  );
}

/** A bit has been heard. @returns a frame where it is whole */
function heardBit(state: LtcState, bit: number, sampleRate: number): LtcHeard | undefined {
  state.bits.push(bit);
  if (state.bits.length > BITS) state.bits.shift();
  state.word = ((state.word << 1) | bit) & WORD;
  if (state.bits.length < BITS) return undefined;
  const count = countOf(state.bit, sampleRate);
  // Forwards the sync word is the end of the frame; backwards it is its beginning, and the last bit its first.
  if (state.word === SYNC) {
    const time = timeOf(state.bits, count);
    return time && { time, way: 1, at: state.samples };
  }
  const first = state.bits.slice(0, 16).reduce((word, b) => (word << 1) | b, 0);
  if (first !== SYNC_BACK) return undefined;
  const time = timeOf([...state.bits].reverse(), count);
  return time && { time, way: -1, at: state.samples };
}

/** An edge came after so many samples: half a bit, or a whole one. */
function heardEdge(state: LtcState, samples: number, sampleRate: number): LtcHeard | undefined {
  if (state.bit === 0) {
    state.bit = samples;
    return undefined;
  }
  // Far from both it is a break, or another speed: begin anew.
  if (samples > state.bit * 1.6 || samples < state.bit * 0.3) {
    state.bit = samples;
    state.half = false;
    state.bits = [];
    return undefined;
  }
  const isHalf = samples < state.bit * 0.75;
  // The speed is followed slowly, so that it may change while it is wound.
  state.bit += ((isHalf ? samples * 2 : samples) - state.bit) * 0.08;
  if (!isHalf) {
    if (state.half) state.bits = [];
    state.half = false;
    return heardBit(state, 0, sampleRate);
  }
  state.half = !state.half;
  return state.half ? undefined : heardBit(state, 1, sampleRate);
}

/** @param sound -1…1 @param sampleRate in hertz @returns frames that ended in it */
export function readLtc(state: LtcState, sound: Float32Array, sampleRate: number): LtcHeard[] {
  const heard: LtcHeard[] = [];
  for (const value of sound) {
    state.samples++;
    state.since++;
    state.peak = Math.max(Math.abs(value), state.peak * 0.9999);
    const isOther = state.isHigh
      ? value < -state.peak * HYSTERESIS
      : value > state.peak * HYSTERESIS;
    if (!isOther || state.peak < 0.002) continue;
    state.isHigh = !state.isHigh;
    const frame = heardEdge(state, state.since, sampleRate);
    state.since = 0;
    if (frame) heard.push(frame);
  }
  return heard;
}

/** The 80 bits of a time, with the sync word; user bits are nothing. */
export function ltcBits({ h, m, s, f, rate }: Timecode): number[] {
  const bits = new Array<number>(BITS).fill(0);
  const put = (from: number, length: number, value: number): void => {
    for (let i = 0; i < length; i++) bits[from + i] = (value >> i) & 1;
  };
  put(0, 4, f % 10);
  put(8, 2, Math.floor(f / 10));
  bits[10] = rate === '29.97 drop' ? 1 : 0;
  put(16, 4, s % 10);
  put(24, 3, Math.floor(s / 10));
  put(32, 4, m % 10);
  put(40, 3, Math.floor(m / 10));
  put(48, 4, h % 10);
  put(56, 2, Math.floor(h / 10));
  for (let i = 0; i < 16; i++) bits[64 + i] = (SYNC >> (15 - i)) & 1;
  // An even number of zeros in a frame, so that each begins with the same edge (8.2.2); in 25 frames another bit does it.
  const zeros = bits.filter((b) => b === 0).length;
  if (zeros % 2 === 1) bits[COUNTS[rate] === 25 ? 59 : 27] = 1;
  return bits;
}

/**
 * Frames as sound.
 * @param level the square's, 0…1 @param begins which side the first edge goes to
 */
export function ltcSound(
  times: readonly Timecode[],
  sampleRate: number,
  level = 0.5,
): Float32Array {
  const [first] = times;
  if (!first) return new Float32Array(0);
  const rate = first.rate === '29.97 drop' ? 30_000 / 1001 : COUNTS[first.rate];
  const perHalf = sampleRate / (rate * BITS * 2);
  const sound = new Float32Array(Math.round(times.length * BITS * 2 * perHalf));
  let side = level;
  let half = 0;
  const fill = (): void => {
    const to = Math.min(sound.length, Math.round((half + 1) * perHalf));
    for (let i = Math.round(half * perHalf); i < to; i++) sound[i] = side;
    half++;
  };
  for (const time of times)
    for (const bit of ltcBits(time)) {
      side = -side;
      fill();
      if (bit === 1) side = -side;
      fill();
    }
  return sound;
}

/** Half bits of a frame, each the side that the signal is on: what `ltcSound` writes, a frame at a time. */
function cellsOf(time: Timecode): Int8Array<ArrayBuffer> {
  const cells = new Int8Array(BITS * 2);
  let side = 1;
  ltcBits(time).forEach((bit, i) => {
    side = -side;
    cells[i * 2] = side;
    if (bit === 1) side = -side;
    cells[i * 2 + 1] = side;
  });
  return cells;
}

/** Timecode as sound from any place on, at any pace: for what is written block by block after a clock. */
export class LtcWriter {
  private frame = -1;
  private cells = new Int8Array(BITS * 2);

  constructor(
    private readonly rate: Rate,
    private readonly level = 0.5,
  ) {}

  /**
   * Adds to a block.
   * @param from frames since 00:00:00:00, with the part of one that has gone by @param step frames a sample
   */
  add(out: Float32Array, from: number, step: number): void {
    for (let i = 0; i < out.length; i++) {
      const at = from + i * step;
      const frame = Math.floor(at);
      if (frame < 0) continue;
      if (frame !== this.frame) {
        this.frame = frame;
        this.cells = cellsOf(timecodeOf(frame, this.rate));
      }
      const side = this.cells[Math.floor((at - frame) * BITS * 2)] ?? 0;
      out[i] = (out[i] ?? 0) + side * this.level;
    }
  }
}
