import { z } from 'zod';
import { sheetsOf } from '@/core/sheets/given';
import { playedFrom } from '@/core/sheets/pieces';
import { rowsShown } from '@/core/sheets/shown';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';

export const dynamic = 'force-dynamic';

/** Cues that one may ask for at once. */
const MOST_CUES = 64;

/** The sheets of the one who asks, with the names that stand on them: all that a volunteer gets of a show. */
export const GET = showRoute(
  {
    says: 'Your sheets as rows, with the names of what they point at, the lists that they play, and of their cues the ones asked for.',
    answers: 'show, you, sheets, rows',
    may: 'see my sheets',
    query: z.object({ cues: z.string().default('') }),
  },
  async ({ id, who, query }) => {
    const copy = await server().store.open(id);
    if (!copy) throw new Error('a member’s show has no row');
    const { show } = copy;
    const sheets = sheetsOf(show, who).map((s) => s.id);
    const { lists } = playedFrom(show, sheets);
    const settings = show.settings.get('show');
    return {
      show: { name: settings?.name ?? '', venue: settings?.venue ?? '' },
      you: { name: who.name, role: who.role },
      sheets,
      rows: rowsShown(show, sheets, lists, query.cues.split(',').slice(0, MOST_CUES)),
    };
  },
);
