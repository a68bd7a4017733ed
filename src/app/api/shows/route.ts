import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person } from '@/app/server/handle';
import { Name } from '@/core/show/fields';
import { createShow, listShows } from '@/store/shows';

export const dynamic = 'force-dynamic';

export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const { userId } = await person(request, 'list my shows');
    return { shows: await listShows(server().db, userId) };
  });

export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const { userId } = await person(request, 'make shows');
    const { name } = await body(request, z.object({ name: Name }));
    return createShow(server().db, userId, name);
  });
