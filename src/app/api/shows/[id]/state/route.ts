import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { isRefusal } from '@/core/refusal';
import { tell } from '@/store/inbox';
import { tellMembers } from '@/store/people';
import { listMembers, setShowState, SHOW_STATES } from '@/store/shows';

export const dynamic = 'force-dynamic';

const SAID = {
  archived: 'has archived',
  open: 'has taken out of the archive:',
  deleted: 'has deleted',
  kept: 'has brought back',
} as const;

/** Archives a show, deletes it with a week's grace, or brings it back: the owner's right. */
export const POST = showRoute(
  {
    says: 'Archives a show, opens it again, deletes it, or keeps it from being thrown away.',
    answers: 'its state',
    may: 'decide about the show',
    evenDeleted: true,
    body: z.object({ to: z.enum(SHOW_STATES) }),
  },
  async ({ id, who, body: { to } }) => {
    const { db } = server();
    const done = await setShowState(db, id, to, who.name);
    if (isRefusal(done)) return done;
    await tellMembers(db, { show: id });
    const others = (await listMembers(db, id)).filter((m) => m.userId !== who.userId);
    const { name } = await db
      .selectFrom('shows')
      .select('name')
      .where('id', '=', id)
      .executeTakeFirstOrThrow();
    await tell(
      db,
      { showId: id, showName: name, from: { userId: who.userId, name: who.name } },
      others.map((m) => ({
        userId: m.userId,
        kind: 'show',
        text: `${who.name} ${SAID[to]} “${name}”.`,
        place: null,
      })),
    );
    return done;
  },
);
