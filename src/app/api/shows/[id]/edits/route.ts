import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, member } from '@/app/server/handle';

export const dynamic = 'force-dynamic';

const Request_ = z.object({
  edit: z.string().max(60),
  params: z.unknown(),
  /** The same id twice is one edit: a retry after a lost answer changes nothing more. */
  editId: z.string().regex(/^[A-Za-z0-9-]{6,60}$/).optional(),
  preview: z.boolean().optional(),
});

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id);
    const { edit, params: editParams, editId, preview } = await body(request, Request_);
    return server().store.edit(id, who, { edit, params: editParams, editId: editId ?? randomUUID().slice(0, 18), ...(preview === undefined ? {} : { preview }) });
  });
