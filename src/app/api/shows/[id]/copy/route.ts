import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { Name } from '@/core/show/fields';
import { copyShow } from '@/store/copies';

export const dynamic = 'force-dynamic';

/** A copy to work on apart, owned by whoever makes it; it can be merged back. */
export const POST = showRoute(
  {
    says: 'Copies the show.',
    answers: 'its id',
    may: 'copy the show',
    body: z.object({ name: Name }),
  },
  ({ id, who, body: { name } }) => {
    return copyShow(server().store, id, who.userId, name);
  },
);
