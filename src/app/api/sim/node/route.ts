import { server } from '@/app/server/context';
import { handle, person, stop } from '@/app/server/handle';
import { refuse } from '@/core/refusal';

export const dynamic = 'force-dynamic';

export const GET = (request: Request): Promise<Response> =>
  handle(request, async () => {
    await person(request, 'look at the simulated node');
    return fetch(server().sim, { signal: AbortSignal.timeout(2000) }).then(
      (r) =>
        new Response(r.body, {
          headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
        }),
      () => stop(refuse('unavailable', 'The simulated node is not answering.')),
    );
  });
