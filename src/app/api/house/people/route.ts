import { z } from 'zod';
import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { isRefusal } from '@/core/refusal';
import { HOUSE_RIGHTS } from '@/core/rights';
import { listAccounts, setHouseRight } from '@/store/rights';

export const dynamic = 'force-dynamic';

/** Every account of the house with its right. */
export const GET = personRoute(
  { says: 'Accounts and their rights in the house.', answers: 'people', may: 'run the house' },
  async () => {
    return { accounts: await listAccounts(server().db) };
  },
);

/** Gives an account another right in the house: its owner, may make shows, or only what it is invited to. */
export const PUT = personRoute(
  {
    says: 'Gives somebody a right in the house.',
    answers: 'people',
    may: 'run the house',
    body: z.object({ userId: z.string().max(120), may: z.enum(HOUSE_RIGHTS) }),
  },
  async ({ body: { userId, may } }) => {
    const { db } = server();
    const done = await setHouseRight(db, userId, may);
    return isRefusal(done) ? done : { accounts: await listAccounts(db) };
  },
);
