import { handle, member } from '@/app/server/handle';
import { askPlayer } from '@/app/server/player';

export const dynamic = 'force-dynamic';

export const GET = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    return askPlayer('/stage', await member(request, id, 'see the stage'), id);
  });
