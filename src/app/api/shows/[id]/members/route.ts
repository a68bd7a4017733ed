import { fullDay } from '@/core/dates';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { ROLES } from '@/core/roles';
import { isRefusal } from '@/core/refusal';
import { tell } from '@/store/inbox';
import { note } from '@/store/journal';
import { tellMembers } from '@/store/people';
import { listMembers, setMember } from '@/store/shows';

export const dynamic = 'force-dynamic';

export const GET = showRoute(
  { says: 'People and their roles.', answers: 'members', may: 'see the show' },
  async ({ id }) => {
    return { members: await listMembers(server().db, id) };
  },
);

const Member = z.object({
  email: z.email('An e-mail address is needed.').max(200),
  role: z.enum(ROLES).nullable(),
  pages: z.array(z.string().max(120)).max(50).optional(),
  /** The person is in the show until then; null: for good. */
  until: z.iso.datetime({ offset: true, message: 'An end date is needed.' }).nullable().optional(),
});

/** Gives somebody a role, changes it, or takes it away (null): the owner's right alone, at once on open screens. */
export const PUT = showRoute(
  {
    says: 'Gives somebody a role, pages and an end date in the show; null takes them out.',
    answers: 'members',
    may: 'decide about the show',
    body: Member,
  },
  async ({ id, who, body: { email, role, pages, until } }) => {
    const { db } = server();
    const result = await setMember(db, id, email, role, {
      pages,
      until: typeof until === 'string' ? new Date(until) : until,
    });
    if (isRefusal(result)) return result;
    await tellMembers(db, { show: id, user: result.userId });
    await note(db, id, {
      userId: who.userId,
      userName: who.name,
      kind: 'people',
      text:
        role === null
          ? `${result.name} is no longer in the show`
          : `${result.name} is ${role} now${until ? `, until ${fullDay(until)}` : ''}`,
    });
    const until_ = until ? `, until ${fullDay(until)}` : '';
    const says = (): string => {
      if (role === null) return `${who.name} has taken you out of the show.`;
      if (result.was === null) return `${who.name} has made you ${role} of this show${until_}.`;
      if (result.was !== role)
        return `You are ${role} now, no longer ${result.was}, by ${who.name}${until_}.`;
      if (until === undefined) return '';
      return `${who.name} has set the end of your time in the show: ${until ? fullDay(until) : 'none'}.`;
    };
    const text = says();
    if (result.userId !== who.userId && text)
      await tell(
        db,
        { showId: id, showName: result.show, from: { userId: who.userId, name: who.name } },
        [{ userId: result.userId, kind: 'role', text, place: null, quiet: true }],
      );
    return { members: await listMembers(db, id) };
  },
);
