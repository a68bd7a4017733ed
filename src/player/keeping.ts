/**
 * What plays, kept: in the database while it can be reached, and where it cannot when the player stops, in a file of the
 * data folder, from which it comes back. Says why nothing is being kept, while nothing is.
 */
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { sql } from 'kysely';
import { z } from 'zod';
import type { Database } from '../store/database.ts';
import { isFull, saysFull } from '../store/survive.ts';
import { readSaved, type SavedShow } from './saved-show.ts';

/** A state in a file, and when it was written there, in milliseconds since 1970. */
const Unsaved = z.object({ at: z.number(), state: z.unknown() });

export class Keeping {
  private lastError: unknown = null;
  private full = false;

  /** @param data the data folder, or null where there is none to fall back on */
  constructor(
    private readonly db: Database,
    private readonly data: string | null,
  ) {}

  /** Looks whether there is room. Call now and then. */
  async look(): Promise<void> {
    this.full = this.data !== null && (await isFull(this.data));
  }

  /** Why nothing is being kept, in a sentence; null while all is. @param connected whether the database's news arrive */
  problem(connected: boolean): string | null {
    if (this.full || saysFull(this.lastError))
      return 'The disk is full: nothing is being kept. Playing goes on; make room on the machine that Wingman runs on.';
    return connected && this.lastError === null
      ? null
      : 'Database away: nothing is being kept, edits wait. Playing goes on.';
  }

  /**
   * Writes what a show plays. Only the player that has the output writes: one that was displaced and does not know it yet
   * brings nothing older back. @throws when it cannot be written
   */
  async write(showId: string, playerId: string, state: SavedShow): Promise<void> {
    try {
      const done = await sql`
        insert into live_state (show_id, state, saved_at)
        select ${showId}, ${JSON.stringify(state)}::jsonb, now() from installation where id = 1 and player_id = ${playerId}
        on conflict (show_id) do update set state = excluded.state, saved_at = excluded.saved_at`.execute(
        this.db,
      );
      if ((done.numAffectedRows ?? 0n) === 0n)
        throw new Error('another player has the output, or this one has not said yet that it has');
      this.lastError = null;
    } catch (error) {
      this.lastError = error;
      throw error;
    }
    await this.forget(showId);
  }

  /** What a show played last: from the database, or from a file where a player could not reach it any more. */
  async read(showId: string): Promise<ReturnType<typeof readSaved>> {
    const row = await this.db
      .selectFrom('live_state')
      .select(['state', 'saved_at'])
      .where('show_id', '=', showId)
      .executeTakeFirst();
    const left = await this.left(showId);
    if (left && (!row || left.at > row.saved_at.getTime())) return readSaved(left.state);
    return readSaved(row?.state);
  }

  /** Keeps in a file what the database did not take. @returns whether that was possible */
  async leave(showId: string, state: SavedShow): Promise<boolean> {
    if (this.data === null) return false;
    try {
      await mkdir(join(this.data, 'unsaved'), { recursive: true, mode: 0o700 });
      const left: z.infer<typeof Unsaved> = { at: Date.now(), state };
      await writeFile(`${this.fileOf(showId)}.part`, JSON.stringify(left), { mode: 0o600 });
      await rename(`${this.fileOf(showId)}.part`, this.fileOf(showId));
      return true;
    } catch {
      return false;
    }
  }

  private async left(showId: string): Promise<z.infer<typeof Unsaved> | null> {
    if (this.data === null) return null;
    try {
      return Unsaved.parse(JSON.parse(await readFile(this.fileOf(showId), 'utf8')));
    } catch {
      return null;
    }
  }

  private async forget(showId: string): Promise<void> {
    if (this.data !== null) await rm(this.fileOf(showId), { force: true }).catch(() => undefined);
  }

  private fileOf(showId: string): string {
    return join(this.data ?? '', 'unsaved', `${showId}.json`);
  }
}
