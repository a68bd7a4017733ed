import { server } from '@/app/server/context';
import { handle, member } from '@/app/server/handle';

export const dynamic = 'force-dynamic';

/** The control pages of the one who asks, with the names that stand on them: all that a volunteer gets of a show. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'see my pages');
    const copy = await server().store.open(id);
    if (!copy) throw new Error('a member’s show has no row');
    const { show } = copy;
    const pages = [...show.pages.values()].filter((p) => who.role !== 'volunteer' || who.pages.includes(p.id)).sort((a, b) => a.number - b.number);
    return {
      show: { name: show.settings.get('show')?.name ?? '', venue: show.settings.get('show')?.venue ?? '' },
      you: { name: who.name, role: who.role },
      pages: pages.map((p) => ({ id: p.id, name: p.name, buttons: p.buttons.map((b) => ({ label: b.label, act: b.act })), faders: p.faders.flatMap((f) => { const fader = show.faders.get(f); return fader ? [{ id: f, number: fader.number, name: fader.name }] : []; }) })),
    };
  });
