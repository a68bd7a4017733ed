import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { isRefusal, refuse } from '@/core/refusal';
import { Name } from '@/core/show/fields';
import { dropVersion, keepVersion, listVersions } from '@/store/versions';

export const dynamic = 'force-dynamic';

export const GET = showRoute(
  { says: 'Versions of the show.', answers: 'versions', may: 'see the show' },
  async ({ id }) => {
    return { versions: await listVersions(server().db, id) };
  },
);

/** Names the show as it is now, or as it was after change `seq`. */
export const POST = showRoute(
  {
    says: 'Keeps the show as it is, or was, under a name.',
    answers: 'versions',
    may: 'program',
    body: z.object({ name: Name, seq: z.number().int().min(0).optional() }),
  },
  async ({ id, who, body: { name, seq } }) => {
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
  },
);

export const DELETE = showRoute(
  {
    says: 'Forgets a version.',
    answers: 'versions',
    may: 'program',
    query: z.object({ version: z.string('Say which version.').max(120) }),
  },
  async ({ id, query }) => {
    const { db } = server();
    const done = await dropVersion(db, id, query.version);
    return isRefusal(done) ? done : { versions: await listVersions(db, id) };
  },
);
