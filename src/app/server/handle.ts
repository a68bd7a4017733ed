/** What route handlers have in common: who asks, whether the page that asks is ours, bodies within limits, refusals as 4xx. */
import { randomBytes } from 'node:crypto';
import { sql } from 'kysely';
import type { z } from 'zod';
import { invalid } from '@/core/edits/plan-edit';
import { isRefusal, refuse, statusOf, type Refusal, type Result } from '@/core/refusal';
import { mayNotHere, type Act } from '@/core/rights';
import { ODD_TEXT, oddTextIn } from '@/core/text';
import { databaseTrouble } from '@/store/database';
import type { Done } from '@/store/file-desk';
import { KEPT_REFUSALS, note, refusals } from '@/store/journal';
import { standingOf, type Person, type WhoIsIt } from '@/store/rights';
import type { Membership } from '@/store/shows';
import { saysFull } from '@/store/survive';
import { server } from './context';

const BODY_LIMIT = 8 * 1024 * 1024;

class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.message);
  }
}

/** Ends the request with a refusal. */
export function stop(refusal: Refusal): never {
  throw new Refused(refusal);
}

function errorResponse(refusal: Refusal): Response {
  const { code, message, fields, unseen, seq } = refusal;
  return Response.json(
    {
      error: {
        code,
        message,
        ...(fields ? { fields } : {}),
        ...(unseen ? { unseen } : {}),
        ...(seq === undefined ? {} : { seq }),
      },
    },
    { status: statusOf(refusal) },
  );
}

/** What people are told while the database is away. */
export const AWAY = refuse(
  'unavailable',
  'The database cannot be reached right now. Playback goes on; nothing was changed. Try again in a moment.',
);
const LOST = refuse(
  'unavailable',
  'The connection to the database was lost while this was being done. Playback goes on; it is not known whether it was written. Look before you do it again.',
);

/** Runs a handler; refusals become 4xx, a missing database 503, anything else a 500 with a number that stands in the log. */
export async function handle(request: Request, act: () => Promise<unknown>): Promise<Response> {
  const reads = request.method === 'GET' || request.method === 'HEAD';
  try {
    if (!reads) sameOrigin(request);
    const result = await act();
    if (result instanceof Response) return result;
    return isRefusal(result)
      ? errorResponse(result)
      : Response.json(result, { headers: { 'cache-control': 'no-store' } });
  } catch (error) {
    if (error instanceof Refused) return errorResponse(error.refusal);
    if (saysFull(error))
      return errorResponse(
        refuse(
          'full',
          'The disk is full: nothing was changed. Playback goes on; make room on the machine that Wingman runs on.',
        ),
      );
    const trouble = databaseTrouble(error);
    if (trouble) return errorResponse(trouble === 'away' || reads ? AWAY : LOST);
    return unexpected(error, reads);
  }
}

/** A bug of ours: said as that, and found again in the log by its number. */
function unexpected(error: unknown, reads: boolean): Response {
  const number = randomBytes(3).toString('hex').toUpperCase();
  console.error(`unexpected ${number}:`, error);
  const kept = reads ? 'Nothing was changed.' : 'It is not known whether anything was changed.';
  return Response.json(
    {
      error: {
        code: 'internal',
        message: `Something unexpected happened in Wingman, number ${number}. ${kept} The log of the web process says more under this number.`,
      },
    },
    { status: 500 },
  );
}

/** A browser says where a request comes from; a page of another site may not act in a person's name. */
function sameOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  // Without an origin it is a program, unless the browser says that another site sent it.
  if (origin === null && request.headers.get('sec-fetch-site') !== 'cross-site') return;
  const host = request.headers.get('host');
  let from: string | undefined;
  try {
    from = new URL(origin ?? '').host;
  } catch {
    from = undefined;
  }
  if (from !== host)
    stop(
      refuse('origin', 'This request comes from a page of another site and was not carried out.'),
    );
}

/** The session of a request, as the accounts library has it. */
async function sessionOf(request: Request): Promise<{ id: string } | null> {
  try {
    return (await server().auth.api.getSession({ headers: request.headers }))?.session ?? null;
  } catch (error) {
    // The library meets a missing database first, and says so in its own way.
    await sql`select 1`.execute(server().db).catch(() => stop(AWAY));
    throw error;
  }
}

