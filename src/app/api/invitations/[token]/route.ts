import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person, stop } from '@/app/server/handle';
import { Allowances } from '@/core/limits';
import { isRefusal, refuse } from '@/core/refusal';
import { ensureUser } from '@/store/auth';
import { note } from '@/store/journal';
import { accountByInvitation, acceptInvitation, readInvitation } from '@/store/people';

export const dynamic = 'force-dynamic';

type Params = { params: Promise<{ token: string }> };
/** Guessing a link is hopeless, and slow as well. */
const allowances = new Allowances(30, 0.5);
function slowly(request: Request): void {
  if (!allowances.take(request.headers.get('x-wingman-client') ?? '', performance.now()))
    stop(refuse('rate', 'Too many tries from here; wait a minute.'));
}

export const GET = (request: Request, { params }: Params): Promise<Response> =>
  handle(request, async () => {
    slowly(request);
    return readInvitation(server().db, (await params).token);
  });

/** Accepts it: for who is signed in, or with a new account. */
export const POST = (request: Request, { params }: Params): Promise<Response> =>
  handle(request, async () => {
    slowly(request);
    const { token } = await params;
    const { db, auth } = server();
    const { account } = await body(
      request,
      z.object({
        account: z
          .object({
            name: z.string().trim().min(1, 'A name is needed.').max(120),
            email: z.email('An e-mail address is needed.').max(200),
            password: z.string().min(8, 'A password has at least 8 characters.').max(128),
          })
          .optional(),
      }),
    );
    const who = account
      ? await accountByInvitation(db, token, account, (who_) => ensureUser(auth, db, who_))
      : await person(request, 'accept an invitation');
    if (isRefusal(who)) return who;
    const done = await acceptInvitation(db, token, who.userId);
    if (isRefusal(done)) return done;
    const name = account?.name ?? (await person(request, 'accept an invitation')).name;
    await note(db, done.showId, {
      userId: who.userId,
      userName: name,
      kind: 'people',
      text: `${name} has come by invitation, as ${done.role}`,
    });
    return done;
  });
