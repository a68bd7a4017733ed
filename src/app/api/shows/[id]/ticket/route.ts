import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';
import { isLocked } from '@/store/people';
import { issueTicket } from '@/store/ticket';

export const dynamic = 'force-dynamic';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, { volunteers: true, evenLocked: true });
    const { db, secret } = server();
    const ticket = issueTicket(secret, { userId: who.userId, name: who.name, showId: id, role: who.role, sessionId: who.sessionId, pages: who.pages, leaves: who.until, locked: await isLocked(db, who.sessionId) });
    return { ticket, role: who.role };
  });
