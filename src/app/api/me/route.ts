import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { hasPin } from '@/store/pins';

export const dynamic = 'force-dynamic';

export const GET = personRoute(
  { says: 'Who you are.', answers: 'user, rights, lock', may: 'know who I am' },
  async ({ who }) => {
    const { db } = server();
    return {
      userId: who.userId,
      name: who.name,
      pin: await hasPin(db, who.userId),
      locked: who.isLocked,
      house: who.house,
    };
  },
);
