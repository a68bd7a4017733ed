import { z } from 'zod';
import { server } from '@/app/server/context';
import { openRoute } from '@/app/server/define-route';
import { person } from '@/app/server/handle';
import { Allowances } from '@/core/limits';
import { isRefusal, refuse, type Refusal } from '@/core/refusal';
import { ensureUser } from '@/store/auth';
import { note } from '@/store/journal';
import { accountByInvitation, acceptInvitation, readInvitation } from '@/store/invitations';

export const dynamic = 'force-dynamic';

type Params = { token: string };
/** Guessing a link is hopeless, and slow as well. */
const allowances = new Allowances(30, 0.5);
const slowly = (request: Request): Refusal | null =>
  allowances.take(request.headers.get('x-wingman-client') ?? '', performance.now())
    ? null
    : refuse('rate', 'Too many tries from here; wait a minute.');

export const GET = openRoute<undefined, undefined, Params>(
  { says: 'What an invitation offers.', answers: 'show, role, by', first: slowly },
  ({ params }) => readInvitation(server().db, params.token),
);

/** Accepts it: for who is signed in, or with a new account. */
const Accept = z.object({
  account: z
    .object({
      name: z.string().trim().min(1, 'A name is needed.').max(120),
      email: z.email('An e-mail address is needed.').max(200),
      password: z.string().min(8, 'A password has at least 8 characters.').max(128),
    })
    .optional(),
});

export const POST = openRoute<z.infer<typeof Accept>, undefined, Params>(
  {
    says: 'Accepts it: for who is signed in, or with a new account.',
    answers: 'showId, role',
    body: Accept,
    first: slowly,
  },
  async ({ request, params: { token }, body: { account } }) => {
    const { db, auth } = server();
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
  },
);
