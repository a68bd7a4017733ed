import { sql } from 'kysely';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, member, stop } from '@/app/server/handle';
import { ROLES } from '@/core/edits/edit';
import { isRefusal, refuse } from '@/core/refusal';
import { MEMBERS_CHANNEL } from '@/store/feed';
import { listMembers, setMember } from '@/store/shows';

export const dynamic = 'force-dynamic';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id);
    return { members: await listMembers(server().db, id) };
  });

/** Gives somebody a role, changes it, or takes it away (null): the owner's right alone, at once on open screens. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id);
    if (who.role !== 'owner') stop(refuse('forbidden', 'Only an owner of the show decides who is in it.'));
    const { email, role } = await body(request, z.object({ email: z.email('An e-mail address is needed.').max(200), role: z.enum(ROLES).nullable() }));
    const { db } = server();
    const result = await setMember(db, id, email, role);
    if (isRefusal(result)) return result;
    await sql`select pg_notify(${MEMBERS_CHANNEL}, ${JSON.stringify({ show: id, user: result.userId })})`.execute(db);
    return { members: await listMembers(db, id) };
  });
