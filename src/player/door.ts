/**
 * What is asked of the player over HTTP: how it is, what the stage shows, a command of a program, a rehearsal, handing over.
 * Web processes ask for people, by a ticket that says who; the launcher and other players ask for the house.
 */
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Logger } from 'pino';
import { LiveCommand } from '../core/live/commands.ts';
import { SOCKET_LIMITS } from '../core/live/messages.ts';
import { isRefusal, refuse, statusOf, type Refusal } from '../core/refusal.ts';
import { sayFirst } from '../core/said-wrong.ts';
import { ODD_TEXT, oddTextIn } from '../core/text.ts';
import { readTicket, type Ticket } from '../store/ticket.ts';
import type { Clock } from './clock-client.ts';
import { failed } from './failed.ts';
import type { House } from './house.ts';
import type { LiveShow } from './live-show.ts';
import type { Ears } from './outside.ts';

/** What the door asks of the house. */
export interface DoorNeeds {
  readonly house: Pick<
    House,
    'air' | 'clients' | 'command' | 'feedIsUp' | 'notKept' | 'onAir' | 'open'
  >;
  readonly clock: Pick<Clock, 'frame' | 'stats'>;
  /** What the processes of one installation know of each other. */
  readonly secret: string;
  readonly log: Logger;
  /** Where remote controls are heard. */
  ears: () => Ears;
  /** It ends, or gives the output to another. */
  isStopping: () => boolean;
  handOver: () => Promise<{ ok: true } | Refusal>;
  /** Plays a list through beside everything else. */
  rehearse: (show: LiveShow, listId: string) => Promise<unknown>;
}

/** What was asked, without how it came. */
export interface Asked {
  readonly method: string;
  readonly url: string;
  header: (name: string) => string | undefined;
  /** Undefined where it is not JSON, or too long. */
  body: () => Promise<unknown>;
}

/** What a request is answered. */
export interface Told {
  readonly status: number;
  readonly body: unknown;
}

interface OfShow {
  readonly show: LiveShow;
  readonly ticket: Ticket;
  readonly asked: Asked;
}

const told = (body: unknown): Told => ({ status: 200, body });
const refused = (refusal: Refusal): Told => ({
  status: statusOf(refusal),
  body: {
    error: {
      code: refusal.code,
      message: refusal.message,
      ...(refusal.fields ? { fields: refusal.fields } : {}),
    },
  },
});
const said = (answer: Refusal | object): Told =>
  isRefusal(answer) ? refused(answer) : told(answer);

const urlOf = (asked: Asked): URL => new URL(asked.url, 'http://player');

/** Who may ask them needs no ticket. Undefined: this is not one of them. */
async function ofTheHouse(needs: DoorNeeds, asked: Asked): Promise<Told | undefined> {
  const { pathname } = urlOf(asked);
  if (pathname === '/health') return told(await healthOf(needs));
  const knows = asked.header('x-wingman-secret') === needs.secret;
  if (pathname === '/stats' && knows) return told(await needs.clock.stats());
  if (pathname !== '/hand-over' || asked.method !== 'POST' || !knows) return undefined;
  const done = needs.house.onAir
    ? await needs.handOver()
    : refuse('standby', 'This player waits; it has nothing to hand over.');
  // Whoever asks is a program that waits for this one answer: each no is a conflict to it.
  return isRefusal(done) ? { ...refused(done), status: 409 } : told(done);
}

async function healthOf({ house, clock, ears, isStopping }: DoorNeeds): Promise<object> {
  const { frames, packets } = await clock.stats();
  const { showName, showId } = house.air();
  return {
    pid: process.pid,
    onAir: house.onAir && !isStopping(),
    notKept: house.notKept,
    show: showName,
    showId,
    frames,
    packets,
    screens: house.clients.size,
    feed: house.feedIsUp,
    osc: ears(),
    memory_MB: Math.round(process.memoryUsage().rss / 1048576),
  };
}

async function stage({ clock, house }: DoorNeeds, { show }: OfShow): Promise<Told> {
  // Never before there is a frame, and never one from before what was told last.
  await clock.frame(show.id);
  return told(show.stage(house.air()));
}

