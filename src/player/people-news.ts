/** What the database tells of people: roles, locks and sign-outs count at once on open screens and boards. */
import type { Logger } from 'pino';
import { PLAYERS } from '../core/roles.ts';
import type { Database } from '../store/database.ts';
import { endedSessions, standingOf } from '../store/rights.ts';
import { membership, type Membership } from '../store/shows.ts';
import type { Client } from './client.ts';
import type { Gathering } from './gathering.ts';
import type { LiveShow } from './live-show.ts';

/** A place in a show, or a session that was locked, opened or ended, or something new in an inbox. */
export interface News {
  show?: string | null;
  user?: string;
  session?: string;
  locked?: boolean;
  ended?: boolean;
  /** Whose inbox has something new, of which show, and its first sight. */
  inbox?: string;
  of?: string | null;
  says?: string | null;
}

interface PeopleNewsNeeds {
  readonly db: Database;
  readonly log: Logger;
  readonly shows: ReadonlyMap<string, LiveShow>;
  readonly gathering: Gathering;
}

const plays = (of: Membership | null | undefined): boolean =>
  of !== null && of !== undefined && PLAYERS.includes(of.role);

/** Tells people of a show what others do. */
export class PeopleNews {
  constructor(private readonly needs: PeopleNewsNeeds) {}

  private get clients(): Client[] {
    return [...this.needs.gathering.clients];
  }

  heard(news: News): void {
    if (news.show)
      void this.rolesChanged(news.show, news.user).catch((error: unknown) =>
        this.needs.log.warn({ error: String(error) }, 'could not read roles'),
      );
    if (news.inbox !== undefined) this.inbox(news.inbox, news);
    if (news.session !== undefined) this.session(news.session, news);
  }

  /** Said on screens of that show; elsewhere it counts. */
  private inbox(userId: string, { of, says }: News): void {
    for (const client of this.clients)
      if (client.actor.userId === userId)
        client.send({ type: 'inbox', says: client.showId === of ? (says ?? null) : null });
  }

  private session(sessionId: string, { ended, locked }: News): void {
    for (const client of this.clients) {
      if (client.sessionId !== sessionId) continue;
      if (ended) client.showOut();
      else client.setLocked(locked ?? false);
    }
  }

  /** Boards of those who stay away, and people whose time is over. */
  lookAtTime(now: number): void {
    for (const show of this.needs.shows.values()) show.lookAtPeople();
    for (const client of this.clients)
      if (client.leaves !== null && client.leaves <= now) this.placeOf(client, null);
  }

  /** Whether everybody here is still who they were. */
  async lookAtSessions(): Promise<void> {
    const { db, shows, log } = this.needs;
    try {
      const ended = await endedSessions(db, [...new Set(this.clients.map((c) => c.sessionId))]);
      for (const client of this.clients) if (ended.has(client.sessionId)) client.showOut();
      for (const client of this.clients) {
        const who = await standingOf(db, client.sessionId, client.showId);
        this.placeOf(client, who?.of ?? null);
        client.setLocked(who?.isLocked ?? false);
      }
      for (const show of shows.values())
        for (const [userId] of show.left.saved()) await this.lookAtHolder(show.id, userId);
    } catch (error) {
      log.warn({ error: String(error) }, 'could not look at who is here; will look again');
    }
  }

  /** @param userId whose place has changed; undefined for anybody's */
  private async rolesChanged(showId: string, userId: string | undefined): Promise<void> {
    const { db, gathering } = this.needs;
    for (const client of gathering.of(showId)) {
      if (userId !== undefined && client.actor.userId !== userId) continue;
      this.placeOf(client, (await membership(db, showId, client.actor.userId)) ?? null);
    }
    if (userId !== undefined) await this.lookAtHolder(showId, userId);
    gathering.tellPresence(showId);
  }

  /** Whoever holds light and has no screen here may be out of the show by now. */
  private async lookAtHolder(showId: string, userId: string): Promise<void> {
    const of = await membership(this.needs.db, showId, userId);
    if (!plays(of)) this.needs.shows.get(showId)?.withdrawn(userId, of ? 'role' : 'removed');
  }

  /** A person's place in the show as it is now: on their screens, and on boards that they may not have any more. */
  private placeOf(client: Client, of: Membership | null): void {
    client.setRole(of);
    const show = this.needs.shows.get(client.showId);
    const { userId } = client.actor;
    if (plays(of)) show?.left.back(userId);
    else show?.withdrawn(userId, of ? 'role' : 'removed');
  }
}
