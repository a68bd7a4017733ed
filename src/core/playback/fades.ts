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

  /** Moves all that is under way to `now`; `changed` and `ended` hear of each slot. */
  advance(now: number, changed: (slot: number) => void, ended?: (slot: number) => void): void {
    for (let i = this.count - 1; i >= 0; i--) {
      const slot = this.active[i] as number;
      const elapsed = now - (this.start[slot] as number);
      if (elapsed < 0) continue;
      const duration = this.duration[slot] as number;
      if (elapsed >= duration) {
        this.stand(slot, this.to[slot] as number);
        changed(slot);
        ended?.(slot);
        continue;
      }
      let t = elapsed / duration;
      if (this.smooth[slot] === 1) t = t * t * (3 - 2 * t);
      const from = this.from[slot] as number;
      this.level[slot] = from + ((this.to[slot] as number) - from) * t;
      changed(slot);
    }
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
