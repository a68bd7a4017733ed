import { server } from '@/app/server/context';
import { handle, person } from '@/app/server/handle';
import { toPlayer } from '@/app/server/player';
import { refuse } from '@/core/refusal';
import { note } from '@/store/journal';
import { airShow, roleOf } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** The player on air gives the output to the one that waits: told by an owner of the show on air, never by itself. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request);
    const { db, secret } = server();
    const air = await airShow(db);
    if (!air || (await roleOf(db, air, who.userId)) !== 'owner') return refuse('forbidden', 'Only an owner of the show on air lets another player take over.');
    const done = await toPlayer('/hand-over', { method: 'POST', headers: { 'x-wingman-secret': secret } });
    if (done.ok) await note(db, air, { userId: who.userId, userName: who.name, kind: 'air', text: 'Let the other player take over' });
    return done;
  });
