/** The shows that are open here: loaded once, kept up to date, and those of a player that waits kept at hand. */
import type { Logger } from 'pino';
import type { MutableShow } from '../core/show/show.ts';
import { advance } from '../store/commit.ts';
import type { Database } from '../store/database.ts';
import { airShow, changesAfter, loadShow } from '../store/shows.ts';
import type { LiveShow } from './live-show.ts';

type Copy = { show: MutableShow; seq: number };

interface ShelfNeeds {
  readonly db: Database;
  readonly log: Logger;
  /** Puts a show together from its rows and what it played last. */
  make: (showId: string, copy: Copy) => Promise<LiveShow>;
  /** A show has the changes that were made. */
  caughtUp: (showId: string) => void;
}

/** Shows that are open, each opened once whoever asks. */
export class OpenShows {
  readonly shows = new Map<string, LiveShow>();
  private readonly opening = new Map<string, Promise<LiveShow | undefined>>();
  private readonly catching = new Map<string, Promise<void>>();
  /** Rows of shows that a waiting player keeps up to date, so that it goes on without loading them. */
  private readonly warm = new Map<string, Copy>();

  constructor(private readonly needs: ShelfNeeds) {}

  async open(showId: string): Promise<LiveShow | undefined> {
    const known = this.shows.get(showId);
    if (known) return known;
    const opening =
      this.opening.get(showId) ?? this.load(showId).finally(() => this.opening.delete(showId));
    this.opening.set(showId, opening);
    return opening;
  }

  private async load(showId: string): Promise<LiveShow | undefined> {
    const copy = await this.rowsOf(showId);
    if (!copy) return undefined;
    const show = await this.needs.make(showId, copy);
    this.shows.set(showId, show);
    return show;
  }

  private async rowsOf(showId: string): Promise<Copy | undefined> {
    const warm = this.warm.get(showId);
    if (!warm) return loadShow(this.needs.db, showId);
    this.warm.delete(showId);
    await this.goOn(showId, warm);
    return warm;
  }

  private async goOn(showId: string, copy: Copy): Promise<void> {
    for (const change of await changesAfter(this.needs.db, showId, copy.seq)) advance(copy, change);
  }

  /** Reads the changes that a show does not have, one reading after the other. */
  catchUp(showId: string): Promise<void> {
    const running = this.catching.get(showId) ?? Promise.resolve();
    const next = running.then(async () => {
      const show = this.shows.get(showId);
      if (!show) return;
      for (const change of await changesAfter(this.needs.db, showId, show.copy.seq))
        show.apply(change);
      this.needs.caughtUp(showId);
    });
    const guarded = next.catch((error: unknown) =>
      this.needs.log.warn({ error: String(error) }, 'could not read changes; will try again'),
    );
    this.catching.set(showId, guarded);
    return guarded;
  }

  /** While another player is on air: keeps the show that is on air at hand. */
  async follow(): Promise<void> {
    const { db } = this.needs;
    const showId = await airShow(db);
    for (const id of this.warm.keys()) if (id !== showId) this.warm.delete(id);
    if (showId === null) return;
    const warm = this.warm.get(showId);
    if (warm) {
      await this.goOn(showId, warm);
      return;
    }
    const loaded = await loadShow(db, showId);
    if (loaded) this.warm.set(showId, loaded);
  }
}
