import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { stop } from '@/app/server/handle';
import { refuse } from '@/core/refusal';

export const dynamic = 'force-dynamic';

export const GET = personRoute(
  {
    says: 'What the simulated node received.',
    answers: 'by protocol and universe',
    may: 'look at the simulated node',
  },
  () => {
    return fetch(server().sim, { signal: AbortSignal.timeout(2000) }).then(
      (r) =>
        new Response(r.body, {
          headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
        }),
      () => stop(refuse('unavailable', 'The simulated node is not answering.')),
    );
  },
);
