import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { mayNotHere } from '@/core/rights';
import { listAccounts, standingOf } from '@/store/rights';
import { HousePage } from '@/ui/shows/HousePage';
import { server } from '../server/context';

export const dynamic = 'force-dynamic';

export default async function Page() {
  const { auth, db } = server();
  const session = await auth.api.getSession({ headers: await headers() });
  if (!session) redirect('/sign-in');
  const who = await standingOf(db, session.session.id, null);
  if (!who || mayNotHere(who, 'run the house')) redirect('/');
  return <HousePage you={who.userId} accounts={await listAccounts(db)} />;
}
