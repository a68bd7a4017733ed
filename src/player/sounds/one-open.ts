/** Something of this machine that is open under one name at a time: a sound card, an input, a file in its place. */

/** Null is the machine's own choice; undefined wants none. */
export type Wanted = string | null | undefined;

/** One of them: whoever wants another meanwhile has that one, and what cannot be opened is tried again when asked to be. */
export class OneOpen<T extends { close: () => void }> {
  /** What is open; null while nothing is. */
  is: T | null = null;
  /** Why what is wanted is not open, in a sentence. */
  problem: string | null = null;
  private wanted: Wanted = undefined;
  /** Counts up with each opening: of two on their way, the later counts. */
  private turn = 0;
  private isOpening = false;

  /** @param open @returns why it cannot be opened, in a sentence @param opened is told of each that is */
  constructor(
    private readonly open: (name: string | null) => Promise<T | string>,
    private readonly opened: (made: T) => void = () => undefined,
  ) {}

  /** Closes what is open, and opens this instead. */
  async want(name: Wanted): Promise<void> {
    this.wanted = name;
    const turn = ++this.turn;
    this.is?.close();
    this.is = null;
    this.problem = null;
    this.isOpening = name !== undefined;
    if (name === undefined) return;
    const made = await this.open(name);
    if (turn !== this.turn) {
      if (typeof made !== 'string') made.close();
      return;
    }
    this.isOpening = false;
    if (typeof made === 'string') this.problem = made;
    else {
      this.is = made;
      this.opened(made);
    }
  }

  /** A card that has come back is taken up again. */
  async again(): Promise<void> {
    if (this.is === null && !this.isOpening && this.wanted !== undefined)
      await this.want(this.wanted);
  }
}
