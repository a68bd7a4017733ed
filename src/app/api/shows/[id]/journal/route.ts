import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { JOURNAL_KINDS } from '@/core/live/answers';
import { readJournal } from '@/store/journal';

export const dynamic = 'force-dynamic';

const Query = z.object({
  kind: z.enum(JOURNAL_KINDS).optional(),
  user: z.string().max(120).optional(),
  before: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(200),
});

export const GET = showRoute(
  {
    says: 'GOs, calls, boards, people and refusals, newest first.',
    answers: 'entries',
    may: 'see the show',
    query: Query,
  },
  async ({ id, query: q }) => {
    return {
      entries: await readJournal(server().db, id, {
        kind: q.kind,
        userId: q.user,
        before: q.before,
        limit: q.limit,
      }),
    };
  },
);
