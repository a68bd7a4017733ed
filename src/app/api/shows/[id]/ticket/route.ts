import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';
import { issueTicket } from '@/store/ticket';

export const dynamic = 'force-dynamic';

export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'come in');
    const ticket = issueTicket(server().secret, {
      userId: who.userId,
      name: who.name,
      showId: id,
      role: who.role,
      sessionId: who.sessionId,
      pages: who.pages,
      use: 'socket',
    });
    return { ticket, role: who.role };
  });
