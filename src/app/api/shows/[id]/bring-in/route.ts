import { randomUUID } from 'node:crypto';
import { server } from '@/app/server/context';
import { body, fileAnswer, handle, logged, member } from '@/app/server/handle';
import { BringIn } from '@/store/file-jobs';

export const dynamic = 'force-dynamic';

/** What there is to bring in, and which of our fixtures would stand for theirs. */
export const PUT = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const { userId } = await member(request, id, 'program');
    const { from, by } = await body(request, BringIn.pick({ from: true, by: true }));
    return fileAnswer(await server().files.do({ do: 'parts', showId: id, userId, from, by }));
  });

export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'program');
    const wanted = await body(request, BringIn);
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
  });
