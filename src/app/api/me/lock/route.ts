import { z } from 'zod';
import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { isRefusal, refuse } from '@/core/refusal';
import { checkPin, hasPin, lockSession } from '@/store/pins';

export const dynamic = 'force-dynamic';

/** Locks this screen and every other of this session, or opens them with the PIN. */
export const POST = personRoute(
  {
    says: 'Locks this session, or opens it with the PIN.',
    answers: 'locked',
    may: 'lock and unlock',
    body: z.object({ pin: z.string().max(20).optional() }),
  },
  async ({ who, body: { pin } }) => {
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
  },
);
