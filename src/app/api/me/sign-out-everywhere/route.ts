import { server } from '@/app/server/context';
import { handle, person } from '@/app/server/handle';
import { signOutEverywhere } from '@/store/people';

export const dynamic = 'force-dynamic';

/** Ends every session of the one who asks, this one too; also from a locked screen. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'sign out everywhere');
    await signOutEverywhere(server().db, who.userId);
    return { ok: true };
  });
