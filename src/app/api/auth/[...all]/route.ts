import { server } from '@/app/server/context';
import { handle } from '@/app/server/handle';

export const dynamic = 'force-dynamic';

/**
 * Browsers name their origin on every post, and `handle` refuses another site's. A program names none; it acts for
 * itself, so it is given our own, which the accounts library asks for.
 */
const answer = (request: Request): Promise<Response> =>
  handle(request, () => {
    if (request.headers.has('origin')) return server().auth.handler(request);
    const headers = new Headers(request.headers);
    headers.set('origin', `http://${request.headers.get('host') ?? ''}`);
    return server().auth.handler(new Request(request, { headers }));
  });

export { answer as GET, answer as POST };
