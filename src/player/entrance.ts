/** Where screens come in: a ticket opens one socket, once, for whoever is behind it as they are at this moment. */
import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import type { Logger } from 'pino';
import { WebSocketServer, type WebSocket } from 'ws';
import { SOCKET_LIMITS } from '../core/live/messages.ts';
import { mayNotHere } from '../core/rights.ts';
import type { WhoIsIt } from '../store/rights.ts';
import { readTicket, type Ticket } from '../store/ticket.ts';
import { Client } from './client.ts';
import type { House } from './house.ts';

/** What the entrance asks of the house. */
export interface EntranceNeeds {
  readonly house: House;
  readonly secret: string;
  readonly log: Logger;
  /** Takes a ticket out of use; false where it was used before. */
  spend: (ticketId: string) => Promise<boolean>;
  standing: (sessionId: string, showId: string) => Promise<WhoIsIt | null>;
}

interface Admitted {
  readonly ticket: Ticket;
  readonly who: WhoIsIt;
  readonly of: NonNullable<WhoIsIt['of']>;
}

/** @returns who comes in, or the status line of why they do not; whether this player plays is asked before a ticket is spent */
export async function admit(
  needs: Pick<EntranceNeeds, 'secret' | 'spend' | 'standing'> & {
    readonly house: Pick<House, 'onAir'>;
  },
  text: string | null,
): Promise<Admitted | string> {
  const ticket = readTicket(needs.secret, text, 'socket');
  if (!ticket) return '401 Unauthorized';
  if (!needs.house.onAir) return '503 Service Unavailable';
  if (!(await needs.spend(ticket.id))) return '401 Unauthorized';
  const who = await needs.standing(ticket.sessionId, ticket.showId);
  if (mayNotHere(who, 'come in') || !who?.of) return who ? '403 Forbidden' : '401 Unauthorized';
  return { ticket, who, of: who.of };
}

function comeIn(needs: EntranceNeeds, ws: WebSocket, { ticket, who, of }: Admitted): void {
  const { house, log } = needs;
  const { showId } = ticket;
  // What it says before the show is open is heard after that.
  ws.pause();
  // A socket that hears nothing would not hear that the other side has closed too, and stay for half a minute.
  const turnAway = (code: number, why: string): void => {
    ws.resume();
    ws.close(code, why);
  };
  house
    .open(showId)
    .then((show) => {
      if (!show) return turnAway(4404, 'no such show');
      const client = new Client(
        ws,
        showId,
        { userId: who.userId, name: who.name, role: of.role, pages: of.pages },
        house,
        log,
        { sessionId: who.sessionId, leaves: of.until, locked: who.isLocked },
      );
      ws.resume();
      client.start(show);
      house.joined(client);
    })
    .catch(() => turnAway(1013, 'the show cannot be opened right now'));
}

/** @returns what a server does with an upgrade */
export function makeEntrance(
  needs: EntranceNeeds,
): (request: IncomingMessage, socket: Duplex, head: Buffer) => void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: SOCKET_LIMITS.messageBytes });
  return (request, socket, head) => {
    const url = new URL(request.url ?? '/', 'http://player');
    const turnAway = (status: string): void =>
      void socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\n\r\n`);
    socket.on('error', () => socket.destroy());
    if (url.pathname !== '/live') return turnAway('404 Not Found');
    admit(needs, url.searchParams.get('ticket'))
      .then((admitted) => {
        if (typeof admitted === 'string') turnAway(admitted);
        else sockets.handleUpgrade(request, socket, head, (ws) => comeIn(needs, ws, admitted));
      })
      .catch((error: unknown) => {
        needs.log.warn({ error: String(error) }, 'a screen could not be let in');
        turnAway('503 Service Unavailable');
      });
  };
}
