import { sql } from 'kysely';
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from '@/core/demo-accounts';
import { server } from '@/app/server/context';
import { AWAY, bytes, handle, stop } from '@/app/server/handle';
import { isRefusal, refuse } from '@/core/refusal';
import { ODD_TEXT, oddTextIn } from '@/core/text';
import { countTry, makeMark, wasRight, type Trying } from '@/store/sign-in';

export const dynamic = 'force-dynamic';

const SIGN_IN = '/api/auth/sign-in/email';
const MARK = 'wingman_device';
const MARK_DAYS = 400;
/** An address and a password are short. */
const BODY_LIMIT = 8 * 1024;

const cookie = (request: Request, name: string): string | undefined =>
  request.headers
    .get('cookie')
    ?.split(';')
    .map((part) => part.trim())
    .find((part) => part.startsWith(`${name}=`))
    ?.slice(name.length + 1);

/**
 * Browsers name their origin on every post, and `handle` refuses another site's. A program names none; it acts for
 * itself, so it is given our own, which the accounts library asks for.
 */
async function passOn(request: Request, body: Buffer | null): Promise<Response> {
  const headers = new Headers(request.headers);
  if (!headers.has('origin')) headers.set('origin', `http://${request.headers.get('host') ?? ''}`);
  const response = await server().auth.handler(
    new Request(request.url, {
      method: request.method,
      headers,
      ...(body ? { body: new Uint8Array(body) } : {}),
    }),
  );
  // The library has its own way of saying that the database is away.
  if (response.status >= 500) await sql`select 1`.execute(server().db).catch(() => stop(AWAY));
  return response;
}

function asked(body: Buffer): { email: string; password: string } {
  let json: unknown;
  try {
    json = JSON.parse(body.toString('utf8'));
  } catch {
    return stop(refuse('invalid', 'The request is not JSON.'));
  }
  if (oddTextIn(json) !== undefined) stop(refuse('invalid', ODD_TEXT));
  const { email, password } = (typeof json === 'object' && json !== null ? json : {}) as {
    email?: unknown;
    password?: unknown;
  };
  return typeof email === 'string' && typeof password === 'string'
    ? { email, password }
    : stop(refuse('invalid', 'An e-mail address and a password are needed.', { email: 'Needed.' }));
}

async function signIn(request: Request): Promise<Response> {
  const { db, secret, isOpenHouse } = server();
  const body = await bytes(request, BODY_LIMIT);
  const { email, password } = asked(body);
  if (
    isOpenHouse &&
    password === DEMO_PASSWORD &&
    DEMO_ACCOUNTS.includes(email.trim().toLowerCase())
  )
    stop(
      refuse(
        'unauthorized',
        'The demo’s password is known to everybody, and this house is open to the network. The passwords that hold here were printed when it started.',
      ),
    );
  const who: Trying = {
    email,
    address: request.headers.get('x-wingman-client') ?? '',
    mark: cookie(request, MARK),
  };
  const no = await countTry(db, secret, who);
  if (isRefusal(no)) stop(no);
  const response = await passOn(request, body);
  if (!response.ok) return response;
  await wasRight(db, secret, who);
  const headers = new Headers(response.headers);
  headers.append(
    'set-cookie',
    `${MARK}=${makeMark(secret, email)}; Path=/api/auth; Max-Age=${MARK_DAYS * 24 * 3600}; HttpOnly; SameSite=Lax${new URL(server().url).protocol === 'https:' ? '; Secure' : ''}`,
  );
  return new Response(response.body, { status: response.status, headers });
}

export const GET = (request: Request): Promise<Response> =>
  handle(request, () => passOn(request, null));
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () =>
    new URL(request.url).pathname === SIGN_IN
      ? signIn(request)
      : passOn(request, await bytes(request, BODY_LIMIT)),
  );
