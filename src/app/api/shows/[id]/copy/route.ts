import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, member } from '@/app/server/handle';
import { Name } from '@/core/show/fields';
import { copyShow } from '@/store/files';

export const dynamic = 'force-dynamic';

/** A copy to work on apart, owned by whoever makes it; it can be merged back. */
export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'copy the show');
    const { name } = await body(request, z.object({ name: Name }));
    return copyShow(server().store, id, who.userId, name);
  });
