/** Slots that wait to be rendered: each once, in the order they were noted. */
export interface Work {
  dirty: Uint32Array;
  /** By slot: 1 while it is in `dirty`. */
  marked: Uint8Array;
  count: number;
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
  readonly smooth: Uint8Array;
  private readonly active: Int32Array;
  /** Place in `active` plus one; 0 when the slot stands still. */
  private readonly place: Int32Array;
  count = 0;

  constructor(size: number) {
    this.level = new Float32Array(size);
    this.from = new Float32Array(size);
    this.to = new Float32Array(size);
    this.start = new Float64Array(size);
    this.duration = new Float32Array(size);
    this.smooth = new Uint8Array(size);
    this.active = new Int32Array(size);
    this.place = new Int32Array(size);
  }

  isActive(slot: number): boolean {
    return this.place[slot] !== 0;
  }

  /** By slot: 1 while a move is under way. */
  activity(): Uint8Array {
    const flags = new Uint8Array(this.level.length);
    for (let i = 0; i < this.count; i++) flags[this.active[i] as number] = 1;
    return flags;
  }

  /** Starts a move from where the slot is. A move without time is made at once. */
  move(slot: number, to: number, start: number, duration: number, smooth: boolean, now: number): void {
    if (start + duration <= now) {
      this.stand(slot, to);
      return;
    }
    this.from[slot] = this.level[slot] ?? 0;
    this.to[slot] = to;
    this.start[slot] = start;
    this.duration[slot] = duration;
    this.smooth[slot] = smooth ? 1 : 0;
    if (this.place[slot] === 0) {
      this.active[this.count++] = slot;
      this.place[slot] = this.count;
    }
  }

  /** Puts the slot at a level and ends any move. */
  stand(slot: number, level: number): void {
    this.level[slot] = level;
    this.to[slot] = level;
    this.remove(slot);
  }

  /** Gives a running move another end, or puts a standing slot there. */
  retarget(slot: number, to: number): void {
    if (this.isActive(slot)) this.to[slot] = to;
    else this.stand(slot, to);
  }

  /** Moves all that is under way to `now`, notes every slot in `work`, and tells `ended` of those that arrived. */
  advance(now: number, work: Work, ended?: (slot: number) => void): void {
    const { active, level, from, to, start, duration, smooth } = this;
    const { marked, dirty } = work;
    let { count } = work;
    for (let i = this.count - 1; i >= 0; i--) {
      const slot = active[i] as number;
      const elapsed = now - (start[slot] as number);
      if (elapsed < 0) continue;
      if (marked[slot] === 0) {
        marked[slot] = 1;
        dirty[count++] = slot;
      }
      const span = duration[slot] as number;
      if (elapsed >= span) {
        this.stand(slot, to[slot] as number);
        if (ended) {
          work.count = count;
          ended(slot);
          count = work.count;
        }
        continue;
      }
      let t = elapsed / span;
      if (smooth[slot] === 1) t = t * t * (3 - 2 * t);
      const begin = from[slot] as number;
      level[slot] = begin + ((to[slot] as number) - begin) * t;
    }
    work.count = count;
  }

  private remove(slot: number): void {
    const at = (this.place[slot] as number) - 1;
    if (at < 0) return;
    const last = this.active[--this.count] as number;
    this.active[at] = last;
    this.place[last] = at + 1;
    this.place[slot] = 0;
  }
}
