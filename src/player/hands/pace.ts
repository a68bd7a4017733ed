/** What hands at this machine send, kept to what a person could mean: of what streams the latest, of presses not thousands. */
import type { LiveCommand } from '../../core/live/commands.ts';

/** Of what streams, the latest counts, so often. */
const STREAM_MS = 15;
/** Presses a second from all of a port; more is noise. */
const PRESSES = 200;

/** What lasts from its press to its lift, and which of the two this is. */
function lastingOf(command: LiveCommand): { of: string; on: boolean | undefined } | undefined {
  if (command.command === 'flash') return { of: `flash ${command.fader}`, on: command.on };
  return command.command === 'touch' ? { of: command.piece, on: command.on } : undefined;
}

/** How much of a hand’s moves is played: the newest of each control, at a pace; presses always in order. */
export class Pace {
  private readonly waiting = new Map<string, () => void>();
  private flushing: NodeJS.Timeout | null = null;
  private presses = PRESSES;
  /** What lasts, and was begun by a press that was let through. */
  private readonly begun = new Set<string>();

  /** The first goes at once; of those that come right after it the latest. */
  stream(key: string, play: () => void): void {
    if (this.flushing) this.waiting.set(key, play);
    else {
      this.flushing = setTimeout(this.flush, STREAM_MS);
      play();
    }
  }

  /**
   * Of more presses than anybody makes the rest is noise; what a press of those began is ended all the same.
   *
   * @returns whether the command is to be played
   */
  lets(hand: string, command: LiveCommand): boolean {
    const lasting = lastingOf(command);
    const key = `${hand}/${lasting?.of ?? ''}`;
    const isEnd = lasting?.on === false && this.begun.delete(key);
    if (!isEnd && this.presses-- <= 0) return false;
    if (lasting?.on === true) this.begun.add(key);
    return true;
  }

  /** Once a second. */
  refill(): void {
    this.presses = PRESSES;
  }

  private readonly flush = (): void => {
    this.flushing = null;
    if (this.waiting.size === 0) return;
    const all = [...this.waiting.values()];
    this.waiting.clear();
    this.flushing = setTimeout(this.flush, STREAM_MS);
    for (const play of all) play();
  };
}
