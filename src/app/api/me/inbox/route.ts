import { z } from 'zod';
import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { markDone, markSeen, readInbox } from '@/store/inbox';

export const dynamic = 'force-dynamic';

const Id = z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER);

/** What concerns whoever asks, newest first, a hundred at a time; over all shows. */
export const GET = personRoute(
  {
    says: 'What concerns you, over all shows, newest first.',
    answers: 'entries, unseen',
    may: 'read my inbox',
    query: z.object({ before: Id.optional() }),
  },
  ({ who, query: { before } }) => {
    return readInbox(server().db, who.userId, before);
  },
);

/** Entries up to one were read; an ask was answered, or put aside. */
export const POST = personRoute(
  {
    says: 'Read up to an entry; or an ask is answered or put aside.',
    answers: 'unseen',
    may: 'read my inbox',
    body: z.union([z.object({ seen: Id }), z.object({ done: Id })]),
  },
  async ({ who, body: p }) => {
    if ('seen' in p) await markSeen(server().db, who.userId, p.seen);
    else await markDone(server().db, who.userId, p.done);
    return readInbox(server().db, who.userId);
  },
);
