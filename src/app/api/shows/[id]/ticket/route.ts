import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { issueTicket } from '@/store/ticket';

export const dynamic = 'force-dynamic';

export const POST = showRoute(
  {
    says: 'A ticket for the live socket: opens one, once, within 15 s.',
    answers: 'ticket',
    may: 'come in',
  },
  ({ id, who }) => {
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
  },
);
