import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { aRole, ROLES } from '@/core/roles';
import { isRefusal } from '@/core/refusal';
import { note } from '@/store/journal';
import { invite, listInvitations, withdrawInvitation } from '@/store/invitations';

export const dynamic = 'force-dynamic';

const Invite = z.object({
  role: z.enum(ROLES),
  pages: z.array(z.string().max(120)).max(50).default([]),
  memberUntil: z.iso
    .datetime({ offset: true, message: 'An end date is needed.' })
    .nullable()
    .default(null),
  /** How long the link is good for. */
  days: z
    .number()
    .int()
    .min(1, 'A link is good for at least a day.')
    .max(60, 'A link is good for at most 60 days.')
    .default(7),
});
const DAY_MS = 24 * 3600 * 1000;

export const GET = showRoute(
  { says: 'Invitations of the show.', answers: 'invitations', may: 'decide about the show' },
  async ({ id }) => {
    return { invitations: await listInvitations(server().db, id) };
  },
);

/** Makes a link; it is told this once. */
export const POST = showRoute(
  {
    says: 'Makes an invitation; its link is told once.',
    answers: 'id, path, invitations',
    may: 'decide about the show',
    body: Invite,
  },
  async ({ id, who, body: p }) => {
    const { db } = server();
    const made = await invite(db, id, who.userId, {
      role: p.role,
      pages: p.pages,
      memberUntil: p.memberUntil === null ? null : new Date(p.memberUntil),
      expiresAt: new Date(Date.now() + p.days * DAY_MS),
    });
    if (isRefusal(made)) return made;
    await note(db, id, {
      userId: who.userId,
      userName: who.name,
      kind: 'people',
      text: `Invited somebody as ${p.role}`,
    });
    return {
      id: made.id,
      path: `/invitation/${made.token}`,
      invitations: await listInvitations(db, id),
    };
  },
);

export const DELETE = showRoute(
  {
    says: 'Withdraws an invitation.',
    answers: 'invitations',
    may: 'decide about the show',
    query: z.object({ invitation: z.string('Say which invitation.').max(120) }),
  },
  async ({ id, who, query }) => {
    const { db } = server();
    const done = await withdrawInvitation(db, id, query.invitation);
    if (isRefusal(done)) return done;
    await note(db, id, {
      userId: who.userId,
      userName: who.name,
      kind: 'people',
      text: `Withdrew the invitation of ${aRole(done.role).toLowerCase()}`,
    });
    return { invitations: await listInvitations(db, id) };
  },
);
