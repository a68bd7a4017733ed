import { z } from 'zod';
import { server } from '@/app/server/context';
import { handle, member, query } from '@/app/server/handle';
import { JOURNAL_KINDS } from '@/core/live/answers';
import { readJournal } from '@/store/journal';

export const dynamic = 'force-dynamic';

const Query = z.object({
  kind: z.enum(JOURNAL_KINDS).optional(),
  user: z.string().max(120).optional(),
  before: z.coerce.number().int().min(1).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(200),
});

export const GET = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id, 'see the show');
    const q = query(request, Query);
    return {
      entries: await readJournal(server().db, id, {
        kind: q.kind,
        userId: q.user,
        before: q.before,
        limit: q.limit,
      }),
    };
  });
