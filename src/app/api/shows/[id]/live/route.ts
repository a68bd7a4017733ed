import { showRoute } from '@/app/server/define-route';
import { askPlayer } from '@/app/server/player';
import { LiveCommand } from '@/core/live/commands';

export const dynamic = 'force-dynamic';

export const POST = showRoute(
  {
    says: 'A live command.',
    answers: 'ok, message, warning',
    may: 'give live commands',
    body: LiveCommand,
  },
  ({ id, who, body }) => askPlayer('/live', who, id, body),
);
