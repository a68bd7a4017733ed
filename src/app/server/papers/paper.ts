/** Paper: a document definition made into a PDF with our own fonts, black on white, for a wall. */
import path from 'node:path';
import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

const font = (family: string, weight: number): string =>
  path.join(
    process.cwd(),
    'node_modules',
    '@fontsource',
    family,
    'files',
    `${family}-latin-${weight}-normal.woff`,
  );
const FONTS = {
  Sans: {
    normal: font('instrument-sans', 400),
    bold: font('instrument-sans', 600),
    italics: font('instrument-sans', 400),
    bolditalics: font('instrument-sans', 600),
  },
  Mono: {
    normal: font('jetbrains-mono', 400),
    bold: font('jetbrains-mono', 500),
    italics: font('jetbrains-mono', 400),
    bolditalics: font('jetbrains-mono', 500),
  },
};
const FILES = new Set(Object.values(FONTS).flatMap((f) => Object.values(f)));

/** Letters that the shipped fonts do not have on paper become their nearest, never a box. */
export const printable = (text: string): string =>
  text.replace(
    /[^\u0020-\u007e\u00a0-\u00ff\u0152\u0153\u2013\u2014\u2018-\u201e\u2022\u2026\u20ac\u2212]/gu,
    (c) => c.normalize('NFKD').replace(/[^\u0020-\u007e]/gu, '') || '?',
  );

/** Something to be printed. */
export interface Paper {
  title: string;
  show: string;
  venue: string;
  /** How it was sorted, what it holds, in a line. */
  about: string;
  content: Content[];
  landscape?: boolean;
}

/** Nodes of a table's head and first rows. */
const LEFT_WITH_HEADING = 24;

let ready = false;

/** @returns the PDF's bytes */
export async function makePdf(paper: Paper, printed: Date): Promise<Buffer> {
  if (!ready) {
    pdfmake.setFonts(FONTS);
    // Nothing is fetched for paper, and no file is read but the fonts.
    pdfmake.setUrlAccessPolicy(() => false);
    pdfmake.setLocalAccessPolicy((file) => FILES.has(file));
    ready = true;
  }
  const when = printed.toISOString().slice(0, 16).replace('T', ' ');
  const document: TDocumentDefinitions = {
    info: { title: printable(`${paper.show}: ${paper.title}`) },
    pageSize: 'A4',
    pageOrientation: paper.landscape ? 'landscape' : 'portrait',
    pageMargins: [36, 64, 36, 40],
    defaultStyle: { font: 'Sans', fontSize: 9, lineHeight: 1.15 },
    header: {
      margin: [36, 22, 36, 0],
      columns: [
        {
          stack: [
            { text: printable(paper.title), fontSize: 15, bold: true },
            { text: printable(paper.about), color: '#555' },
          ],
        },
        {
          stack: [
            { text: printable(paper.show), alignment: 'right', fontSize: 11, bold: true },
            { text: printable(paper.venue), alignment: 'right', color: '#555' },
          ],
        },
      ],
    },
    footer: (page: number, pages: number) => ({
      margin: [36, 10, 36, 0],
      columns: [
        { text: `Printed ${when} UTC`, color: '#777', fontSize: 8 },
        { text: `${page} / ${pages}`, alignment: 'right', fontSize: 9 },
      ],
    }),
    // A heading is not left alone at the foot of a page.
    pageBreakBefore: (node, query) =>
      node.headlineLevel === 1 && query.getFollowingNodesOnPage().length < LEFT_WITH_HEADING,
    content: paper.content,
  };
  return pdfmake.createPdf(document).getBuffer();
}

/** Numbers and addresses. */
export const mono = (text: string, more: Record<string, unknown> = {}): Content => ({
  text: printable(text),
  font: 'Mono',
  fontSize: 8.5,
  ...more,
});
/** Words as they are printed. */
export const plainText = (text: string, more: Record<string, unknown> = {}): Content => ({
  text: printable(text),
  ...more,
});

/** Hairlines between rows, a stronger one under the head. */
export const RULED = {
  hLineWidth: (i: number) => (i === 1 ? 1 : 0.4),
  vLineWidth: () => 0,
  hLineColor: (i: number) => (i === 1 ? '#000' : '#bbb'),
  paddingTop: () => 2.5,
  paddingBottom: () => 2,
  paddingLeft: () => 3,
  paddingRight: () => 3,
};