async function standing(
  request: Request,
  showId: string | null,
  evenDeleted = false,
): Promise<WhoIsIt | null> {
  const session = await sessionOf(request);
  return session ? standingOf(server().db, session.id, showId, evenDeleted) : null;
}

/** Who asks, where they may do this; for what is not about a show. */
export async function person(request: Request, act: Act): Promise<WhoIsIt> {
  const who = await standing(request, null);
  const no = mayNotHere(who, act);
  return no || !who ? stop(no ?? NO_SHOW) : who;
}

/** Whether somebody whose request is answered may do something else as well, which is not about a show. */
export const mayToo = async ({ sessionId }: Person, act: Act): Promise<boolean> =>
  mayNotHere(await standingOf(server().db, sessionId, null), act) === null;

/** A person in the show that they ask about. */
export interface MemberOf extends Person, Membership {}
const SHOW_ID = /^[A-Za-z0-9-]{1,120}$/;
const NO_SHOW = refuse('not-found', 'This show does not exist, or you are not one of its people.');

/** Who asks, with their place in the show, where they may do this in it. What is refused may be of interest to its owners. */
export async function member(
  request: Request,
  showId: string,
  act: Act,
  { evenDeleted = false } = {},
): Promise<MemberOf> {
  const who = await standing(request, SHOW_ID.test(showId) ? showId : null, evenDeleted);
  const no = mayNotHere(who, act);
  if (no || !who?.of) return stop(who?.of && no ? await logged(showId, who, no) : (no ?? NO_SHOW));
  return { userId: who.userId, name: who.name, sessionId: who.sessionId, ...who.of };
}

/** Keeps a refusal that somebody may want to know of in the show's journal. */
export async function logged<T>(showId: string, who: Person, result: T): Promise<T> {
  if (
    isRefusal(result) &&
    KEPT_REFUSALS.has(result.code) &&
    refusals.take(who.userId, performance.now())
  )
    await note(server().db, showId, {
      userId: who.userId,
      userName: who.name,
      kind: 'refused',
      text: result.message,
      data: { code: result.code },
    });
  return result;
}

/** The answer of a job with files, passed on as it is; or its refusal. */
export const fileAnswer = (done: Result<Done>): Result<Response> =>
  isRefusal(done)
    ? done
    : new Response(done.answer, {
        headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
      });

/** Others get their turn after so many pieces of a body: what has arrived already is read without a pause between. */
const PIECES_AT_ONCE = 16;

/** The body in pieces as they come, never more than the limit. */
export async function* pieces(request: Request, limit: number): AsyncGenerator<Uint8Array> {
  const tooLarge = refuse(
    'too-large',
    `A file has at most ${limit / 1024 / 1024} MB. Nothing was changed.`,
  );
  if (Number(request.headers.get('content-length') ?? 0) > limit) stop(tooLarge);
  const reader = request.body?.getReader();
  let size = 0;
  for (let n = 1; ; n++) {
    const part = await reader?.read();
    if (!part || part.done) return;
    size += part.value.length;
    if (size > limit) {
      await reader?.cancel();
      stop(tooLarge);
    }
    yield part.value;
    if (n % PIECES_AT_ONCE === 0) await new Promise((resolve) => setImmediate(resolve));
  }
}

/** The body as bytes, never more than the limit. */
export async function bytes(request: Request, limit: number): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  for await (const part of pieces(request, limit)) parts.push(part);
  return Buffer.concat(parts);
}

/** The body as JSON that fits the schema; never more than the limit is read. */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const whole = await bytes(request, BODY_LIMIT);
  let json: unknown;
  try {
    json = JSON.parse(whole.toString('utf8'));
  } catch {
    stop(refuse('invalid', 'The request is not JSON.'));
  }
  const odd = oddTextIn(json);
  if (odd !== undefined)
    stop(refuse('invalid', ODD_TEXT, { [odd.slice(0, 200)]: 'Zero bytes or broken characters.' }));
  const parsed = schema.safeParse(json);
  return parsed.success ? parsed.data : stop(invalid(parsed.error));
}

/** The query that fits the schema. */
export function query<T>(request: Request, schema: z.ZodType<T>): T {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  if (oddTextIn(asked) !== undefined) stop(refuse('invalid', ODD_TEXT));
  const parsed = schema.safeParse(asked);
  return parsed.success ? parsed.data : stop(invalid(parsed.error));
}
