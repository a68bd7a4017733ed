import { server } from '@/app/server/context';
import { body, handle, person } from '@/app/server/handle';
import { Preferences, readPreferences, writePreferences } from '@/store/preferences';

export const dynamic = 'force-dynamic';

export const GET = (request: Request): Promise<Response> =>
  handle(request, async () =>
    readPreferences(server().db, (await person(request, 'change my settings')).userId),
  );

export const PUT = (request: Request): Promise<Response> =>
  handle(request, async () => {
    const who = await person(request, 'change my settings');
    const preferences = await body(request, Preferences);
    await writePreferences(server().db, who.userId, preferences);
    return preferences;
  });
