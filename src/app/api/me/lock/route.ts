import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person } from '@/app/server/handle';
import { isRefusal, refuse } from '@/core/refusal';
import { checkPin, hasPin, lockSession } from '@/store/people';

export const dynamic = 'force-dynamic';

/** Locks this screen and every other of this session, or opens them with the PIN. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'lock and unlock');
    const { pin } = await body(request, z.object({ pin: z.string().max(20).optional() }));
    const { db } = server();
    if (pin === undefined) {
      if (!(await hasPin(db, who.userId)))
        return refuse(
          'nothing',
          'Set a PIN first; without one nobody could open the screen again.',
        );
      await lockSession(db, who.sessionId, true);
      return { locked: true };
    }
    const right = await checkPin(db, who.userId, pin);
    if (isRefusal(right)) return right;
    await lockSession(db, who.sessionId, false);
    return { locked: false };
  });
