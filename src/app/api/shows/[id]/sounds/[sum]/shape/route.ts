import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { stop } from '@/app/server/handle';
import { refuse } from '@/core/refusal';
import { ZOOMS } from '@/core/sounds/shape';
import { shapeOfShow } from '@/store/sounds/kept';

export const dynamic = 'force-dynamic';

const Query = z.object({
  zoom: z.coerce
    .number()
    .int()
    .min(0)
    .max(ZOOMS - 1)
    .default(0),
});

/** What a sound looks like, as it was measured: four bytes a step (core/sounds/shape.ts). */
export const GET = showRoute<undefined, z.infer<typeof Query>, { id: string; sum: string }>(
  {
    says: 'The shape of a sound: lowest, highest, loudness and beginnings for each step of 10 ms, or of four times as long for each `zoom`.',
    answers: 'bytes',
    may: 'see the show',
    query: Query,
  },
  async ({ id, params: { sum }, query: { zoom } }) => {
    const data =
      (await shapeOfShow(server().db, id, sum, zoom)) ??
      stop(refuse('not-found', 'This show has no such sound.'));
    return new Response(new Uint8Array(data), {
      headers: {
        'content-type': 'application/octet-stream',
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  },
);
