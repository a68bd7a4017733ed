/**
 * A ticket lets the player know who stands behind a request without asking the database: signed by the web process
 * after it has checked session and role, good for some seconds, for one show.
 */
import { createHmac, randomUUID, timingSafeEqual } from 'node:crypto';
import { z } from 'zod';
import { ROLES } from '../core/roles.ts';

const GOOD_FOR_MS = 15_000;

const Ticket = z.object({
  userId: z.string(),
  name: z.string(),
  showId: z.string(),
  role: z.enum(ROLES),
  until: z.number(),
  sessionId: z.string().default(''),
  /** Its own: a ticket for a socket opens one, once. */
  id: z.string(),
  use: z.enum(['socket', 'request']),
  /** Control pages that a volunteer has. */
  pages: z.array(z.string()).default([]),
});
export type Ticket = z.infer<typeof Ticket>;

const sign = (secret: string, body: string): string =>
  createHmac('sha256', `ticket:${secret}`).update(body).digest('base64url');

/** A ticket for one socket, signed, good for a short while. */
export function issueTicket(
  secret: string,
  who: Omit<z.input<typeof Ticket>, 'until' | 'id'>,
  now = Date.now(),
): string {
  const body = Buffer.from(
    JSON.stringify({ ...who, id: randomUUID(), until: now + GOOD_FOR_MS }),
  ).toString('base64url');
  return `${body}.${sign(secret, body)}`;
}

/** The ticket's content, or undefined when it is forged, broken or out of date. */
export function readTicket(
  secret: string,
  ticket: string | null | undefined,
  use: Ticket['use'],
  now = Date.now(),
): Ticket | undefined {
  const [body, signature] = (ticket ?? '').split('.');
  if (!body || !signature) return undefined;
  const right = Buffer.from(sign(secret, body));
  const given = Buffer.from(signature);
  if (right.length !== given.length || !timingSafeEqual(right, given)) return undefined;
  try {
    const parsed = Ticket.safeParse(JSON.parse(Buffer.from(body, 'base64url').toString('utf8')));
    return parsed.success && parsed.data.use === use && parsed.data.until >= now
      ? parsed.data
      : undefined;
  } catch {
    return undefined;
  }
}
