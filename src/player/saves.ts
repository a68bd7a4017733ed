/** What plays is saved: soon after it changes, while fades run as often as the database keeps up, and on the stop. */
import type { Logger } from 'pino';
import { formatCueNumber } from '../core/cues/number.ts';
import { plural } from '../core/words.ts';
import type { Keeping } from './keeping.ts';
import type { LiveShow } from './live-show.ts';
import type { SavedShow } from './saved-show.ts';

const SAVE_FAILED_MS = 1000;
const SAVE_SOON_MS = 150;
/** While fades run their clock is saved this often; heavier shows less often, by the time a save takes. */
const SAVE_FADING_MS = 250;
const SAVE_SHARE = 10;

interface Saving {
  timer: NodeJS.Timeout | null;
  running: boolean;
  /** Something changed while it was being saved: save again in so many ms. */
  again_ms: number | null;
  took_ms: number;
}

/** What stands in a state that could not be kept, in words. */
function wordsOf(show: LiveShow, state: SavedShow): string {
  const unrecorded = state.programmers.reduce(
    (n, [, o]) => n + o.values.filter(([, v]) => !v.recorded).length,
    0,
  );
  const at = show.playback().lists.find((l) => l.active);
  const held = `${plural(unrecorded, 'value')} that ${unrecorded === 1 ? 'is' : 'are'} not recorded`;
  return [
    at === undefined || at.cueNumber === null ? '' : `cue ${formatCueNumber(at.cueNumber)}`,
    unrecorded > 0 ? held : '',
  ]
    .filter(Boolean)
    .join(', ');
}

interface SavesNeeds {
  readonly shows: ReadonlyMap<string, LiveShow>;
  readonly keeping: Keeping;
  readonly playerId: string;
  readonly log: Logger;
}

/** Writes down what plays, a little after it changes. */
export class Saves {
  private readonly saving = new Map<string, Saving>();

  constructor(private readonly needs: SavesNeeds) {}

  /** Something of a show is to be kept. */
  touched(showId: string, urgency: 'now' | 'soon'): void {
    this.save(showId, urgency === 'now' ? 0 : SAVE_SOON_MS);
  }

  private save(showId: string, in_ms: number): void {
    const fresh: Saving = { timer: null, running: false, again_ms: null, took_ms: 0 };
    const saving = this.saving.get(showId) ?? fresh;
    this.saving.set(showId, saving);
    if (saving.running) {
      saving.again_ms = Math.min(saving.again_ms ?? Infinity, in_ms);
      return;
    }
    if (saving.timer) {
      if (in_ms > 0) return;
      clearTimeout(saving.timer);
    }
    saving.timer = setTimeout(() => void this.saveNow(showId, saving), in_ms);
  }

  private async saveNow(showId: string, saving: Saving): Promise<void> {
    const { shows, keeping, playerId, log } = this.needs;
    const show = shows.get(showId);
    saving.timer = null;
    if (!show) return;
    saving.running = true;
    const start = performance.now();
    let failed = false;
    try {
      await keeping.write(showId, playerId, await show.saved());
    } catch (error) {
      // The database is away: playing goes on, and what plays is saved when it is back.
      failed = true;
      log.warn({ error: String(error) }, 'could not save what plays; will try again');
    }
    saving.took_ms = performance.now() - start;
    saving.running = false;
    const { again_ms } = saving;
    saving.again_ms = null;
    // A GO that came in the middle of a save is not kept by it: the next one comes at once.
    if (failed) this.save(showId, SAVE_FAILED_MS);
    else if (again_ms !== null) this.save(showId, again_ms);
    else if (show.fading) this.save(showId, Math.max(SAVE_FADING_MS, saving.took_ms * SAVE_SHARE));
  }

  /** Saves every show once more, for a clean stop. @returns what could not be saved, in sentences */
  async all(): Promise<string[]> {
    const { shows, keeping, playerId, log } = this.needs;
    const unsaved: string[] = [];
    for (const [id, show] of shows) {
      const saving = this.saving.get(id);
      if (saving?.timer) clearTimeout(saving.timer);
      const state = await show.saved();
      try {
        await keeping.write(id, playerId, state);
      } catch (error) {
        log.warn({ error: String(error), show: show.name }, 'could not save on stop');
        unsaved.push(await this.leave(id, show, state));
      }
    }
    return unsaved;
  }

  /** Into the data folder, where the database did not take it. */
  private async leave(id: string, show: LiveShow, state: SavedShow): Promise<string> {
    const what = wordsOf(show, state);
    const kept = await this.needs.keeping.leave(id, state);
    const fate = kept
      ? 'It is kept in the data folder, and comes back with the next start.'
      : 'It could not be kept in the data folder either, and is lost with this stop.';
    return `The database could not take what “${show.name}” plays${what ? ` (${what})` : ''}. ${fate}`;
  }
}
