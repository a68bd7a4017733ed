import { z } from 'zod';
import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { Name } from '@/core/show/fields';
import { createShow, listShows } from '@/store/shows';

export const dynamic = 'force-dynamic';

export const GET = personRoute(
  { says: 'Your shows.', answers: 'shows: id, name, role …', may: 'list my shows' },
  async ({ who: { userId } }) => {
    return { shows: await listShows(server().db, userId) };
  },
);

export const POST = personRoute(
  { says: 'Makes a show.', answers: 'its id', may: 'make shows', body: z.object({ name: Name }) },
  ({ who: { userId }, body: { name } }) => {
    return createShow(server().db, userId, name);
  },
);
