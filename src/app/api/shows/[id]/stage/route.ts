import { showRoute } from '@/app/server/define-route';
import { askPlayer } from '@/app/server/player';

export const dynamic = 'force-dynamic';

export const GET = showRoute(
  {
    says: 'What is on stage now, and where it comes from.',
    answers: 'fixtures, universes, lists, master …',
    may: 'see the stage',
  },
  ({ id, who }) => askPlayer('/stage', who, id),
);
