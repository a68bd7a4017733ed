import { server } from '@/app/server/context';
import { handle, person } from '@/app/server/handle';
import { hasPin } from '@/store/people';

export const dynamic = 'force-dynamic';

export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'know who I am');
    const { db } = server();
    return {
      userId: who.userId,
      name: who.name,
      pin: await hasPin(db, who.userId),
      locked: who.isLocked,
      house: who.house,
    };
  });
