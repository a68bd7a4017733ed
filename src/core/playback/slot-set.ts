/** Slots that something is under way on: walked over each frame, so only they cost time. */
export class SlotSet {
  /** The first `count` of these are in the set, in no order. */
  readonly list: Int32Array;
  /** Place in `list` plus one; 0 for slots that are not in it. */
  private readonly place: Int32Array;
  count = 0;

  constructor(size: number) {
    this.list = new Int32Array(size);
    this.place = new Int32Array(size);
  }

  has(slot: number): boolean {
    return this.place[slot] !== 0;
  }

  add(slot: number): void {
    if (this.place[slot] !== 0) return;
    this.list[this.count++] = slot;
    this.place[slot] = this.count;
  }

  /** The last one takes its place, so a walk from the end may remove what it is at. */
  remove(slot: number): boolean {
    const at = (this.place[slot] as number) - 1;
    if (at < 0) return false;
    const last = this.list[--this.count] as number;
    this.list[at] = last;
    this.place[last] = at + 1;
    this.place[slot] = 0;
    return true;
  }
}
