import { deskFor } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { pieces, fileAnswer } from '@/app/server/handle';
import { SHOW_FILE_LIMIT } from '@/core/formats/show-file';

export const dynamic = 'force-dynamic';

/** A show file as a new show: the file is the body. */
export const POST = personRoute(
  {
    says: 'Opens a show file as a show of its own.',
    answers: 'its id',
    may: 'make shows',
    takesFile: true,
  },
  async ({ who: { userId }, request }) => {
    return fileAnswer(
      await deskFor(request).do({ do: 'open', userId }, pieces(request, SHOW_FILE_LIMIT)),
    );
  },
);
