import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, member } from '@/app/server/handle';

export const dynamic = 'force-dynamic';

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id);
    const { way } = await body(request, z.object({ way: z.enum(['undo', 'redo']) }));
    return server().store.reverse(id, who, way, randomUUID().slice(0, 18));
  });
