/** One after another: what begins later waits until what began before it has ended. */

export interface Turn {
  /** Absent where nothing is under way: it begins at once. */
  before: Promise<void> | undefined;
  /** The next begins. */
  end: () => void;
}

/** @returns takes the next turn */
export function makeTurns(): () => Turn {
  let last: Promise<void> | undefined;
  return () => {
    const before = last;
    let done = (): void => undefined;
    const mine = new Promise<void>((resolve) => (done = resolve));
    last = mine;
    return {
      before,
      end: () => {
        done();
        if (last === mine) last = undefined;
      },
    };
  };
}
