import { z } from 'zod';
import { server } from '@/app/server/context';
import { openRoute } from '@/app/server/define-route';
import { fileAnswer, member, person } from '@/app/server/handle';
import { listBackups } from '@/store/backups';

export const dynamic = 'force-dynamic';

/** Back-ups of one show, for its owners. */
export const GET = openRoute(
  {
    says: 'Back-ups of one show, for its owners.',
    answers: 'backups',
    query: z.object({ show: z.string('Say of which show.').max(120) }),
  },
  async ({ request, query: { show } }) => {
    await member(request, show, 'decide about the show');
    return { backups: await listBackups(server().data, show) };
  },
);

/** One by hand, now; or the way back: a back-up as a show of its own, beside the one that it is of. */
export const POST = openRoute(
  {
    says: 'Writes a back-up now; or opens one as a show of its own, beside the one that it is of.',
    answers: 'the back-up, or an id',
    body: z.object({ show: z.string().max(120), file: z.string().max(120).optional() }),
  },
  async ({ request, body: { show, file } }) => {
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
  },
);
