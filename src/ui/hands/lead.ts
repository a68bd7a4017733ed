/** Several windows of one browser hear the same hand: one of them plays it, and all of them know when one learns. */

const LOCK = 'wingman-hands';
const LEARNS = 'wingman-hand-learns';
/** A window that was ended while it learned stands in the way no longer than this. */
const LEARNS_MS = 120_000;

/**
 * Asks to be the window that plays. Whoever asked first is, until it is closed; then the next.
 * @param lead told once, when it is this one's turn: at once where the browser knows no locks
 * @returns to give it up, or to stop waiting
 */
export function askToLead(lead: () => void): () => void {
  const { locks } = navigator as Partial<Navigator>;
  if (!locks) {
    lead();
    return () => undefined;
  }
  const ended = new AbortController();
  let release: () => void = () => undefined;
  locks
    .request(LOCK, { signal: ended.signal }, () => {
      lead();
      return new Promise<void>((done) => (release = done));
    })
    // Stopped while it waited.
    .catch(() => undefined);
  return () => {
    ended.abort();
    release();
  };
}

/** This window learns with a hand; null: it has learned. */
export function tellLearning(hand: string | null): void {
  if (hand === null) window.localStorage.removeItem(LEARNS);
  else window.localStorage.setItem(LEARNS, `${Date.now()} ${hand}`);
}

/** Whether some window learns with this hand: nothing plays by it meanwhile. */
export function isLearnedAnywhere(hand: string): boolean {
  const [since = '0', id = ''] = (window.localStorage.getItem(LEARNS) ?? '').split(' ');
  return id === hand && Date.now() - Number(since) < LEARNS_MS;
}
