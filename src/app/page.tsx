import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { houseRight } from '@/store/rights';
import { listShows } from '@/store/shows';
import { ShowsPage } from '@/ui/shows/ShowsPage';
import { server } from './server/context';

export const dynamic = 'force-dynamic';

export default async function Page() {
  const { auth, db } = server();
  const session = await auth.api.getSession({ headers: await headers() });
  if (!session) redirect('/sign-in');
  const [shows, house] = [
    await listShows(db, session.user.id),
    await houseRight(db, session.user.id),
  ];
  // Whoever has one show's page and nothing else is there at once, with nothing to press before.
  const open = shows.filter((s) => s.archivedAt === null && s.deletedAt === null);
  const [only] = open;
  if (house === 'guest' && open.length === 1 && only?.role === 'volunteer')
    redirect(`/shows/${only.id}/page`);
  return <ShowsPage shows={shows} you={session.user.name} house={house} />;
}
