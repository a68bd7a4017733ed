import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { listCopies } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** Copies that were made of this show and how far each is from it, for its owners. */
export const GET = showRoute(
  {
    says: 'Shows that began as copies of this one, and how far they are.',
    answers: 'copies',
    may: 'decide about the show',
  },
  async ({ id }) => {
    return { copies: await listCopies(server().db, id) };
  },
);
