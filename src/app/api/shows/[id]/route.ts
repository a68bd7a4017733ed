import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { isRefusal } from '@/core/refusal';
import { packShow } from '@/core/formats/pack';
import { TABLE_NAMES } from '@/core/show/tables';

export const dynamic = 'force-dynamic';

const Query = z.object({
  /** What is no number of a change is none that there is. */
  at: z.coerce.number().int().catch(Number.MAX_SAFE_INTEGER).optional(),
  packed: z.string().optional(),
});

/** The show as it is, or as it was after change `at`. */
export const GET = showRoute(
  {
    says: 'The show as it is, or as it was after change `at`; with `packed=1` values as columns, as browsers load it.',
    answers: 'id, seq, role, tables',
    may: 'see the show',
    query: Query,
  },
  async ({ id, who, query: { at, packed } }) => {
    const { store } = server();
    const copy = await store.open(id);
    if (!copy) throw new Error('a member’s show has no row');
    const show = at === undefined ? copy.show : await store.at(id, at);
    if (isRefusal(show)) return show;
    const head = { id, seq: at ?? copy.seq, role: who.role };
    if (packed === '1') return { ...head, packed: packShow(show) };
    return {
      ...head,
      tables: Object.fromEntries(TABLE_NAMES.map((table) => [table, [...show[table].values()]])),
    };
  },
);
