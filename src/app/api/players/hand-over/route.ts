import { server } from '@/app/server/context';
import { openRoute } from '@/app/server/define-route';
import { member, person } from '@/app/server/handle';
import { toPlayer } from '@/app/server/player';
import { refuse } from '@/core/refusal';
import { note } from '@/store/journal';
import { airShow } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** The player on air gives the output to the one that waits: told by an owner of the show on air, never by itself. */
export const POST = openRoute(
  {
    says: 'The player on air gives the output to the one that waits.',
    answers: 'ok',
  },
  async ({ request }) => {
    const { db, secret } = server();
    const air = await airShow(db);
    if (!air) {
      await person(request, 'run the house');
      return refuse('nothing', 'No show is on air; there is nothing to hand over.');
    }
    const who = await member(request, air, 'decide about the show');
    const done = await toPlayer('/hand-over', {
      method: 'POST',
      headers: { 'x-wingman-secret': secret },
    });
    if (done.ok)
      await note(db, air, {
        userId: who.userId,
        userName: who.name,
        kind: 'air',
        text: 'Let the other player take over',
      });
    return done;
  },
);
