import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { signOutEverywhere } from '@/store/people';

export const dynamic = 'force-dynamic';

/** Ends every session of the one who asks, this one too; also from a locked screen. */
export const POST = personRoute(
  { says: 'Ends all your sessions.', answers: 'ok', may: 'sign out everywhere' },
  async ({ who }) => {
    await signOutEverywhere(server().db, who.userId);
    return { ok: true };
  },
);
