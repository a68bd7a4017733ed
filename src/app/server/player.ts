/** Asks the player that is on air, with a ticket that says who stands behind it. */
import { backOff } from 'exponential-backoff';
import { refuse } from '@/core/refusal';
import { playerAddress } from '@/store/players';
import { issueTicket } from '@/store/ticket';
import { server } from './context';
import { stop, type MemberOf } from './handle';

const PATIENCE_MS = 5000;
/** Another player may be taking over: it is looked for again so often, for so long. */
const AGAIN_MS = 150;
const TAKEOVER_MS = 2500;

/** The player on air as the database has it; the one that was started with this process before there is any. */
export async function playerUrl(): Promise<string> {
  const address = await playerAddress(server().db).catch(() => null);
  return address ? `http://${address}` : server().player;
}

/** The player does not take requests now; it may in a moment. */
class NotNow extends Error {
  /** @param response what it answered, if it did */
  constructor(readonly response: Response | null) {
    super('The player takes no requests now.');
  }
}

const NOT_KNOWN = refuse(
  'unavailable',
  'The player is not answering; it is being started again. It is not known whether this was carried out.',
);
const NOT_DONE = refuse(
  'unavailable',
  'The player is not answering; it is being started again. The command was not carried out.',
);

/** @throws NotNow where nothing was carried out; a refusal where that is not known */
async function once(path: string, init: RequestInit, patience_ms: number): Promise<Response> {
  const response = await fetch(`${await playerUrl()}${path}`, {
    ...init,
    signal: AbortSignal.timeout(patience_ms),
  }).catch((error: unknown) =>
    (error as { cause?: { code?: string } }).cause?.code === 'ECONNREFUSED'
      ? null
      : stop(NOT_KNOWN),
  );
  if (!response || response.status === 503) throw new NotNow(response);
  return response;
}

/** A request to the player on air. While one gives way to another it is asked again, unless it may have been carried out. */
export async function toPlayer(
  path: string,
  init: RequestInit,
  patience_ms = PATIENCE_MS,
): Promise<Response> {
  const until = performance.now() + TAKEOVER_MS;
  return backOff(() => once(path, init, patience_ms), {
    startingDelay: AGAIN_MS,
    maxDelay: AGAIN_MS,
    numOfAttempts: Infinity,
    retry: (error: unknown) => error instanceof NotNow && performance.now() <= until,
  }).catch((error: unknown) => {
    if (!(error instanceof NotNow)) throw error;
    return error.response ?? stop(NOT_DONE);
  });
}

/** Asks the player that is on air; refuses where none answers. */
export async function askPlayer(
  path: string,
  who: MemberOf,
  showId: string,
  command?: unknown,
  patience_ms = PATIENCE_MS,
): Promise<Response> {
  const { secret } = server();
  const response = await toPlayer(
    path,
    {
      method: command === undefined ? 'GET' : 'POST',
      headers: {
        'x-wingman-ticket': issueTicket(secret, {
          userId: who.userId,
          name: who.name,
          role: who.role,
          pages: who.pages,
          sessionId: who.sessionId,
          showId,
          use: 'request',
        }),
        'content-type': 'application/json',
      },
      ...(command === undefined ? {} : { body: JSON.stringify(command) }),
    },
    patience_ms,
  );
  return new Response(response.body, {
    status: response.status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });
}
