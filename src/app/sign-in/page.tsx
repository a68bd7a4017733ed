import { SignIn } from '@/ui/shows/SignIn';
import { server } from '../server/context';

export const dynamic = 'force-dynamic';

export default function Page() {
  return <SignIn offersDemo={server().offersDemo} />;
}
