import { z } from 'zod';
import { server } from '@/app/server/context';
import { handle, member, stop } from '@/app/server/handle';
import { invalid } from '@/core/edits/index';
import { changesAfter } from '@/store/shows';

export const dynamic = 'force-dynamic';

const Query = z.object({ after: z.coerce.number().int().min(0).optional(), last: z.coerce.number().int().min(1).max(500).optional() });

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id);
    const query = Query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
    if (!query.success) stop(invalid(query.error));
    const { db } = server();
    const { after, last } = query.data;
    if (last === undefined) return { changes: await changesAfter(db, id, after ?? 0) };
    const heads = await db.selectFrom('changes').select(['seq', 'user_id', 'user_name', 'at', 'edit', 'summary', 'reverts']).where('show_id', '=', id).orderBy('seq', 'desc').limit(last).execute();
    return { changes: heads.map((h) => ({ seq: h.seq, userId: h.user_id, userName: h.user_name, at: h.at.toISOString(), edit: h.edit, summary: h.summary, reverts: h.reverts })) };
  });
