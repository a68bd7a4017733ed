import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { stop } from '@/app/server/handle';
import { refuse } from '@/core/refusal';
import { Faults } from '@/core/wires/faults';

export const dynamic = 'force-dynamic';

const PATIENCE_MS = 2000;

/** What the node says, as it says it. */
const asked = (init: RequestInit = {}): Promise<Response> =>
  fetch(server().sim, { ...init, signal: AbortSignal.timeout(PATIENCE_MS) }).then(
    (r) =>
      new Response(r.body, {
        status: r.status,
        headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
      }),
    () => stop(refuse('unavailable', 'The simulated node is not answering.')),
  );

export const GET = personRoute(
  {
    says: 'What the simulated node received.',
    answers: 'by protocol and universe',
    may: 'look at the simulated node',
  },
  () => asked(),
);

export const POST = personRoute(
  {
    says: 'Switches faults of the simulated house on and off: packets lost or late, a dead port, a rival source, a pulled card. What is left out is off.',
    answers: 'what the node received',
    may: 'put faults into the simulated house',
    body: Faults,
  },
  ({ body }) =>
    asked({
      method: 'POST',
      headers: { 'x-wingman-secret': server().secret },
      body: JSON.stringify(body),
    }),
);
