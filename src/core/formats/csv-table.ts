/** Tables of comma-separated values with named columns: found by what people call them, read cell by cell, written so that a spreadsheet changes nothing. */
import Papa from 'papaparse';
import { refuse, type Refusal, type Result } from '../refusal.ts';
import { plain } from '../rig/search.ts';
import { encodingOf } from './xml.ts';

/** A table as text, its first line the names of its columns. */
export interface CsvTable {
  header: string[];
  /** Cells with the line of the file that they stand on. */
  rows: { line: number; cells: string[] }[];
}

/** A field that a column may be, and what its column may be called. */
export interface CsvField {
  key: string;
  label: string;
  /** What people call it, plain: lower case, without spaces and marks. */
  words: readonly string[];
}

/** The column of each field, from 0; a field without one is not read. */
export type CsvMapping = Record<string, number>;

/** Columns by what their headers are called. */
export function columnsOf(header: readonly string[], fields: readonly CsvField[]): CsvMapping {
  const mapping: CsvMapping = {};
  for (const { key, words, label } of fields) {
    const at = header.findIndex(
      (h, i) =>
        (words.includes(plain(h)) || plain(label) === plain(h)) &&
        !Object.values(mapping).includes(i),
    );
    if (at >= 0) mapping[key] = at;
  }
  return mapping;
}

/** Rows as cells by field; the mark that keeps a spreadsheet from running a cell is taken off again. */
export const rowsOf = (
  table: CsvTable,
  mapping: CsvMapping,
): { line: number; cell: (key: string) => string }[] =>
  table.rows.map(({ line, cells }) => ({
    line,
    cell: (key) => {
      const at = mapping[key];
      const text = at === undefined ? '' : (cells[at] ?? '').trim();
      return unmarked(text);
    },
  }));

/** A spreadsheet takes a cell that begins like a formula for one: it gets an apostrophe, as does one that begins so already. */
export const harmless = (cell: string): string => (/^'*[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell);

/** The other way round. */
export const unmarked = (cell: string): string => (/^'+[=+\-@]/.test(cell) ? cell.slice(1) : cell);

/** A table as CSV (RFC 4180), cells that a spreadsheet would run made harmless. */
export const writeCsv = (
  fields: readonly CsvField[],
  rows: readonly (readonly string[])[],
): string =>
  `${Papa.unparse({ fields: fields.map((f) => f.label), data: rows.map((r) => r.map(harmless)) }, { newline: '\r\n' })}\r\n`;

/** `101 thru 106, 201`, `101-106;201`, `101–106 201`: numbers in their order; undefined for what is none. */
export function readNumbers(text: string): number[] | undefined {
  const words = text
    .replaceAll(/\s*(?:–|—|-|\bthru\b|\bto\b)\s*/gi, '-')
    .split(/[\s,;+]+/)
    .filter((w) => w !== '');
  const numbers: number[] = [];
  for (const word of words) {
    const run = /^(\d{1,6})(?:-(\d{1,6}))?$/.exec(word);
    if (!run) return undefined;
    const [from, to] = [Number(run[1]), Number(run[2] ?? run[1])];
    if (Math.abs(to - from) > 20_000) return undefined;
    const way = to < from ? -1 : 1;
    for (let n = from; n !== to + way; n += way) numbers.push(n);
  }
  return numbers;
}

/** The other way round, all of them: `101-106 201`. */
export function writeNumbers(numbers: readonly number[]): string {
  const parts: string[] = [];
  for (let i = 0; i < numbers.length;) {
    let j = i;
    while (numbers[j + 1] === (numbers[j] ?? 0) + 1) j++;
    parts.push(i === j ? `${numbers[i]}` : `${numbers[i]}-${numbers[j]}`);
    i = j + 1;
  }
  return parts.join(' ');
}

/** How large a table may be before any of it is read. */
export const CSV_LIMITS = { bytes: 4 * 1024 * 1024, rows: 10_000, columns: 64 } as const;

/** Bytes as text: UTF-8, or UTF-16 when it says so itself. */
function decode(bytes: Uint8Array): string | Refusal {
  try {
    const text = new TextDecoder(encodingOf(bytes), { fatal: true }).decode(bytes);
    if (text.includes('\u0000'))
      return refuse('encoding', 'This file holds binary data, not text. Save it as CSV in UTF-8.');
    return text.replace(/^\ufeff/, '');
  } catch {
    return refuse(
      'encoding',
      'This file is not in UTF-8, so its letters cannot be told for sure. Save it as “CSV UTF-8” and try again.',
    );
  }
}

/** The separator that the header is written with: it names columns, so it holds no other one by chance. */
function separatorOf(text: string): string {
  const header = (text.split(/\r?\n/, 1)[0] ?? '').replaceAll(/"[^"]*"/g, '');
  const count = (s: string): number => header.split(s).length;
  return [',', ';', '\t'].reduce((best, s) => (count(s) > count(best) ? s : best));
}

/** Reads a file with a header row. Separators (comma, semicolon, tab) are found by looking. */
export function readCsv(bytes: Uint8Array): Result<CsvTable> {
  if (bytes.length > CSV_LIMITS.bytes)
    return refuse('too-large', `A table has at most ${CSV_LIMITS.bytes / 1024 / 1024} MB.`);
  const text = decode(bytes);
  if (typeof text !== 'string') return text;
  const parsed = Papa.parse<string[]>(text, {
    skipEmptyLines: false,
    delimiter: separatorOf(text),
    preview: CSV_LIMITS.rows + 2,
  });
  const broken = parsed.errors.find((e) => e.type === 'Quotes');
  if (broken)
    return refuse(
      'invalid',
      `Line ${(broken.row ?? 0) + 1}: a quotation mark is opened and not closed.`,
    );
  const [header, ...body] = parsed.data;
  if (!header || header.every((h) => h.trim() === ''))
    return refuse('invalid', 'This file is empty: its first line names the columns.');
  if (header.length > CSV_LIMITS.columns)
    return refuse(
      'invalid',
      `A table has at most ${CSV_LIMITS.columns} columns; this has ${header.length}.`,
    );
  const rows = body
    .map((cells, i) => ({ line: i + 2, cells }))
    .filter((r) => r.cells.some((c) => c.trim() !== ''));
  if (rows.length > CSV_LIMITS.rows)
    return refuse(
      'too-large',
      `A table has at most ${CSV_LIMITS.rows.toLocaleString('en')} rows; this has more. Nothing was read.`,
    );
  if (rows.length === 0) return refuse('invalid', 'This file has a header and no rows.');
  return { header: header.map((h) => h.trim()), rows };
}
