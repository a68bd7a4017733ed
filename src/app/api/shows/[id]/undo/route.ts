import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { logged } from '@/app/server/handle';
import { isRefusal, type Refusal, type Result } from '@/core/refusal';
import type { EditResult } from '@/store/commit';

export const dynamic = 'force-dynamic';

const newId = (): string => randomUUID().slice(0, 18);
const LONGEST_JUMP = 200;

const OFFERED = 3;

/** What you have done and undone, newest first; with `?possible=1` the newest of it that can be undone by themselves. */
export const GET = showRoute(
  {
    says: 'What you have done and undone, newest first; with `possible=1` the newest of it that can be undone by themselves.',
    answers: 'done, undone',
    may: 'see the show',
    query: z.object({ possible: z.string().optional() }),
  },
  async ({ id, who, query }) => {
    if (query.possible === '1')
      return { possible: await server().store.undoable(id, who.userId, OFFERED) };
    const { done, undone } = await server().store.undoList(id, who.userId);
    const last = done.slice(-LONGEST_JUMP).reverse();
    return {
      done: last.map(({ seq, summary }) => ({ seq, summary })),
      undone: undone.slice(-LONGEST_JUMP).map(({ seq, summary }) => ({ seq, summary })),
    };
  },
);

const Ask = z.union([
  z.object({ way: z.enum(['undo', 'redo']) }),
  /** One change, however old, where nothing was built on it. */
  z.object({ seq: z.number().int().min(1) }),
  /** Along your own list: until this change of yours is undone, or is done again. */
  z.object({ to: z.number().int().min(1) }),
]);

export const POST = showRoute(
  {
    says: 'Undoes or does again: your newest change, one change of anybody, or along your own list.',
    answers: 'as an edit',
    may: 'program',
    body: Ask,
  },
  async ({ id, who, body: ask }) => {
    const { store } = server();
    if ('way' in ask) return logged(id, who, await store.reverse(id, who, ask.way, newId()));
    if ('seq' in ask) return logged(id, who, await store.reverseOne(id, who, ask.seq, newId()));
    const list = await store.undoList(id, who.userId);
    const back = list.done.some((c) => c.seq === ask.to);
    const steps = back
      ? list.done.length - list.done.findIndex((c) => c.seq === ask.to)
      : list.undone.length - list.undone.findIndex((c) => c.seq === ask.to);
    if (!back && !list.undone.some((c) => c.seq === ask.to))
      return {
        refused: true,
        code: 'not-found',
        message: 'This change is not in your list any more.',
      } satisfies Refusal;
    let result: EditResult | Refusal | undefined;
    let made = 0;
    for (; made < Math.min(steps, LONGEST_JUMP); made++) {
      const next: Result<EditResult> = await store.reverse(
        id,
        who,
        back ? 'undo' : 'redo',
        newId(),
      );
      if (isRefusal(next))
        return made === 0
          ? next
          : {
              ...next,
              message: `${made} of ${steps} ${back ? 'undone' : 'done again'}; then: ${next.message}`,
            };
      result = next;
    }
    return {
      ...result,
      summary: `${back ? 'Undid' : 'Did again'} ${made === 1 ? 'one change' : `${made} changes`}`,
    };
  },
);
