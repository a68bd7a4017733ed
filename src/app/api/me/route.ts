import { server } from '@/app/server/context';
import { handle, person } from '@/app/server/handle';
import { hasPin, isLocked } from '@/store/people';

export const dynamic = 'force-dynamic';

export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request);
    const { db } = server();
    return { userId: who.userId, name: who.name, pin: await hasPin(db, who.userId), locked: await isLocked(db, who.sessionId) };
  });
