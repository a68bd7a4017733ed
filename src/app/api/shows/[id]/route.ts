import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';
import { isRefusal } from '@/core/refusal';
import { packShow } from '@/core/formats/pack';
import { TABLE_NAMES } from '@/core/show/tables';

export const dynamic = 'force-dynamic';

/** The show as it is, or as it was after change `at`. */
export const GET = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'see the show');
    const query = new URL(request.url).searchParams;
    const { store } = server();
    const copy = await store.open(id);
    if (!copy) throw new Error('a member’s show has no row');
    const at = query.get('at');
    const show =
      at === null
        ? copy.show
        : await store.at(id, Number.isInteger(Number(at)) ? Number(at) : Number.MAX_SAFE_INTEGER);
    if (isRefusal(show)) return show;
    const head = { id, seq: at === null ? copy.seq : Number(at), role: who.role };
    if (query.get('packed') === '1') return { ...head, packed: packShow(show) };
    return {
      ...head,
      tables: Object.fromEntries(TABLE_NAMES.map((table) => [table, [...show[table].values()]])),
    };
  });
