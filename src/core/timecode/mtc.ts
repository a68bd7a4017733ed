/** MIDI time code (MIDI 1.0, RP-004/008): quarter frames `F1 0nnn dddd` and full frames `F0 7F 7F 01 01 hh mm ss ff F7`. */
import { framesOf, isTimecode, timecodeOf, type Timecode } from './rate.ts';
import { RATES, type Rate } from './rows.ts';

const QUARTER = 0xf1;
const PIECES = 8;
/** A time is whole after eight quarters, and is of two frames before. */
const BEHIND = 2;

/** What a reader remembers: the pieces of a time, and which way they come. */
export interface MtcState {
  pieces: number[];
  /** Of those that came in their order. */
  inRow: number;
  last: number;
  way: 1 | -1;
}
/** A reader of MIDI time code that has heard nothing. */
export const freshMtc = (): MtcState => ({ pieces: [], inRow: 0, last: -1, way: 1 });

/** A time as MIDI timecode brought it. */
export interface MtcHeard {
  time: Timecode;
  /** Backwards while it is wound back. */
  way: 1 | -1;
  /** It stands there: it was sent as a whole. */
  stands: boolean;
}

/** Whether a message is time code at all: a quarter frame, or a full one. */
export const isMtc = (bytes: ArrayLike<number>): boolean =>
  bytes[0] === QUARTER || (bytes[0] === 0xf0 && bytes[1] === 0x7f && bytes[3] === 1);

/** @returns 0…3 in the order of RATES */
const rateOf = (bits: number): Rate => RATES[bits & 3] ?? '30';

function whole(bytes: readonly number[]): MtcHeard | undefined {
  const [, id, , sub, kind, hours = 0, m = 0, s = 0, f = 0, end] = bytes;
  if (bytes.length !== 10 || id !== 0x7f || sub !== 1 || kind !== 1 || end !== 0xf7)
    return undefined;
  const time = { h: hours & 0x1f, m, s, f, rate: rateOf(hours >> 5) };
  return isTimecode(time) ? { time, way: 1, stands: true } : undefined;
}

/** The time that eight pieces say, at the moment when the last one came. */
function fromPieces({ pieces, way }: MtcState): MtcHeard | undefined {
  const at = (n: number): number => pieces[n] ?? 0;
  const time = {
    f: at(0) | ((at(1) & 1) << 4),
    s: at(2) | ((at(3) & 3) << 4),
    m: at(4) | ((at(5) & 3) << 4),
    h: at(6) | ((at(7) & 1) << 4),
    rate: rateOf(at(7) >> 1),
  };
  if (!isTimecode(time)) return undefined;
  // Backwards the pieces come from the last to the first, and the time has not gone on meanwhile but back.
  const frames = framesOf(time) + (way === 1 ? BEHIND : -BEHIND);
  return { time: timecodeOf(Math.max(0, frames), time.rate), way, stands: false };
}

/**
 * One message.
 * @returns a time once eight quarters came in their order, forwards or backwards, or a full frame did; else undefined
 */
export function readMtc(state: MtcState, bytes: ArrayLike<number>): MtcHeard | undefined {
  const all = Array.from(bytes);
  if (all[0] === 0xf0) {
    const heard = whole(all);
    if (heard) Object.assign(state, freshMtc());
    return heard;
  }
  if (all[0] !== QUARTER || all.length !== 2) return undefined;
  const data = all[1] ?? 0;
  if (data > 0x7f) return undefined;
  const n = data >> 4;
  const next = (state.last + 1) % PIECES;
  const before = (state.last + PIECES - 1) % PIECES;
  const back = n === before ? -1 : 0;
  const way = n === next ? 1 : back;
  if (state.last < 0 || way === 0 || (state.inRow > 1 && way !== state.way)) {
    state.inRow = 1;
    state.pieces = [];
    state.way = way === -1 ? -1 : 1;
  } else {
    if (state.inRow === 1) state.way = way;
    state.inRow++;
  }
  state.pieces[n] = data & 0x0f;
  state.last = n;
  const isLast = state.way === 1 ? n === PIECES - 1 : n === 0;
  return state.inRow >= PIECES && isLast ? fromPieces(state) : undefined;
}

/** The quarter frame of a number, 0 to 7, of a time. */
export function quarterFrame(n: number, { h, m, s, f, rate }: Timecode): Uint8Array {
  const data = [
    f & 15,
    f >> 4,
    s & 15,
    s >> 4,
    m & 15,
    m >> 4,
    h & 15,
    (h >> 4) | (RATES.indexOf(rate) << 1),
  ];
  return Uint8Array.of(QUARTER, (n << 4) | (data[n] ?? 0));
}

/** A full frame of MIDI time code: where a machine stands, or has jumped to. */
export const fullFrame = ({ h, m, s, f, rate }: Timecode): Uint8Array =>
  Uint8Array.of(0xf0, 0x7f, 0x7f, 1, 1, (RATES.indexOf(rate) << 5) | h, m, s, f, 0xf7);
