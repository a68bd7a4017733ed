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
  return <ShowsPage shows={await listShows(db, session.user.id)} you={session.user.name} house={await houseRight(db, session.user.id)} />;
}
