/** What a file is, by what is in it, and by its name where that says more. */
import { readZip } from '../formats/unzip.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { plain } from '../rig/search.ts';
import type { ImportFile, Kind } from './proposed.ts';
import { tableKind } from './csv.ts';

/** A kind, and how a script is written. */
export interface Recognised {
  kind: Kind;
  written?: 'text' | 'docx' | 'pdf';
}

const NAMES_READ = 5000;
const has = (names: readonly string[], name: string): boolean =>
  names.some((n) => n.toLowerCase() === name);

function zipKind({ bytes, name }: ImportFile): Result<Recognised | undefined> {
  const zip = readZip(bytes, () => false, { entries: NAMES_READ, one: 0, all: 0 });
  if (isRefusal(zip))
    return refuse(
      zip.code,
      `“${name}” cannot be opened. ${zip.message} Get it again from where it came. Nothing was changed.`,
    );
  const { names } = zip;
  if (has(names, 'description.xml')) return { kind: 'gdtf' };
  if (has(names, 'generalscenedescription.xml')) return { kind: 'mvr' };
  if (has(names, 'word/document.xml')) return { kind: 'script', written: 'docx' };
  return has(names, 'manifest.json') ? { kind: 'show' } : undefined;
}

/** Keywords that begin lines of ASCII cues and of nothing else that people write. */
const ASCII = /^\s*(ident\s+3|(clear|patch|cue|chan|enddata|\$?manufacturer|console)\b)/im;
const isAscii = (text: string): boolean =>
  /^\s*ident\s+3[:.]/im.test(text) ||
  (ASCII.test(text) && /^\s*chan(nel)?\s+\d+\s*[@/]/im.test(text));

const startsWith = (bytes: Uint8Array, words: string): boolean =>
  [...words].every((letter, i) => bytes[i] === letter.charCodeAt(0));

const HEAD_BYTES = 64 * 1024;

/** @returns undefined for what Wingman does not read; a refusal for an archive that cannot be opened */
export function recognise(file: ImportFile): Result<Recognised | undefined> {
  const { bytes, name } = file;
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return zipKind(file);
  if (startsWith(bytes, '%PDF-')) return { kind: 'script', written: 'pdf' };
  const head = new TextDecoder().decode(bytes.subarray(0, HEAD_BYTES));
  if (isAscii(head)) return { kind: 'ascii' };
  const extension = plain(/\.([^.]+)$/.exec(name)?.[1] ?? '');
  const table = tableKind(bytes);
  if (table && ['csv', 'tsv', 'txt', ''].includes(extension)) return { kind: table };
  if (['txt', 'md', 'markdown', 'fountain', 'order'].includes(extension))
    return { kind: 'script', written: 'text' };
  return undefined;
}
