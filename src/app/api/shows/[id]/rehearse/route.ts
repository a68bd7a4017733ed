import { handle, member } from '@/app/server/handle';
import { askPlayer } from '@/app/server/player';

export const dynamic = 'force-dynamic';

/** Plays a list in fast motion, without output: `?list=<id>`. Whoever may play may ask; one at a time. */
export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'play');
    return askPlayer(
      `/rehearse?list=${encodeURIComponent(new URL(request.url).searchParams.get('list') ?? '')}`,
      who,
      id,
      {},
      60_000,
    );
  });
