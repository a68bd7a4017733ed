import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, member } from '@/app/server/handle';
import { isRefusal } from '@/core/refusal';
import { tellMembers } from '@/store/people';
import { setShowState, SHOW_STATES } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** Archives a show, deletes it with a week's grace, or brings it back: the owner's right. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'decide about the show', { evenDeleted: true });
    const { to } = await body(request, z.object({ to: z.enum(SHOW_STATES) }));
    const { db } = server();
    const done = await setShowState(db, id, to, who.name);
    if (!isRefusal(done)) await tellMembers(db, { show: id });
    return done;
  });
