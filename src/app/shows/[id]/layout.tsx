import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { houseRight } from '@/store/rights';
import { roleOf } from '@/store/shows';
import { Frame } from '@/ui/frame/Frame';
import { server } from '../../server/context';

export const dynamic = 'force-dynamic';

export default async function ShowLayout({
  children,
  params,
}: {
  children: React.ReactNode;
  params: Promise<{ id: string }>;
}) {
  const { id } = await params;
  const { auth, db } = server();
  const session = await auth.api.getSession({ headers: await headers() });
  if (!session) redirect('/sign-in');
  const role = await roleOf(db, id, session.user.id);
  if (!role) redirect('/');
  return (
    <Frame
      showId={id}
      volunteer={role === 'volunteer'}
      makes={(await houseRight(db, session.user.id)) !== 'guest'}
    >
      {children}
    </Frame>
  );
}
