import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, logged, member } from '@/app/server/handle';
import { Allowances } from '@/core/limits';
import { refuse } from '@/core/refusal';

export const dynamic = 'force-dynamic';

const Request_ = z.object({
  edit: z.string().max(60),
  params: z.unknown(),
  /** The same id twice is one edit: a retry after a lost answer changes nothing more. */
  editId: z
    .string()
    .regex(/^[A-Za-z0-9-]{6,60}$/)
    .optional(),
  preview: z.boolean().optional(),
  /** The last change that the sender had seen; others' work since then is not overwritten without a question. */
  seen: z.number().int().min(0).optional(),
  /** Answers to that question. */
  decided: z.record(z.string().max(600), z.enum(['mine', 'theirs'])).optional(),
  /** `seq` of the refusal that asked: what others have changed since then of what is to be written is asked again. */
  decidedAt: z.number().int().min(0).optional(),
});

/** A person at a keyboard makes a few edits a second, a drag some more; a program that makes more is slowed down. */
const PER_SECOND = 20;
const allowances = new Allowances(60, PER_SECOND);

export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'make edits');
    if (!allowances.take(who.userId, performance.now()))
      return logged(
        id,
        who,
        refuse(
          'rate',
          `More than ${PER_SECOND} edits a second come from you; this one was not made. Send it again in a moment.`,
        ),
      );
    const {
      edit,
      params: editParams,
      editId,
      preview,
      seen,
      decided,
      decidedAt,
    } = await body(request, Request_);
    return logged(
      id,
      who,
      await server().store.edit(id, who, {
        edit,
        params: editParams,
        editId: editId ?? randomUUID().slice(0, 18),
        ...(preview === undefined ? {} : { preview }),
        ...(seen === undefined ? {} : { seen }),
        ...(decided ? { decided } : {}),
        ...(decidedAt === undefined ? {} : { decidedAt }),
      }),
    );
  });
