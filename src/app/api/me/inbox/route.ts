import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person, query } from '@/app/server/handle';
import { markDone, markSeen, readInbox } from '@/store/inbox';

export const dynamic = 'force-dynamic';

const Id = z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER);

/** What concerns whoever asks, newest first, a hundred at a time; over all shows. */
export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'read my inbox');
    const { before } = query(request, z.object({ before: Id.optional() }));
    return readInbox(server().db, who.userId, before);
  });

/** Entries up to one were read; an ask was answered, or put aside. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'read my inbox');
    const p = await body(request, z.union([z.object({ seen: Id }), z.object({ done: Id })]));
    if ('seen' in p) await markSeen(server().db, who.userId, p.seen);
    else await markDone(server().db, who.userId, p.done);
    return readInbox(server().db, who.userId);
  });
