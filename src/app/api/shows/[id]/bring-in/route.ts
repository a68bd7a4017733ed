import { randomUUID } from 'node:crypto';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { fileAnswer, logged } from '@/app/server/handle';
import { BringIn } from '@/store/file-jobs';

export const dynamic = 'force-dynamic';

/** What there is to bring in, and which of our fixtures would stand for theirs. */
export const PUT = showRoute(
  {
    says: 'What another show has, and how its fixtures would be mapped.',
    answers: 'lists, palettes …, mapping',
    may: 'program',
    body: BringIn.pick({ from: true, by: true }),
  },
  async ({ id, who: { userId }, body: { from, by } }) => {
    return fileAnswer(await server().files.do({ do: 'parts', showId: id, userId, from, by }));
  },
);

export const POST = showRoute(
  {
    says: 'Brings parts of another show in.',
    answers: 'as an edit',
    may: 'program',
    body: BringIn,
  },
  async ({ id, who, body: wanted }) => {
    const author = { userId: who.userId, name: who.name };
    return fileAnswer(
      await logged(
        id,
        who,
        await server().files.do({
          do: 'bring-in',
          showId: id,
          author,
          wanted,
          editId: randomUUID().slice(0, 18),
        }),
      ),
    );
  },
);