/** Shows in which a rehearsal is played. It costs a core, so there is one at a time. */
const rehearsing = new WeakSet<DoorNeeds>();

async function rehearsal(needs: DoorNeeds, { show, ticket, asked }: OfShow): Promise<Told> {
  if (ticket.role === 'viewer' || ticket.role === 'volunteer')
    return refused(
      refuse('forbidden', 'A viewer can look at this show, but not have it played through.'),
    );
  const listId = urlOf(asked).searchParams.get('list') ?? '';
  if (!show.show.lists.has(listId))
    return refused(refuse('not-found', 'There is no such cue list.'));
  if (rehearsing.has(needs))
    return refused(refuse('conflict', 'A rehearsal is being played already; wait for it.'));
  rehearsing.add(needs);
  try {
    return told(await needs.rehearse(show, listId));
  } finally {
    rehearsing.delete(needs);
  }
}

async function live({ house }: DoorNeeds, { ticket, asked }: OfShow): Promise<Told> {
  const given = await asked.body();
  if (oddTextIn(given) !== undefined) return refused(refuse('invalid', ODD_TEXT));
  const command = LiveCommand.safeParse(given);
  if (!command.success) {
    const field = command.error.issues[0]?.path.join('.') || 'command';
    const message = sayFirst(command.error);
    return refused(refuse('invalid', message, { [field]: message }));
  }
  const { userId, name, role, pages, showId } = ticket;
  const actor = { userId, name, role, pages, via: 'a program' };
  return said(await house.command(showId, actor, command.data));
}

/** What is asked of one show, by a ticket for it. */
const OF_A_SHOW: Record<string, (needs: DoorNeeds, of: OfShow) => Promise<Told>> = {
  '/stage': stage,
  'POST /rehearse': rehearsal,
  'POST /live': live,
};

/** @returns what is answered; never anything of a show without a ticket for it, or while another player plays (`door.test.ts`) */
export async function answerTo(needs: DoorNeeds, asked: Asked): Promise<Told> {
  const ofHouse = await ofTheHouse(needs, asked);
  if (ofHouse) return ofHouse;
  if (!needs.house.onAir)
    return refused(refuse('standby', 'This player waits while another plays.'));
  const ticket = readTicket(needs.secret, asked.header('x-wingman-ticket'), 'request');
  if (!ticket) return refused(refuse('unauthorized', 'No valid ticket.'));
  const show = await needs.house.open(ticket.showId);
  if (!show) return refused(refuse('not-found', 'This show does not exist.'));
  const { pathname } = urlOf(asked);
  const way = OF_A_SHOW[pathname] ?? OF_A_SHOW[`${asked.method} ${pathname}`];
  return way ? way(needs, { show, ticket, asked }) : refused(refuse('not-found', 'Unknown.'));
}

async function bodyOf(request: IncomingMessage): Promise<unknown> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > SOCKET_LIMITS.messageBytes) return undefined;
    parts.push(part);
  }
  try {
    return JSON.parse(Buffer.concat(parts).toString('utf8'));
  } catch {
    return undefined;
  }
}

const askedBy = (request: IncomingMessage): Asked => ({
  method: request.method ?? 'GET',
  url: request.url ?? '/',
  header: (name) => {
    const value = request.headers[name];
    return Array.isArray(value) ? value[0] : value;
  },
  body: () => bodyOf(request),
});

/** @returns a server that does not listen yet */
export function makeDoor(needs: DoorNeeds): Server {
  const tell = (response: ServerResponse, { status, body }: Told): void => {
    if (response.headersSent) return;
    response.writeHead(status, { 'content-type': 'application/json' });
    response.end(JSON.stringify(body));
  };
  return createServer((request, response) => {
    answerTo(needs, askedBy(request))
      .catch((error: unknown) => refused(failed(error, needs.log)))
      .then((answer) => tell(response, answer))
      .catch((error: unknown) => needs.log.warn({ error: String(error) }, 'could not answer'));
  });
}
