import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { Preferences, readPreferences, writePreferences } from '@/store/preferences';

export const dynamic = 'force-dynamic';

export const GET = personRoute(
  {
    says: 'Your favourite types, your keys and how your panels stand.',
    answers: 'types, keys, layouts',
    may: 'change my settings',
  },
  ({ who }) => readPreferences(server().db, who.userId),
);

export const PUT = personRoute(
  {
    says: 'Keeps your favourite types, your keys and how your panels stand.',
    answers: 'as they are kept',
    may: 'change my settings',
    body: Preferences,
  },
  async ({ who, body: preferences }) => {
    await writePreferences(server().db, who.userId, preferences);
    return preferences;
  },
);
