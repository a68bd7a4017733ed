/** A file as an answer: what it is, what it is called, and that nobody keeps it on its way. */
import { makePdf, type Paper } from './papers/paper';

const TYPES = {
  csv: 'text/csv; charset=utf-8',
  text: 'text/plain; charset=utf-8',
  pdf: 'application/pdf',
  zip: 'application/zip',
} as const;

/** Papers are looked at where they are; the rest is kept. @param bytes where its length is known before it is written */
export function asFile(
  kind: keyof typeof TYPES,
  name: string,
  body: BodyInit,
  bytes?: number,
): Response {
  return new Response(body, {
    headers: {
      'content-type': TYPES[kind],
      'content-disposition': `${kind === 'pdf' ? 'inline' : 'attachment'}; filename="${name}"`,
      'cache-control': 'no-store',
      ...(bytes === undefined ? {} : { 'content-length': String(bytes) }),
    },
  });
}

/** The mark at the start tells spreadsheets that it is UTF-8. */
export const asTable = (name: string, text: string): Response =>
  asFile('csv', name, `\ufeff${text}`);

/** A paper as a PDF, for download. */
export const asPaper = async (name: string, paper: Paper): Promise<Response> =>
  asFile('pdf', name, new Uint8Array(await makePdf(paper, new Date())));
