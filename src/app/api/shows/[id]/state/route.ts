import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person, stop } from '@/app/server/handle';
import { isRefusal, refuse } from '@/core/refusal';
import { tellMembers } from '@/store/people';
import { setShowState, SHOW_STATES } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** Archives a show, deletes it with a week's grace, or brings it back: the owner's right. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await person(request);
    const { to } = await body(request, z.object({ to: z.enum(SHOW_STATES) }));
    const { db } = server();
    const row = await db.selectFrom('members').select('role').where('show_id', '=', id).where('user_id', '=', who.userId).executeTakeFirst();
    if (!row) return stop(refuse('not-found', 'This show does not exist, or you are not one of its people.'));
    if (row.role !== 'owner') return refuse('forbidden', 'Only an owner of the show archives or deletes it.');
    const done = await setShowState(db, id, to, who.name);
    if (!isRefusal(done)) await tellMembers(db, { show: id });
    return done;
  });
