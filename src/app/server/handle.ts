/** What route handlers have in common: who asks, whether the page that asks is ours, bodies within limits, refusals as 4xx. */
import type { z } from 'zod';
import type { Role } from '@/core/edits/edit';
import { invalid } from '@/core/edits/index';
import { isRefusal, refuse, type Refusal } from '@/core/refusal';
import { roleOf } from '@/store/shows';
import { server } from './context';

const STATUS: Record<string, number> = {
  unauthorized: 401,
  forbidden: 403,
  origin: 403,
  'not-found': 404,
  clash: 409,
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

function errorResponse({ code, message, fields }: Refusal): Response {
  return Response.json({ error: { code, message, ...(fields ? { fields } : {}) } }, { status: STATUS[code] ?? 400 });
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

export async function person(request: Request): Promise<Person> {
  const session = await server().auth.api.getSession({ headers: request.headers });
  if (!session) stop(refuse('unauthorized', 'Sign in first.'));
  return { userId: session.user.id, name: session.user.name };
}

/** Who asks, and the role in this show; a show that is not theirs does not exist for them. */
export async function member(request: Request, showId: string): Promise<Person & { role: Role }> {
  const who = await person(request);
  const role = await roleOf(server().db, showId, who.userId);
  if (!role) stop(refuse('not-found', 'This show does not exist, or you are not one of its people.'));
  return { ...who, role };
}

/** The body as JSON that fits the schema; never more than the limit is read. */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const tooLarge = refuse('too-large', `A request has at most ${BODY_LIMIT / 1024 / 1024} MB. Nothing was changed.`);
  if (Number(request.headers.get('content-length') ?? 0) > BODY_LIMIT) stop(tooLarge);
  const reader = request.body?.getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const part = await reader?.read();
    if (!part || part.done) break;
    size += part.value.length;
    if (size > BODY_LIMIT) {
      await reader?.cancel();
      stop(tooLarge);
    }
    parts.push(part.value);
  }
  let json: unknown;
  try {
    json = JSON.parse(Buffer.concat(parts).toString('utf8'));
  } catch {
    stop(refuse('invalid', 'The request is not JSON.'));
  }
  const parsed = schema.safeParse(json);
  return parsed.success ? parsed.data : stop(invalid(parsed.error));
}
