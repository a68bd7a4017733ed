/** Which show is on air, and whether this player is the one that sends. */
import { sql } from 'kysely';
import type { AirState, Nowhere } from '../core/live/messages.ts';
import { isRefusal, refuse } from '../core/refusal.ts';
import { AIR_CHANNEL } from '../store/channels.ts';
import type { Database } from '../store/database.ts';
import type { Happened } from '../store/journal.ts';
import { houseRight } from '../store/rights.ts';
import { airShow, membership } from '../store/shows.ts';
import type { Actor } from './actor.ts';
import { AIR_FADE_S, mayChangeAir, sayAir } from './air.ts';
import type { Clock } from './clock-client.ts';
import type { LiveShow } from './live-show.ts';
import type { Answer } from './answer.ts';

interface OnAirNeeds {
  readonly db: Database;
  readonly clock: Pick<Clock, 'tell'>;
  readonly shows: ReadonlyMap<string, LiveShow>;
  open: (showId: string) => Promise<LiveShow | undefined>;
  /** Tells every screen. */
  tell: (air: AirState) => void;
  note: (showId: string, happened: Happened) => void;
}

/** Which show is on air, and who may send. */
export class OnAir {
  private showId: string | null = null;
  /** Set once this player holds the installation's advisory lock. */
  private maySend = false;
  private problem: string | null = null;
  private nowhere: Nowhere | null = null;
  private told = '';
  private readonly wasOnAir = new Set<string>();

  constructor(private readonly needs: OnAirNeeds) {}

  get sends(): boolean {
    return this.maySend;
  }
  /** The show that is on air, while it is open here. */
  get show(): LiveShow | undefined {
    return this.showId === null ? undefined : this.needs.shows.get(this.showId);
  }
  is(showId: string): boolean {
    return this.showId === showId;
  }

  state(): AirState {
    const { show } = this;
    const routes = show?.sent() ?? [];
    return {
      showId: this.showId,
      showName: show?.name ?? null,
      universes: new Set(routes.map((r) => r.universe)).size,
      onlyNode: routes.every((r) => r.destination === 'node'),
      nowhere: this.maySend && show ? this.nowhere : null,
      problem: this.maySend ? this.problem : 'another player has the output',
    };
  }

  private tell(): void {
    const air = this.state();
    this.told = JSON.stringify(air);
    this.needs.tell(air);
  }

  /** What is sent may be other universes after an edit (one-person.test.ts). */
  lookAgain(showId: string): void {
    if (this.is(showId) && JSON.stringify(this.state()) !== this.told) this.tell();
  }

  /** The clock cannot send, or can again. @param nowhere what is meant for lights and leads to none */
  trouble(problem: string | null, nowhere: Nowhere | null): void {
    this.problem = problem;
    this.nowhere = nowhere;
    this.tell();
  }

  /** Whoever plays a show that others believe to be on air is told each time. */
  warned(show: LiveShow, answer: Answer): Answer {
    if (isRefusal(answer) || this.is(show.id)) return answer;
    const other = this.show;
    if (!other && !this.wasOnAir.has(show.id)) return answer;
    const instead = other ? `“${other.name}” is on air.` : 'Nothing is on air.';
    return {
      ...answer,
      warning: `“${show.name}” is not on air: nobody sees this on stage. ${instead}`,
    };
  }

  /** Puts a show on air or takes it off. @param preview says what would happen, and does nothing */
  async set(show: LiveShow, actor: Actor, on: boolean, preview: boolean): Promise<Answer> {
    const { db, open } = this.needs;
    if (!on && !this.is(show.id)) return refuse('nothing', `“${show.name}” is not on air.`);
    if (on && this.is(show.id)) return refuse('nothing', `“${show.name}” is on air already.`);
    const now = this.showId === null ? undefined : await open(this.showId);
    const comes = on ? show : null;
    const changing = {
      actor,
      house: await houseRight(db, actor.userId),
      roleNow: now ? ((await membership(db, now.id, actor.userId))?.role ?? null) : null,
    };
    const no = mayChangeAir(changing, now, comes);
    if (no) return no;
    if (preview) return { ok: true, message: sayAir(now, comes) };
    await this.write(comes?.id ?? null);
    this.noteChange(actor, now, comes);
    return {
      ok: true,
      message: comes ? `${comes.name} is on air` : `${show.name} is in rehearsal`,
    };
  }

  private async write(showId: string | null): Promise<void> {
    const { db } = this.needs;
    await db.updateTable('installation').set({ air_show_id: showId }).where('id', '=', 1).execute();
    this.put(showId, AIR_FADE_S);
    await sql`select pg_notify(${AIR_CHANNEL}, ${JSON.stringify({ show: showId })})`.execute(db);
  }

  private noteChange(actor: Actor, now: LiveShow | undefined, comes: LiveShow | null): void {
    const { note } = this.needs;
    const by = { kind: 'air' as const, userId: actor.userId, userName: actor.name };
    if (now)
      note(now.id, {
        ...by,
        text: comes ? `“${comes.name}” was put on air in its place` : 'Took the show off air',
      });
    if (comes)
      note(comes.id, {
        ...by,
        text: `Put the show on air${now ? `, in place of “${now.name}”` : ''}`,
      });
  }

  private put(showId: string | null, fade_s: number): void {
    if (this.showId !== null) this.wasOnAir.add(this.showId);
    this.showId = showId;
    if (this.maySend) this.needs.clock.tell({ do: 'air', showId, fade_s });
    this.tell();
  }

  /** Another process says which show is on air. */
  async heard(showId: string | null): Promise<void> {
    if (showId === this.showId || !this.maySend) return;
    if (showId !== null) await this.needs.open(showId);
    this.put(showId, AIR_FADE_S);
  }

  /** This player is the one that sends: what was on air goes on where it was. */
  async take(): Promise<void> {
    this.maySend = true;
    const showId = await airShow(this.needs.db);
    if (showId !== null) await this.needs.open(showId);
    this.put(showId, 0);
  }
}
