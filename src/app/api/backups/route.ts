import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, fileAnswer, handle, member, person, stop } from '@/app/server/handle';
import { refuse } from '@/core/refusal';
import { listBackups } from '@/store/backups';

export const dynamic = 'force-dynamic';

/** Back-ups of one show, for its owners. */
export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const show =
      new URL(request.url).searchParams.get('show') ??
      stop(refuse('invalid', 'Say of which show.'));
    await member(request, show, 'decide about the show');
    return { backups: await listBackups(server().data, show) };
  });

/** One by hand, now; or the way back: a back-up as a show of its own, beside the one that it is of. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const { show, file } = await body(
      request,
      z.object({ show: z.string().max(120), file: z.string().max(120).optional() }),
    );
    const { files, data } = server();
    if (file === undefined) {
      const owner = await member(request, show, 'decide about the show');
      return fileAnswer(await files.do({ do: 'back-up', data, showId: show, by: owner.name }));
    }
    const who = await person(request, 'make shows');
    await member(request, show, 'decide about the show');
    return fileAnswer(
      await files.do({ do: 'open-backup', userId: who.userId, data, showId: show, file }),
    );
  });
