import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, person } from '@/app/server/handle';
import { isRefusal } from '@/core/refusal';
import { checkPin, hasPin, setPin } from '@/store/people';

export const dynamic = 'force-dynamic';

/** Sets, changes or takes away (null) the PIN of the one who asks; a PIN that is set is asked for first. */
export const PUT = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'change my settings');
    const { pin, old } = await body(
      request,
      z.object({ pin: z.string().max(20).nullable(), old: z.string().max(20).optional() }),
    );
    const { db } = server();
    if (await hasPin(db, who.userId)) {
      const right = await checkPin(db, who.userId, old ?? '');
      if (isRefusal(right)) return right;
    }
    return setPin(db, who.userId, pin);
  });
