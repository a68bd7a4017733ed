import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { isRefusal, refuse } from '@/core/refusal';
import { compareShows } from '@/core/show/compare';
import type { PaletteRow } from '@/core/palettes/rows';

export const dynamic = 'force-dynamic';

const Query = z.object({
  from: z.coerce.number().int().min(0),
  to: z.coerce.number().int().min(0).optional(),
});

/** Two states of the show by their numbers in the log; without `to`, with the show as it is now. */
export const GET = showRoute(
  {
    says: 'Differences between two states of the show, in words.',
    answers: 'items',
    may: 'see the show',
    query: Query,
  },
  async ({ id, query: asked }) => {
    const { store } = server();
    const now = await store.open(id);
    if (!now) return refuse('not-found', 'This show does not exist.');
    const from = await store.at(id, asked.from);
    const to = asked.to === undefined ? now.show : await store.at(id, asked.to);
    if (isRefusal(from)) return from;
    if (isRefusal(to)) return to;
    const items = compareShows(from, to);
    // Swatches need the palettes as they were on either side.
    const ids = [...new Set(items.flatMap((i) => i.paletteId ?? []))];
    const both = (show: typeof from): PaletteRow[] =>
      ids.flatMap((p) => show.palettes.get(p) ?? []);
    return { items, palettes: { from: both(from), to: both(to) } };
  },
);
