import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';
import { issueTicket } from '@/store/ticket';

export const dynamic = 'force-dynamic';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id);
    return { ticket: issueTicket(server().secret, { ...who, showId: id }), role: who.role };
  });
