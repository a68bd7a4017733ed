/** The words of documents that are no plain text, for scripts. Read in the process for files alone, which has a limit of memory and time. */
import { refuse, type Result } from '../core/refusal.ts';

const MOST_PAGES = 2000;

async function fromDocx(bytes: Uint8Array): Promise<string> {
  const { default: mammoth } = await import('mammoth');
  const { value } = await mammoth.extractRawText({ buffer: Buffer.from(bytes) });
  // A paragraph ends with two line ends there; empty ones keep theirs.
  return value.replaceAll('\n\n', '\n');
}

/** Lines as they stand on the pages; a form feed begins each page but the first. */
async function fromPdf(bytes: Uint8Array): Promise<string> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = getDocument({
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    verbosity: 0,
  });
  const document = await task.promise;
  const pages: string[] = [];
  for (let n = 1; n <= Math.min(document.numPages, MOST_PAGES); n++) {
    const { items } = await (await document.getPage(n)).getTextContent();
    const words = items.map((i) => ('str' in i ? `${i.str}${i.hasEOL ? '\n' : ''}` : ''));
    pages.push(words.join('').trimEnd());
  }
  await task.destroy();
  return pages.join('\n\f\n');
}

/** @returns why its words cannot be had, in a sentence */
export async function wordsOf(
  name: string,
  bytes: Uint8Array,
  written: 'docx' | 'pdf',
): Promise<Result<string>> {
  try {
    const text = await (written === 'docx' ? fromDocx(bytes) : fromPdf(bytes));
    return text.trim() === ''
      ? refuse(
          'empty',
          `There are no words in “${name}”: it may be pictures of pages. Nothing was changed.`,
        )
      : text;
  } catch {
    return refuse(
      'invalid',
      `“${name}” cannot be read as a document: it is broken, or locked. Nothing was changed.`,
    );
  }
}
