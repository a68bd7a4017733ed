/** The patch as comma-separated values: reading with a mapping of columns and a dry run, and writing. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { wattsOf } from '../rig/power.ts';
import Papa from 'papaparse';
import { z } from 'zod';
import { sayFirst } from '../said-wrong.ts';
import { refuse, type Refusal, type Result } from '../refusal.ts';
import { clashAt, nextFree, occupied } from '../rig/addresses.ts';
import {
  absolute,
  formatPoint,
  formatPoints,
  parsePoints,
  widthAt,
  type Range,
} from '../fixtures/points.ts';
import { channelCount } from '../rig/attributes.ts';
import { libraryTypes } from '../rig/library/index.ts';
import { plain } from '../rig/search.ts';
import { encodingOf } from './xml.ts';
import { columnsOf, harmless, unmarked, type CsvTable } from './csv-table.ts';
import { LIMITS, Name } from '../show/fields.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import type { Show } from '../show/show.ts';

/** How large a table may be before any of it is read. */
export const CSV_LIMITS = { bytes: 4 * 1024 * 1024, rows: 10_000, columns: 64 } as const;

/** What a table of fixtures may have. */
export const PATCH_FIELDS = [
  {
    key: 'number',
    label: 'Number',
    words: [
      ...['number', 'no', 'nr', 'fixture', 'fixturenumber', 'fixtureid', 'id'],
      ...['channel', 'channelnumber', 'chan', 'ch', 'chn', 'unitid'],
    ],
  },
  {
    key: 'label',
    label: 'Label',
    words: ['label', 'name', 'fixturename', 'title', 'purpose', 'description'],
  },
  { key: 'maker', label: 'Maker', words: ['maker', 'manufacturer', 'make', 'brand'] },
  {
    key: 'type',
    label: 'Type',
    words: ['type', 'fixturetype', 'model', 'instrument', 'instrumenttype', 'unittype', 'device'],
  },
  { key: 'mode', label: 'Mode', words: ['mode', 'dmxmode', 'personality'] },
  {
    key: 'address',
    label: 'Address (2.101 or absolute)',
    words: ['address', 'patch', 'dmxaddress', 'dmx', 'absoluteaddress', 'absolute', 'addresses'],
  },
  { key: 'universe', label: 'Universe, when apart', words: ['universe', 'uni', 'dmxuniverse'] },
  { key: 'hang', label: 'Position', words: ['position', 'hangson', 'hang', 'location', 'bar'] },
  { key: 'circuit', label: 'Circuit', words: ['circuit', 'circ', 'circuitname'] },
] as const;
export type PatchField = (typeof PATCH_FIELDS)[number]['key'];
/** Column by field; a field without a column is left out. */
export type Mapping = Partial<Record<PatchField, number>>;

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

/** Columns by what their headers are called. */
export const guessMapping = (header: readonly string[]): Mapping => columnsOf(header, PATCH_FIELDS);

/** A line of a table of fixtures, as text, before it is understood. */
export const ImportRow = z.object({
  line: z.number().int().min(1),
  number: z.string().max(200),
  label: z.string().max(1000).default(''),
  maker: z.string().max(1000).default(''),
  type: z.string().max(1000).default(''),
  mode: z.string().max(1000).default(''),
  address: z.string().max(1000).default(''),
  universe: z.string().max(200).default(''),
  hang: z.string().max(1000).default(''),
  circuit: z.string().max(1000).default(''),
});
export type ImportRow = z.infer<typeof ImportRow>;

/** Rows of a table by what their columns mean. */
export function mapRows(table: CsvTable, mapping: Mapping): ImportRow[] {
  const cell = (cells: readonly string[], key: PatchField): string => {
    const at = mapping[key];
    return at === undefined ? '' : (cells[at] ?? '').trim();
  };
  return table.rows.map(({ line, cells }) => ({
    line,
    number: cell(cells, 'number'),
    label: cell(cells, 'label'),
    maker: cell(cells, 'maker'),
    type: cell(cells, 'type'),
    mode: cell(cells, 'mode'),
    address: cell(cells, 'address'),
    universe: cell(cells, 'universe'),
    hang: cell(cells, 'hang'),
    circuit: cell(cells, 'circuit'),
  }));
}

/** Why a line of a table of fixtures cannot be taken. */
export interface RowProblem {
  line: number;
  field: PatchField;
  message: string;
}

/** A row that can be written. `existing` keeps its programming. */
export interface ReadyRow {
  line: number;
  number: number;
  label: string;
  type: TypeRow;
  mode: Mode;
  patch: PatchPoint[];
  hang: string;
  circuit: string;
  existing: FixtureRow | undefined;
}

/** A spreadsheet runs cells that begin like this; a fixture is never called so on purpose. */
const FORMULA = /^[=@]|^[+-](?!\d+(\.\d+)?$)/;

