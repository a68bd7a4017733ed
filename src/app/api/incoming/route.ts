import { server } from '@/app/server/context';
import { bytes, handle, person } from '@/app/server/handle';
import { FILE_LIMIT } from '@/core/formats/show-file';
import { isRefusal } from '@/core/refusal';
import { takeIn } from '@/store/files';

export const dynamic = 'force-dynamic';

/** Takes a show file in, to be merged or brought in parts of: the file is the body. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'bring a file along');
    const taken = await takeIn(server().db, who.userId, new URL(request.url).searchParams.get('name') ?? 'a show file', await bytes(request, FILE_LIMIT));
    if (isRefusal(taken)) return taken;
    const { manifest } = taken.file;
    return { id: taken.id, show: manifest.show, made: manifest.made, by: manifest.by, counts: manifest.counts };
  });
