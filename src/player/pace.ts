/** When frames are due: 44 a second, and never more than a receiver can take, also after the clock fell behind. */

/**
 * A hair longer than a 44th of a second. DMX512-A (ANSI E1.11) has room for 44.1 full packets a second; so spaced, no
 * second has a 45th, though timers and networks shift packets by a millisecond or two.
 */
export const PERIOD_MS = 22.8;
/** Small delays are made up for within this. */
const LEAST_MS = 22.77;

/**
 * The next frame's time, in milliseconds of the clock. Frames that were missed are left out (pace.test.ts).
 * @param due_ms when the last one was due @param began_ms when it was made
 */
export const nextFrame = (due_ms: number, began_ms: number): number =>
  Math.max(due_ms + PERIOD_MS, began_ms + LEAST_MS);

/** Which frame is due when, with those that are hurried because nothing has left for a while. */
export class Beat {
  /** Of the frame that is due; a frame that was hurried past has another. */
  turn = 0;
  private sent_ms = -Infinity;

  constructor(public due_ms: number) {}

  /** A frame was made. @param sent whether anything left with it */
  made(began_ms: number, sent: boolean): void {
    if (sent) this.sent_ms = began_ms;
    this.due_ms = nextFrame(this.due_ms, began_ms);
    this.turn++;
  }

  /**
   * Something is to be seen: from a still stage it leaves at once and not with the next beat, which goes on from there.
   * @returns whether the frame is due now; false where it waits for its time
   */
  hurry(now_ms: number): boolean {
    if (now_ms >= this.due_ms || now_ms - this.sent_ms < PERIOD_MS) return false;
    this.due_ms = now_ms;
    this.turn++;
    return true;
  }
}
