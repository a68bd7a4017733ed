import { clamp } from '../numbers.ts';
import { CURVES, type FadeCurve } from '../cues/rows.ts';
import { SlotSet } from './slot-set.ts';

/** Slots that wait to be rendered: each once, in the order they were noted. */
export interface Work {
  dirty: Uint32Array;
  /** By slot: 1 while it is in `dirty`. */
  marked: Uint8Array;
  count: number;
}

/** A curve as a number of a typed array. */
export const curveIndex = (curve: FadeCurve): number => CURVES.indexOf(curve);
const SMOOTH = curveIndex('smooth');
const EASE_IN = curveIndex('ease-in');

/** How far a fade is at a share of its time, 0…1 both: linear, eased at both ends, at the start, at the end. */
export function bend(curve: number, t: number): number {
  if (curve === 0) return t;
  if (curve === SMOOTH) return t * t * (3 - 2 * t);
  return curve === EASE_IN ? t * t : t * (2 - t);
}

/**
 * A bank of fades over slots, on a clock of its own in seconds. Only slots that are under way cost time.
 * `level` is always what the slot is at; a new move starts from there, so nothing ever jumps.
 */
export class Fades {
  readonly level: Float32Array;
  readonly from: Float32Array;
  readonly to: Float32Array;
  readonly start: Float64Array;
  readonly duration: Float32Array;
  /** Index into CURVES. */
  readonly curve: Uint8Array;
  private readonly active: SlotSet;

  constructor(size: number) {
    this.level = new Float32Array(size);
    this.from = new Float32Array(size);
    this.to = new Float32Array(size);
    this.start = new Float64Array(size);
    this.duration = new Float32Array(size);
    this.curve = new Uint8Array(size);
    this.active = new SlotSet(size);
  }

  get count(): number {
    return this.active.count;
  }

  isActive(slot: number): boolean {
    return this.active.has(slot);
  }

  /** By slot: 1 while a move is under way. */
  activity(): Uint8Array {
    const flags = new Uint8Array(this.level.length);
    for (let i = 0; i < this.active.count; i++) flags[this.active.list[i] as number] = 1;
    return flags;
  }

  /** Starts a move from where the slot is. A move without time is made at once. */
  move(
    slot: number,
    to: number,
    start: number,
    duration: number,
    curve: number,
    now: number,
  ): void {
    if (start + duration <= now) {
      this.stand(slot, to);
      return;
    }
    this.from[slot] = this.level[slot] ?? 0;
    this.to[slot] = to;
    this.start[slot] = start;
    this.duration[slot] = duration;
    this.curve[slot] = curve;
    this.active.add(slot);
  }

  /** Is in a move that began earlier, from the level that the slot is at: it goes on as if it had been seen from its start. */
  enter(
    slot: number,
    to: number,
    start: number,
    duration: number,
    curve: number,
    now: number,
  ): void {
    const from = this.level[slot] as number;
    this.move(slot, to, start, duration, curve, now);
    const elapsed = now - start;
    if (!this.isActive(slot) || elapsed <= 0) return;
    this.level[slot] = from + (to - from) * bend(curve, elapsed / duration);
  }

  /** Is in a move from the level that the slot is at, as it was known before: also one that has arrived. */
  goOn(slot: number, to: number, start: number, duration: number, curve: number): void {
    this.from[slot] = this.level[slot] as number;
    this.to[slot] = to;
    this.start[slot] = start;
    this.duration[slot] = duration;
    this.curve[slot] = curve;
    this.active.add(slot);
  }

  /** Puts the slot at a level and ends any move. */
  stand(slot: number, level: number): void {
    this.level[slot] = level;
    this.to[slot] = level;
    this.active.remove(slot);
  }

  /** Puts the slot at a level as if it had never moved. */
  clear(slot: number, level: number): void {
    this.stand(slot, level);
    this.from[slot] = level;
    this.duration[slot] = 0;
  }

  /**
   * Gives a running move another end, or puts a standing slot there. The move arrives when it would have, and bends on
   * its way: there is no step at `now` (fades.test.ts).
   */
  retarget(slot: number, to: number, now: number): void {
    if (!this.isActive(slot)) {
      this.stand(slot, to);
      return;
    }
    const span = this.duration[slot] as number;
    const elapsed = now - (this.start[slot] as number);
    const atOnce = elapsed < 0 ? 0 : 1;
    const t = span > 0 ? clamp(elapsed / span) : atOnce;
    const gone = bend(this.curve[slot] as number, t);
    // The start from which the same curve passes here on its way to the new end.
    if (gone < 1) this.from[slot] = ((this.level[slot] as number) - to * gone) / (1 - gone);
    this.to[slot] = to;
  }

  /** Every move that is under way is so much later on the clock; those of some slots stay. */
  shift(by_s: number, but: ReadonlySet<number>): void {
    for (let i = 0; i < this.active.count; i++) {
      const slot = this.active.list[i] as number;
      if (!but.has(slot)) this.start[slot] = (this.start[slot] as number) + by_s;
    }
  }

  /** Takes up a move again that has arrived: its start, end and times are still known. */
  takeUp(slot: number): void {
    this.active.add(slot);
  }

  /** Moves all that is under way to `now`, notes every slot in `work`, and tells `ended` of those that arrived. */
  advance(now: number, work: Work, ended?: (slot: number) => void): void {
    const { level, from, to, start, duration, curve } = this;
    const { list } = this.active;
    const { marked, dirty } = work;
    let { count } = work;
    for (let i = this.active.count - 1; i >= 0; i--) {
      const slot = list[i] as number;
      const elapsed = now - (start[slot] as number);
      if (elapsed < 0 && level[slot] === from[slot]) continue;
      if (marked[slot] === 0) {
        marked[slot] = 1;
        dirty[count++] = slot;
      }
      const span = duration[slot] as number;
      if (elapsed >= span) {
        level[slot] = to[slot] as number;
        this.active.remove(slot);
        if (ended) {
          work.count = count;
          ended(slot);
          count = work.count;
        }
        continue;
      }
      // A hand can take a fade back to before its start.
      const t = elapsed < 0 ? 0 : bend(curve[slot] as number, elapsed / span);
      const begin = from[slot] as number;
      level[slot] = begin + ((to[slot] as number) - begin) * t;
    }
    work.count = count;
  }
}
