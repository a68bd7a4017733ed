import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, member, stop } from '@/app/server/handle';
import { isRefusal, refuse } from '@/core/refusal';
import { Name } from '@/core/show/fields';
import { dropVersion, keepVersion, listVersions } from '@/store/versions';

export const dynamic = 'force-dynamic';

export const GET = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id, 'see the show');
    return { versions: await listVersions(server().db, id) };
  });

/** Names the show as it is now, or as it was after change `seq`. */
export const POST = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'program');
    const { name, seq } = await body(
      request,
      z.object({ name: Name, seq: z.number().int().min(0).optional() }),
    );
    const { db, store } = server();
    const newest = (await store.open(id))?.seq ?? 0;
    if (seq !== undefined && seq > newest)
      return refuse('not-found', `This show has ${newest} changes so far.`);
    const made = await keepVersion(db, id, {
      name,
      seq: seq ?? newest,
      kind: 'named',
      userId: who.userId,
      userName: who.name,
    });
    return isRefusal(made) ? made : { versions: await listVersions(db, id) };
  });

export const DELETE = (
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id, 'program');
    const which =
      new URL(request.url).searchParams.get('version') ??
      stop(refuse('invalid', 'Say which version.'));
    const { db } = server();
    const done = await dropVersion(db, id, which);
    return isRefusal(done) ? done : { versions: await listVersions(db, id) };
  });
