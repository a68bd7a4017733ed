import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { DeskPage } from '@/ui/hands/DeskPage';
import { server } from '../server/context';

export const dynamic = 'force-dynamic';

export default async function Page() {
  if (!(await server().auth.api.getSession({ headers: await headers() }))) redirect('/sign-in');
  return <DeskPage />;
}
