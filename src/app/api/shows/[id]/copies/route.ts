import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';
import { listCopies } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** Copies that were made of this show and how far each is from it, for its owners. */
export const GET = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id, 'decide about the show');
    return { copies: await listCopies(server().db, id) };
  });
