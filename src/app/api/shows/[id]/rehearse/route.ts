import { z } from 'zod';
import { showRoute } from '@/app/server/define-route';
import { askPlayer } from '@/app/server/player';

export const dynamic = 'force-dynamic';

/** Plays a list in fast motion, without output: `?list=<id>`. Whoever may play may ask; one at a time. */
export const POST = showRoute(
  {
    says: 'Plays a list in fast motion, without output.',
    answers: 'cues, played_s, took_ms, met',
    may: 'play',
    query: z.object({ list: z.string().max(120).default('') }),
  },
  ({ id, who, query }) =>
    askPlayer(`/rehearse?list=${encodeURIComponent(query.list)}`, who, id, {}, 60_000),
);
