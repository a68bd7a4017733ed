import { deskFor } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { pieces, fileAnswer, stop } from '@/app/server/handle';
import { SHOW_FILE_LIMIT } from '@/core/formats/show-file';
import { refuse } from '@/core/refusal';
import { isPlainText, ODD_TEXT } from '@/core/text';

export const dynamic = 'force-dynamic';

/** Takes a show file in, to be merged or brought in parts of: the file is the body. */
export const POST = personRoute(
  {
    says: 'Takes a show file along for merging; kept a day.',
    answers: 'id, show, made, by, counts',
    may: 'bring a file along',
    takesFile: true,
  },
  async ({ who: { userId }, request }) => {
    const name = new URL(request.url).searchParams.get('name') ?? 'a show file';
    if (!isPlainText(name)) stop(refuse('invalid', ODD_TEXT));
    return fileAnswer(
      await deskFor(request).do(
        { do: 'take-in', userId, name: name.slice(0, 200) },
        pieces(request, SHOW_FILE_LIMIT),
      ),
    );
  },
);