const addressOf = (row: ImportRow): PatchPoint[] | undefined => {
  if (row.universe !== '' && /^\d+$/.test(row.universe) && /^\d+$/.test(row.address))
    return parsePoints(`${row.universe}.${row.address}`);
  return parsePoints(row.address.replaceAll(';', ',').replaceAll('/', '.').replaceAll(':', '.'));
};

/** Words as they were before a spreadsheet was kept from running them. */
const withoutMarks = (row: ImportRow): ImportRow => ({
  ...row,
  label: unmarked(row.label),
  maker: unmarked(row.maker),
  type: unmarked(row.type),
  mode: unmarked(row.mode),
  hang: unmarked(row.hang),
  circuit: unmarked(row.circuit),
});

/** Types of a show and of the library by what people may call them: the name, or the maker and the name. */
function typesByName(show: Show): ReadonlyMap<string, TypeRow> {
  const types = [...show.types.values(), ...libraryTypes().filter((t) => !show.types.has(t.id))];
  const byName = new Map<string, TypeRow>();
  // Of two of one name, the first counts: that of the show.
  for (const t of types.reverse()) {
    byName.set(plain(t.name), t);
    byName.set(plain(`${t.maker} ${t.name}`), t);
  }
  return byName;
}

/** What is wrong with one row is told to this, as often as there is something. */
type Bad = (field: PatchField, message: string) => void;

function numberIn(row: ImportRow, lines: Map<number, number>, bad: Bad): number {
  const number = /^\d{1,5}$/.test(row.number) ? Number(row.number) : 0;
  if (number < 1) {
    const said = `“${row.number.slice(0, 40)}” is not a fixture number.`;
    bad('number', row.number === '' ? 'The number is missing.' : said);
    return number;
  }
  const twin = lines.get(number);
  if (twin !== undefined) bad('number', `${number} is on line ${twin} already.`);
  else lines.set(number, row.line);
  return number;
}

/** A row without a type is of the type that its number has in the show. */
function typeIn(
  show: Show,
  row: ImportRow,
  existing: FixtureRow | undefined,
  byName: ReadonlyMap<string, TypeRow>,
  bad: Bad,
): TypeRow | undefined {
  if (row.type === '') {
    const type = show.types.get(existing?.typeId ?? '');
    if (!type) bad('type', 'The type is missing.');
    return type;
  }
  const called = `${row.maker} ${row.type}`;
  const type =
    byName.get(plain(called)) ?? (row.maker === '' ? byName.get(plain(row.type)) : undefined);
  if (!type) bad('type', `There is no type “${called.trim().slice(0, 60)}”.`);
  return type;
}

/** By its name, or by how many channels it has; where the row has none, the one that the fixture is in, or the first. */
function modeIn(
  row: ImportRow,
  existing: FixtureRow | undefined,
  type: TypeRow,
  bad: Bad,
): Mode | undefined {
  const wanted =
    row.mode === '' && existing && type.id === existing.typeId ? existing.mode : row.mode;
  const mode =
    type.modes.find((m) => plain(m.name) === plain(wanted)) ??
    type.modes.find((m) => String(channelCount(m)) === wanted.replace(/\D/g, '')) ??
    (wanted === '' ? type.modes[0] : undefined);
  if (!mode)
    bad(
      'mode',
      `${type.name} has no mode “${wanted.slice(0, 40)}”; it has ${type.modes.map((m) => m.name).join(', ')}.`,
    );
  return mode;
}

/** A table does not change what a fixture is: its programming would be lost. */
function checkSwap(
  show: Show,
  existing: FixtureRow,
  type: TypeRow,
  mode: Mode | undefined,
  bad: Bad,
): void {
  const { number } = existing;
  if (existing.typeId !== type.id)
    bad(
      'type',
      `${number} is a ${show.types.get(existing.typeId)?.name ?? 'other type'} in the show. Swap its type there, so that its programming is converted.`,
    );
  else if (mode && existing.mode !== mode.name)
    bad(
      'mode',
      `${number} is in mode “${existing.mode}” in the show. Swap it there, so that its programming is converted.`,
    );
}

function checkLengths(row: ImportRow, bad: Bad): void {
  if (row.hang.length > LIMITS.nameLength)
    bad('hang', `A position has at most ${LIMITS.nameLength} characters.`);
  if (row.circuit.length > LIMITS.nameLength)
    bad('circuit', `A circuit’s name has at most ${LIMITS.nameLength} characters.`);
}

