import { server } from '@/app/server/context';
import { pieces, fileAnswer, handle, person } from '@/app/server/handle';
import { FILE_LIMIT } from '@/core/formats/show-file';

export const dynamic = 'force-dynamic';

/** A show file as a new show: the file is the body. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const { userId } = await person(request, 'make shows');
    return fileAnswer(await server().files.do({ do: 'open', userId }, pieces(request, FILE_LIMIT)));
  });
