import { body, handle, member } from '@/app/server/handle';
import { askPlayer } from '@/app/server/player';
import { LiveCommand } from '@/core/live/commands';

export const dynamic = 'force-dynamic';

export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'give live commands');
    return askPlayer('/live', who, id, await body(request, LiveCommand));
  });
