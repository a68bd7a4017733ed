import { headers } from 'next/headers';
import { isRefusal } from '@/core/refusal';
import { readInvitation } from '@/store/invitations';
import { InvitationPage } from '@/ui/shows/InvitationPage';
import { server } from '../../server/context';

export const dynamic = 'force-dynamic';

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { auth, db } = server();
  const session = await auth.api.getSession({ headers: await headers() });
  const found = await readInvitation(db, token);
  return (
    <InvitationPage
      token={token}
      you={session?.user.name ?? null}
      offer={isRefusal(found) ? null : found}
      problem={isRefusal(found) ? found.message : null}
    />
  );
}
