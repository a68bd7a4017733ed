/** What route handlers have in common: who asks, whether the page that asks is ours, bodies within limits, refusals as 4xx. */
import type { z } from 'zod';
import { invalid } from '@/core/edits/index';
import { isRefusal, refuse, type Refusal } from '@/core/refusal';
import { KEPT_REFUSALS, note, refusals } from '@/store/journal';
import { isLocked } from '@/store/people';
import { membership, type Membership } from '@/store/shows';
import { server } from './context';

const STATUS: Record<string, number> = {
  unauthorized: 401,
  forbidden: 403,
  origin: 403,
  'not-found': 404,
  clash: 409,
  unseen: 409,
  part: 409,
  board: 409,
  unrelated: 409,
  locked: 423,
  conflict: 409,
  nothing: 409,
  limit: 409,
  'too-large': 413,
  rate: 429,
  unavailable: 503,
};
const BODY_LIMIT = 8 * 1024 * 1024;

export interface Person {
  userId: string;
  name: string;
  sessionId: string;
}

class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.message);
  }
}

/** Ends the request with a refusal. */
export function stop(refusal: Refusal): never {
  throw new Refused(refusal);
}

function errorResponse({ code, message, fields, unseen }: Refusal): Response {
  return Response.json({ error: { code, message, ...(fields ? { fields } : {}), ...(unseen ? { unseen } : {}) } }, { status: STATUS[code] ?? 400 });
}

/** Runs a handler; refusals become 4xx, a missing database 503, anything else a 500 without its inside. */
export async function handle(request: Request, act: () => Promise<unknown>): Promise<Response> {
  try {
    if (request.method !== 'GET' && request.method !== 'HEAD') sameOrigin(request);
    const result = await act();
    if (result instanceof Response) return result;
    return isRefusal(result) ? errorResponse(result) : Response.json(result, { headers: { 'cache-control': 'no-store' } });
  } catch (error) {
    if (error instanceof Refused) return errorResponse(error.refusal);
    const code = (error as { code?: string }).code ?? '';
    if (/^(ECONN|57P|08)/.test(code) || /timeout|terminat|Connection/i.test((error as Error).message)) {
      return errorResponse(refuse('unavailable', 'The database cannot be reached right now. Playback goes on; nothing was changed. Try again in a moment.'));
    }
    console.error(error);
    return Response.json({ error: { code: 'internal', message: 'Wingman made a mistake. Nothing was changed; the log of the web process says more.' } }, { status: 500 });
  }
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
  if (from !== host) stop(refuse('origin', 'This request comes from a page of another site and was not carried out.'));
}

/** Who asks. From a locked screen nothing is changed. */
export async function person(request: Request, { evenLocked = false } = {}): Promise<Person> {
  const session = await server().auth.api.getSession({ headers: request.headers });
  if (!session) stop(refuse('unauthorized', 'Sign in first.'));
  if (!evenLocked && request.method !== 'GET' && (await isLocked(server().db, session.session.id))) stop(refuse('locked', 'This screen is locked. Give your PIN first; nothing was changed.'));
  return { userId: session.user.id, name: session.user.name, sessionId: session.session.id };
}

export interface MemberOf extends Person, Membership {}

/** Who asks, and the role in this show; a show that is not theirs does not exist for them. A volunteer has only the pages given to them. */
export async function member(request: Request, showId: string, { volunteers = false, evenLocked = false } = {}): Promise<MemberOf> {
  const who = await person(request, { evenLocked });
  const of = await membership(server().db, showId, who.userId);
  if (!of) stop(refuse('not-found', 'This show does not exist, or you are not one of its people.'));
  if (of.role === 'volunteer' && !volunteers) stop(refuse('forbidden', 'A volunteer has the pages given to them, and nothing else of the show.'));
  return { ...who, ...of };
}

/** Owners decide about people, files and whether a show is kept. */
export async function ownerOf(request: Request, showId: string, what: string): Promise<MemberOf> {
  const who = await member(request, showId, { volunteers: true });
  if (who.role !== 'owner') stop(await logged(showId, who, refuse('forbidden', `Only an owner of the show ${what}.`)));
  return who;
}

/** Keeps a refusal that somebody may want to know of in the show's journal. */
export async function logged<T>(showId: string, who: Person, result: T): Promise<T> {
  if (isRefusal(result) && KEPT_REFUSALS.has(result.code) && refusals.take(who.userId, performance.now())) await note(server().db, showId, { userId: who.userId, userName: who.name, kind: 'refused', text: result.message, data: { code: result.code } });
  return result;
}

/** The body as bytes, never more than the limit. */
export async function bytes(request: Request, limit: number): Promise<Buffer> {
  const tooLarge = refuse('too-large', `A file has at most ${limit / 1024 / 1024} MB. Nothing was changed.`);
  if (Number(request.headers.get('content-length') ?? 0) > limit) stop(tooLarge);
  const reader = request.body?.getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const part = await reader?.read();
    if (!part || part.done) break;
    size += part.value.length;
    if (size > limit) {
      await reader?.cancel();
      stop(tooLarge);
    }
    parts.push(part.value);
  }
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
  const parsed = schema.safeParse(json);
  return parsed.success ? parsed.data : stop(invalid(parsed.error));
}

/** The query that fits the schema. */
export function query<T>(request: Request, schema: z.ZodType<T>): T {
  const parsed = schema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  return parsed.success ? parsed.data : stop(invalid(parsed.error));
}
