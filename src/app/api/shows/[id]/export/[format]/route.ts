import { server } from '@/app/server/context';
import { handle, member, stop } from '@/app/server/handle';
import { makePdf } from '@/app/server/papers/paper';
import { PATCH_PAPERS, patchPaper, type PatchPaper } from '@/app/server/papers/patch-sheet';
import { writePatchCsv } from '@/core/formats/patch-csv';
import { refuse } from '@/core/refusal';
import { showName } from '@/core/show/show';
import { loadShow } from '@/store/shows';

export const dynamic = 'force-dynamic';

/** A file name that every system takes. */
const fileName = (name: string, rest: string): string => `${name.normalize('NFKD').replace(/[^A-Za-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'show'}-${rest}`;

/** `patch.csv`, or `patch.pdf?by=number|universe|position|switches`. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string; format: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id, format } = await params;
    await member(request, id);
    const loaded = await loadShow(server().db, id);
    if (!loaded) stop(refuse('not-found', 'This show does not exist.'));
    const { show } = loaded;
    if (format === 'patch.csv') {
      // The mark at the start tells spreadsheets that it is UTF-8.
      return new Response(`\ufeff${writePatchCsv(show)}`, { headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': `attachment; filename="${fileName(showName(show), 'patch.csv')}"`, 'cache-control': 'no-store' } });
    }
    if (format === 'patch.pdf') {
      const by = new URL(request.url).searchParams.get('by') ?? 'number';
      if (!(PATCH_PAPERS as readonly string[]).includes(by)) stop(refuse('invalid', `A patch sheet is by ${PATCH_PAPERS.join(', ')}.`, { by: 'Unknown.' }));
      const pdf = await makePdf(patchPaper(show, by as PatchPaper), new Date());
      return new Response(new Uint8Array(pdf), { headers: { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${fileName(showName(show), `patch-${by}.pdf`)}"`, 'cache-control': 'no-store' } });
    }
    return refuse('not-found', 'This kind of file is not one that Wingman writes: patch.csv and patch.pdf are.');
  });
