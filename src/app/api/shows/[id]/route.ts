import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';
import { packShow } from '@/core/show/pack';
import { TABLE_NAMES } from '@/core/show/rows';

export const dynamic = 'force-dynamic';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id);
    const copy = await server().store.open(id);
    if (!copy) throw new Error('a member’s show has no row');
    const head = { id, seq: copy.seq, role: who.role };
    if (new URL(request.url).searchParams.get('packed') === '1') return { ...head, packed: packShow(copy.show) };
    return { ...head, tables: Object.fromEntries(TABLE_NAMES.map((table) => [table, [...copy.show[table].values()]])) };
  });