/** One row, looked at whole; undefined where anything of it cannot be taken. */
function readyRow(
  show: Show,
  read: ImportRow,
  byName: ReadonlyMap<string, TypeRow>,
  lines: Map<number, number>,
  problems: RowProblem[],
): ReadyRow | undefined {
  const before = problems.length;
  const bad: Bad = (field, message) => void problems.push({ line: read.line, field, message });
  for (const { key } of PATCH_FIELDS)
    if (FORMULA.test(read[key]))
      bad(key, `“${read[key].slice(0, 40)}” begins like a formula. Write it as plain text.`);
  if (problems.length > before) return undefined;

  const row = withoutMarks(read);
  const number = numberIn(row, lines, bad);
  const existing = show.fixtureByNumber(number);
  const type = typeIn(show, row, existing, byName, bad);
  const mode = type && modeIn(row, existing, type, bad);
  if (existing && type) checkSwap(show, existing, type, mode, bad);
  const patch = addressOf(row);
  if (patch === undefined)
    bad(
      'address',
      `“${`${row.universe} ${row.address}`.trim().slice(0, 40)}” is no address; they look like 2.101, or 1 to 131072.`,
    );
  const named = Name.safeParse(
    row.label === '' ? (existing?.label ?? type?.name ?? '') : row.label,
  );
  if (row.label !== '' && !named.success) bad('label', sayFirst(named.error));
  checkLengths(row, bad);
  if (problems.length > before || !type || !mode || !patch) return undefined;
  return {
    line: row.line,
    number,
    label: named.data ?? type.name,
    type,
    mode,
    patch,
    hang: row.hang || (existing?.hang ?? ''),
    circuit: row.circuit,
    existing,
  };
}

/** Every row looked at, with every problem of it; nothing is written. */
export function checkImport(
  show: Show,
  rows: readonly ImportRow[],
): { ready: ReadyRow[]; problems: RowProblem[] } {
  const problems: RowProblem[] = [];
  const byName = typesByName(show);
  const lines = new Map<number, number>();
  const ready = rows.flatMap((row) => readyRow(show, row, byName, lines, problems) ?? []);
  problems.push(...checkAddresses(show, ready));
  return { ready, problems: problems.sort((a, b) => a.line - b.line) };
}

function checkAddresses(show: Show, ready: readonly ReadyRow[]): RowProblem[] {
  const problems: RowProblem[] = [];
  const moving = new Set(ready.flatMap((r) => (r.existing ? [r.existing.id] : [])));
  const standing = occupied(show, moving);
  const own: (Range & { line: number })[] = [];
  const all = ready
    .flatMap((r) =>
      r.patch.map((point) => ({
        r,
        point,
        from: absolute(point),
        to: absolute(point) + widthAt(r.mode, point) - 1,
      })),
    )
    .sort((a, b) => a.from - b.from);
  for (const { r, point, from, to } of all) {
    if (point.address + (to - from) > UNIVERSE_SLOTS) {
      problems.push({
        line: r.line,
        field: 'address',
        message: `${r.number} has ${to - from + 1} channels; at ${formatPoint(point)} it would end at ${point.address + to - from}, past 512.`,
      });
      continue;
    }
    const hit = clashAt(standing, from, to);
    if (hit) {
      const free = nextFree(show, to - from + 1);
      problems.push({
        line: r.line,
        field: 'address',
        message: `${r.number} at ${formatPoint(point)} would sit on ${hit.fixture.number} (${hit.fixture.label}) of the show.${free ? ` ${formatPoint(free)} is free.` : ''}`,
      });
    }
    const before = own.at(-1);
    if (before && before.to >= from)
      problems.push({
        line: r.line,
        field: 'address',
        message: `${r.number} at ${formatPoint(point)} would sit on line ${before.line}.`,
      });
    own.push({ from, to, line: r.line });
  }
  return problems;
}

/** Universe and address apart, so that a spreadsheet does not make 1.1 of 1.10; several addresses are words to it. */
function addressCells(points: readonly PatchPoint[]): [string, string] {
  const [only, ...more] = points;
  return only && more.length === 0
    ? [String(only.universe), String(only.address)]
    : ['', formatPoints(points)];
}

/** The patch as a file: a header and a row per fixture, in the order of their numbers. */
export function writePatchCsv(show: Show): string {
  const rows = [...show.fixtures.values()]
    .sort((a, b) => a.number - b.number)
    .map((f) => {
      const type = show.types.get(f.typeId);
      const mode = type?.modes.find((m) => m.name === f.mode);
      const circuit = f.circuitId ? (show.circuits.get(f.circuitId)?.name ?? '') : '';
      return [
        f.number,
        harmless(f.label),
        harmless(type?.maker ?? ''),
        harmless(type?.name ?? ''),
        harmless(f.mode),
        mode ? channelCount(mode) : '',
        ...addressCells(f.patch),
        harmless(f.hang),
        harmless(circuit),
        type || f.watts !== undefined ? wattsOf(show, f) : '',
      ];
    });
  return (
    Papa.unparse(
      {
        fields: [
          'Number',
          'Label',
          'Maker',
          'Type',
          'Mode',
          'Channels',
          'Universe',
          'Address',
          'Position',
          'Circuit',
          'Watts',
        ],
        data: rows,
      },
      { newline: '\r\n' },
    ) + '\r\n'
  );
}
