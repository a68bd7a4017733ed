import { server } from '@/app/server/context';
import { bytes, handle, person } from '@/app/server/handle';
import { FILE_LIMIT, readShowFile } from '@/core/formats/show-file';
import { isRefusal } from '@/core/refusal';
import { openFile } from '@/store/files';

export const dynamic = 'force-dynamic';

/** A show file as a new show: the file is the body. */
export const POST = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'make shows');
    const file = await readShowFile(await bytes(request, FILE_LIMIT));
    return isRefusal(file) ? file : openFile(server().db, who.userId, file);
  });
