/** How many pixels the stage in space is drawn with: fewer while it does not keep up, all of them once it stands still. */

/** Where the picture does not keep up with 30 a second, fewer pixels are drawn. */
const SLOW_MS = 36;
/** A longer pause is no slow picture: nothing moved. */
const PAUSE_MS = 400;
const LEAST_RATIO = 0.33;
const SLOW_FRAMES = 6;
const LESS = 0.8;
/** A picture that stands still this long is drawn once more with every pixel. */
const STILL_MS = 250;
/** Where a processor does the work of a graphics card, smooth edges cost more than they show. */
const SOFTWARE_RATIO = 0.5;

/** How finely space is drawn, by how long a frame takes. */
export class Pixels {
  /** Pixels drawn for one of the screen, while it moves. */
  ratio: number;
  private sharp: boolean;
  private slow = 0;
  private drawn_ms = 0;

  /** @param whole pixels of the screen for one of the page @param software whether no graphics card draws */
  constructor(
    private readonly whole: number,
    software: boolean,
  ) {
    this.ratio = software ? Math.min(whole, SOFTWARE_RATIO) : whole;
    this.sharp = this.ratio >= whole;
  }

  /** What is drawn with now. */
  get now(): number {
    return this.sharp ? this.whole : this.ratio;
  }

  /** Nothing moves. @returns whether it is to be drawn once more, with every pixel */
  rests(now_ms: number): boolean {
    if (this.sharp || now_ms - this.drawn_ms < STILL_MS) return false;
    this.sharp = true;
    return true;
  }

  /**
   * A picture is about to be drawn. @param moved whether light did, and not only the picture
   * @returns whether it is drawn with fewer pixels than the one before
   */
  begins(now_ms: number, moved: boolean): boolean {
    const isFirst = !moved && now_ms - this.drawn_ms >= PAUSE_MS;
    if (!this.sharp || this.ratio >= this.whole || isFirst) return false;
    this.sharp = false;
    return true;
  }

  /**
   * It was drawn. While it keeps drawing, the time from one picture to the next says what a picture costs, wherever it is made.
   * @returns whether there are to be fewer pixels from now on
   */
  ended(now_ms: number): boolean {
    const since_ms = now_ms - this.drawn_ms;
    this.drawn_ms = now_ms;
    if (since_ms > PAUSE_MS) this.slow = 0;
    else this.slow = Math.max(0, this.slow + (since_ms > SLOW_MS ? 1 : -1));
    if (this.slow < SLOW_FRAMES || this.ratio <= LEAST_RATIO) return false;
    this.ratio = Math.max(LEAST_RATIO, this.ratio * LESS);
    this.slow = 0;
    return true;
  }
}
