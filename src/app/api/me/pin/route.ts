import { z } from 'zod';
import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { isRefusal } from '@/core/refusal';
import { checkPin, hasPin, setPin } from '@/store/pins';

export const dynamic = 'force-dynamic';

/** Sets, changes or takes away (null) the PIN of the one who asks; a PIN that is set is asked for first. */
export const PUT = personRoute(
  {
    says: 'Sets, changes or takes away (null) your PIN; one that is set is asked for first.',
    answers: 'ok',
    may: 'change my settings',
    body: z.object({ pin: z.string().max(20).nullable(), old: z.string().max(20).optional() }),
  },
  async ({ who, body: { pin, old } }) => {
    const { db } = server();
    if (await hasPin(db, who.userId)) {
      const right = await checkPin(db, who.userId, old ?? '');
      if (isRefusal(right)) return right;
    }
    return setPin(db, who.userId, pin);
  },
);
