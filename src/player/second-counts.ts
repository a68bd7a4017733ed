/** How the clock kept time, second by second, over the last ten minutes. Kept in fixed arrays: a frame adds no garbage. */
import { KEPT_SECONDS as KEPT_S, type OutputSecond } from '../core/live/messages.ts';

/** Frames of the last minutes, a figure for each second. */
export class SecondCounts {
  private readonly meanFrame = new Float32Array(KEPT_S);
  private readonly worstFrame = new Float32Array(KEPT_S);
  private readonly worstLate = new Float32Array(KEPT_S);
  private readonly frames = new Uint16Array(KEPT_S);
  private readonly packets = new Uint32Array(KEPT_S);
  /** The second that is being counted, since the clock began; -1 before the first frame. */
  private now = -1;
  private first = 0;
  private packetsBefore = 0;

  /**
   * Counts a frame.
   * @param at_ms when it began, on the clock's own time
   * @param frame_ms how long it took @param late_ms how long after it was due it began
   * @param packets sent since the clock began
   */
  add(at_ms: number, frame_ms: number, late_ms: number, packets: number): void {
    const second = Math.floor(at_ms / 1000);
    if (second !== this.now) this.begin(second);
    const at = second % KEPT_S;
    const n = (this.frames[at] ?? 0) + 1;
    this.frames[at] = n;
    this.meanFrame[at] = (this.meanFrame[at] ?? 0) + (frame_ms - (this.meanFrame[at] ?? 0)) / n;
    if (frame_ms > (this.worstFrame[at] ?? 0)) this.worstFrame[at] = frame_ms;
    if (late_ms > (this.worstLate[at] ?? 0)) this.worstLate[at] = late_ms;
    this.packets[at] = (this.packets[at] ?? 0) + packets - this.packetsBefore;
    this.packetsBefore = packets;
  }

  /** Seconds in which no frame was made at all stand as such. */
  private begin(second: number): void {
    if (this.now < 0) this.first = second;
    const from = this.now < 0 ? second : Math.max(this.now + 1, second - KEPT_S + 1);
    for (let s = from; s <= second; s++) {
      const at = s % KEPT_S;
      this.frames[at] = 0;
      this.meanFrame[at] = 0;
      this.worstFrame[at] = 0;
      this.worstLate[at] = 0;
      this.packets[at] = 0;
    }
    this.now = second;
  }

  /** The whole seconds after one, oldest first; the one that is being counted is not among them. */
  after(second: number): OutputSecond[] {
    const result: OutputSecond[] = [];
    const from = Math.max(second + 1, this.first, this.now - KEPT_S + 1);
    for (let s = from; s < this.now; s++) {
      const at = s % KEPT_S;
      result.push({
        second: s,
        frames: this.frames[at] ?? 0,
        frame_ms: this.meanFrame[at] ?? 0,
        worstFrame_ms: this.worstFrame[at] ?? 0,
        worstLate_ms: this.worstLate[at] ?? 0,
        packets: this.packets[at] ?? 0,
      });
    }
    return result;
  }
}
