import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person } from '@/app/server/handle';
import { isRefusal } from '@/core/refusal';
import { HOUSE_RIGHTS } from '@/core/rights';
import { listAccounts, setHouseRight } from '@/store/rights';

export const dynamic = 'force-dynamic';

/** Every account of the house with its right. */
export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    await person(request, 'run the house');
    return { accounts: await listAccounts(server().db) };
  });

/** Gives an account another right in the house: its owner, may make shows, or only what it is invited to. */
export const PUT = (request: Request): Promise<Response> =>
  handle(request, async () => {
    await person(request, 'run the house');
    const { userId, may } = await body(
      request,
      z.object({ userId: z.string().max(120), may: z.enum(HOUSE_RIGHTS) }),
    );
    const { db } = server();
    const done = await setHouseRight(db, userId, may);
    return isRefusal(done) ? done : { accounts: await listAccounts(db) };
  });
