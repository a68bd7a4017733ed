/** Asks the player on loopback, with a ticket that says who stands behind it. */
import type { Role } from '@/core/edits/edit';
import { refuse } from '@/core/refusal';
import { issueTicket } from '@/store/ticket';
import { server } from './context';
import { stop, type Person } from './handle';

const PATIENCE_MS = 5000;

export async function askPlayer(path: string, who: Person & { role: Role }, showId: string, command?: unknown): Promise<Response> {
  const { player, secret } = server();
  try {
    const response = await fetch(`${player}${path}`, {
      method: command === undefined ? 'GET' : 'POST',
      headers: { 'x-wingman-ticket': issueTicket(secret, { ...who, showId }), 'content-type': 'application/json' },
      ...(command === undefined ? {} : { body: JSON.stringify(command) }),
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    return new Response(response.body, { status: response.status, headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } });
  } catch {
    return stop(refuse('unavailable', 'The player is not answering; it is being started again. The command was not carried out.'));
  }
}
