import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { logged } from '@/app/server/handle';
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
const TOO_FAST = refuse(
  'rate',
  `More than ${PER_SECOND} edits a second come from you; this one was not made. Send it again in a moment.`,
);

export const POST = showRoute(
  {
    says: 'Changes a show, or says what a change would do. The same `editId` twice is one edit; `params` of each are the schemas `edit.<name>`.',
    answers: 'seq, summary, changes, consequences',
    may: 'make edits',
    body: Request_,
    first: async (who, id) =>
      allowances.take(who.userId, performance.now()) ? null : logged(id, who, TOO_FAST),
  },
  async ({ id, who, body: { edit, params, editId, preview, seen, decided, decidedAt } }) =>
    logged(
      id,
      who,
      await server().store.edit(id, who, {
        edit,
        params,
        editId: editId ?? randomUUID().slice(0, 18),
        ...(preview === undefined ? {} : { preview }),
        ...(seen === undefined ? {} : { seen }),
        ...(decided ? { decided } : {}),
        ...(decidedAt === undefined ? {} : { decidedAt }),
      }),
    ),
);
