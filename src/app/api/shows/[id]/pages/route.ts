import { z } from 'zod';
import { formatCueNumber } from '@/core/cues/number';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';

export const dynamic = 'force-dynamic';

/** The control pages of the one who asks, with the names that stand on them: all that a volunteer gets of a show. */
export const GET = showRoute(
  {
    says: 'Your control pages, with the lists that they play, and of their cues the ones asked for.',
    answers: 'pages, lists, cues',
    may: 'see my pages',
    query: z.object({ cues: z.string().default('') }),
  },
  async ({ id, who, query }) => {
    const copy = await server().store.open(id);
    if (!copy) throw new Error('a member’s show has no row');
    const { show } = copy;
    const pages = [...show.pages.values()]
      .filter((p) => who.role !== 'volunteer' || who.pages.includes(p.id))
      .sort((a, b) => a.number - b.number);
    // Of the lists that are played from these pages: the cues that are asked for, by number and name.
    const played = (p: (typeof pages)[number]): string[] =>
      [
        ...new Set(
          p.buttons.flatMap(({ act }) =>
            act.do === 'go' || act.do === 'release'
              ? [act.list]
              : act.do === 'cue'
                ? [show.cues.get(act.cue)?.listId ?? '']
                : [],
          ),
        ),
      ].filter((l) => show.lists.has(l));
    const lists = new Set(pages.flatMap(played));
    const wanted = query.cues.split(',').slice(0, 64);
    const cues = wanted.flatMap((c) => {
      const cue = show.cues.get(c);
      return cue && lists.has(cue.listId)
        ? [{ id: cue.id, number: formatCueNumber(cue.number), name: cue.name }]
        : [];
    });
    return {
      cues,
      lists: [...lists].flatMap((l) => {
        const list = show.lists.get(l);
        return list ? [{ id: l, name: list.name }] : [];
      }),
      show: {
        name: show.settings.get('show')?.name ?? '',
        venue: show.settings.get('show')?.venue ?? '',
      },
      you: { name: who.name, role: who.role },
      pages: pages.map((p) => ({
        id: p.id,
        name: p.name,
        lists: played(p),
        buttons: p.buttons.map((b) => ({ label: b.label, act: b.act })),
        faders: p.faders.flatMap((f) => {
          const fader = show.faders.get(f);
          return fader ? [{ id: f, number: fader.number, name: fader.name }] : [];
        }),
      })),
    };
  },
);
