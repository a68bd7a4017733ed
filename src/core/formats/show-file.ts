/**
 * The show file, `.wingman`: a ZIP of JSON that a person can read (docs/show-file.md). Reading trusts nothing: names,
 * sizes, checksums, and every row are checked before any of it is believed.
 */
import { changeOf } from '../show/fields-of.ts';
import {
  strFromU8,
  strToU8,
  Unzip,
  UnzipInflate,
  UnzipPassThrough,
  type UnzipFile,
  zipSync,
  type Zippable,
} from 'fflate';
import { z } from 'zod';
import { sayFirst } from '../said-wrong.ts';
import { SOUND_BYTES, SoundFile, type SoundRow } from '../sounds/rows.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { fromBase64, toBase64 } from './base64.ts';
import { sheetOfPage, withoutPages, type LoggedRow } from '../sheets/from-pages.ts';
import { danglingIn } from '../show/references.ts';
import { TABLE_NAMES, TABLES, tablesThat, type AnyRow, type TableName } from '../show/tables.ts';
import { MutableShow, type RowChange } from '../show/show.ts';
import { oddTextIn } from '../text.ts';
import type { Change } from '../show/undo.ts';

/** Raised by a table that comes with it (`since`), and whenever rows say what an earlier Wingman would lose or not understand. */
export const SCHEMA = 8;
/** Before it, what sheets are now were control pages. */
const SHEETS_SINCE = 4;
/** Bytes of the largest show file. */
export const FILE_LIMIT = 64 * 1024 * 1024;
/** With its sounds: what a ZIP without extensions can hold (APPNOTE 4.4.8), and room for what is no sound. */
export const SHOW_FILE_LIMIT = 4 * 1024 * 1024 * 1024 - 64 * 1024 * 1024;
const UNPACKED_LIMIT = 320 * 1024 * 1024;
/** Of JSON, before any of it is read: a row is an object with some values, in the log one in another. */
const JSON_LIMITS = { elements: 1_000_000, values: 24_000_000, depth: 24, row: 500_000 } as const;
const ENTRIES_LIMIT = 4096;
const ROWS_LIMIT = 1_000_000;
const CHUNK = 64 * 1024;
/** Rows repeat themselves so much that more effort makes a file hardly smaller. */
const PACKED = 3;
/** A server that reads or writes a large show answers others in between. */
const ROWS_AT_ONCE = 16_000;
const breathe = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
const ENTRY =
  /^(?:manifest\.json|changes\.json|tables\/[a-z]{2,20}\.json|assets\/[A-Za-z0-9_-]{1,140}\.(?:png|jpeg|webp|wav|x-wav|mpeg|ogg|webm|mp4)|sounds\/[0-9a-f]{64}\.(?:wav|mp3|ogg|flac|m4a))$/;
const SOUND_ENTRY = /^sounds\/([0-9a-f]{64})\.([a-z0-9]+)$/;

const Manifest = z.object({
  format: z.literal('wingman-show'),
  schema: z.number().int().min(1),
  /** ISO 8601, UTC. */
  made: z.string().max(40),
  by: z.string().max(200),
  show: z.object({
    id: z.string().min(1).max(120),
    name: z.string().max(200),
    venue: z.string().max(200),
  }),
  /** Number of the last change that is in it. */
  seq: z.number().int().min(0),
  /** What it was copied from, and that show's last change then. */
  origin: z.object({ id: z.string().min(1).max(120), seq: z.number().int().min(0) }).nullable(),
  counts: z.record(z.string(), z.number()),
  /** SHA-256 of each entry, in hexadecimal. */
  checksums: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/)),
  /** Files of sounds, known by their own sums: beside the entries above, or, of a back-up, in its folder. */
  sounds: z
    .array(SoundFile.pick({ sha256: true, kind: true, bytes: true }))
    .max(200)
    .default([]),
});
export type Manifest = z.infer<typeof Manifest>;

const LoggedChange = z.object({
  seq: z.number().int().min(1),
  editId: z.string().max(120),
  userId: z.string().max(120),
  userName: z.string().max(200),
  at: z.string().max(40),
  edit: z.string().max(60),
  summary: z.string().max(4000),
  reverts: z.number().int().nullable(),
  rows: z.array(
    z.object({
      table: z.enum(TABLE_NAMES as [TableName, ...TableName[]]),
      id: z.string().max(400),
      before: z.record(z.string(), z.unknown()).nullable(),
      after: z.record(z.string(), z.unknown()).nullable(),
    }),
  ),
});

/** A show file that was read and is whole. */
export interface ShowFile {
  manifest: Manifest;
  show: MutableShow;
  /** Everything since the show was made or copied, oldest first. */
  changes: Change[];
}

async function sha256(bytes: Uint8Array): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>);
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Files of sounds that rows speak of, each once. */
export function soundsOf(rows: Iterable<SoundRow>): Manifest['sounds'] {
  const files = [...rows].flatMap((s) => s.file ?? []);
  return [...new Map(files.map((f) => [f.sha256, f])).values()].map(({ sha256, kind, bytes }) => ({
    sha256,
    kind,
    bytes,
  }));
}

/** What stands in a show file beside its rows. */
export interface WriteOptions {
  id: string;
  name: string;
  venue: string;
  seq: number;
  origin: Manifest['origin'];
  by: string;
  /** ISO 8601, UTC. */
  made: string;
}

/** A show as a file. @param changes its log, so that a copy can be merged back */
export async function writeShowFile(
  show: MutableShow,
  changes: readonly Change[],
  o: WriteOptions,
): Promise<Uint8Array> {
  const entries: Record<string, Uint8Array> = {};
  const counts: Record<string, number> = {};
  for (const table of TABLE_NAMES) {
    const rows: AnyRow[] = [...show[table].values()];
    counts[table] = rows.length;
    const plain = TABLES[table].asset
      ? rows.map((row) => {
          const { data, ...rest } = row as AnyRow & { data?: string };
          if (data === undefined) return rest;
          const [, kind = '', base64 = ''] =
            /^data:[a-z]+\/([a-z-]+);base64,(.*)$/s.exec(data) ?? [];
          const asset = `assets/${row.id.replace(/[^A-Za-z0-9_-]/g, '_')}.${kind}`;
          entries[asset] = fromBase64(base64);
          return { ...rest, asset };
        })
      : rows;
    // One row a line: what changed between two files can be read by eye.
    await breathe();
    entries[`tables/${table}.json`] = strToU8(
      `[${plain.map((r) => `\n${JSON.stringify(r)}`).join(',')}\n]\n`,
    );
  }
  entries['changes.json'] = strToU8(
    `[${changes.map((c) => `\n${JSON.stringify(c)}`).join(',')}\n]\n`,
  );
  const checksums: Record<string, string> = {};
  for (const [name, bytes] of Object.entries(entries)) checksums[name] = await sha256(bytes);
  const manifest: Manifest = {
    format: 'wingman-show',
    schema: SCHEMA,
    made: o.made,
    by: o.by,
    show: { id: o.id, name: o.name, venue: o.venue },
    seq: o.seq,
    origin: o.origin,
    counts,
    checksums,
    sounds: soundsOf(show.sounds.values()),
  };
  const files: Zippable = { 'manifest.json': strToU8(`${JSON.stringify(manifest, null, 2)}\n`) };
  // Pictures and sounds are packed already.
  for (const [name, bytes] of Object.entries(entries))
    files[name] = name.startsWith('assets/') ? [bytes, { level: 0 }] : bytes;
  return zipSync(files, { level: PACKED, mtime: new Date(o.made) });
}

class Hostile extends Error {}
const NOT_OURS = 'This is not a Wingman show file, or it is broken. Nothing was changed.';

/** Takes the files of sounds out of a show file as they come: they are never held whole. */
export interface SoundSink {
  begin: (sha256: string, kind: string) => void;
  put: (bytes: Uint8Array) => void;
  end: () => void;
  /** Comes back when what was put is away. @throws what makes the whole file no good, as `BadFile` */
  settle: () => Promise<void>;
}
/** For a sink: the file is refused in these words. */
export class BadFile extends Hostile {}

/** Entries of a show file by their names, without those of sounds. */
export type Entries = Map<string, Uint8Array>;

const joinedUp = (parts: readonly Uint8Array[], size: number): Uint8Array => {
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
};

/** Entries by name; stops as soon as anything is out of bounds, before it is unpacked whole. */
class Unpacking {
  readonly files: Entries = new Map();
  private total = 0;
  private sounds = new Set<string>();
  private readonly unzip: Unzip;

  constructor(
    private readonly limit: number,
    private readonly sink: SoundSink | undefined,
  ) {
    let entries = 0;
    this.unzip = new Unzip((file) => {
      if (++entries > ENTRIES_LIMIT)
        throw new Hostile('The file has too many entries to be a show. Nothing was changed.');
      if (!ENTRY.test(file.name))
        throw new Hostile(
          `The file has an entry that no show file has (“${file.name.slice(0, 60)}”). Nothing was changed.`,
        );
      if (this.files.has(file.name) || this.sounds.has(file.name))
        throw new Hostile('The file has an entry twice. Nothing was changed.');
      if (SOUND_ENTRY.test(file.name)) this.sound(file);
      else this.plain(file);
      file.start();
    });
    this.unzip.register(UnzipInflate);
    this.unzip.register(UnzipPassThrough);
  }

  private plain(file: UnzipFile): void {
    const parts: Uint8Array[] = [];
    let size = 0;
    this.files.set(file.name, new Uint8Array(0));
    file.ondata = (error, data, final) => {
      // What is thrown below comes back here as the stream’s own error.
      if (error) throw (error as Error) instanceof Hostile ? error : new Hostile(NOT_OURS);
      this.total += data.length;
      size += data.length;
      if (this.total > this.limit)
        throw new Hostile('The file unpacks to more than any show can have. Nothing was changed.');
      parts.push(data);
      if (final) this.files.set(file.name, joinedUp(parts, size));
    };
  }

  private sound(file: UnzipFile): void {
    const [, sha256 = '', kind = ''] = SOUND_ENTRY.exec(file.name) ?? [];
    this.sounds.add(file.name);
    let size = 0;
    this.sink?.begin(sha256, kind);
    file.ondata = (error, data, final) => {
      if (error) throw (error as Error) instanceof Hostile ? error : new Hostile(NOT_OURS);
      size += data.length;
      if (size > SOUND_BYTES)
        throw new Hostile('The file has a sound of more than 500 MB. Nothing was changed.');
      this.sink?.put(data);
      if (final) this.sink?.end();
    };
  }

  push(piece: Uint8Array, isLast: boolean): void {
    for (let at = 0; at < piece.length || isLast; at += CHUNK) {
      const isEnd = at + CHUNK >= piece.length;
      this.unzip.push(piece.subarray(at, at + CHUNK), isLast && isEnd);
      if (isEnd) return;
    }
  }
}

/**
 * What a show file has in it, from its pieces as they come.
 * @param limits.bytes of all that is no sound, packed; @param limits.unpacked the same, unpacked
 */
export async function unpackShowFile(
  pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  sink?: SoundSink,
  limits: { bytes?: number; unpacked?: number } = {},
): Promise<Result<Entries>> {
  const most = limits.bytes ?? (sink ? SHOW_FILE_LIMIT : FILE_LIMIT);
  const unpacking = new Unpacking(limits.unpacked ?? UNPACKED_LIMIT, sink);
  let [size, isFirst] = [0, true];
  try {
    for await (const piece of pieces) {
      if (piece.length === 0) continue;
      if (isFirst && (piece[0] !== 0x50 || (piece.length > 1 && piece[1] !== 0x4b)))
        return refuse('invalid', NOT_OURS);
      isFirst = false;
      size += piece.length;
      if (size > most)
        return refuse(
          'too-large',
          `A show file has at most ${most / 1024 / 1024} MB. Nothing was changed.`,
        );
      unpacking.push(piece, false);
      await sink?.settle();
    }
    if (isFirst) return refuse('invalid', NOT_OURS);
    unpacking.push(new Uint8Array(0), true);
    await sink?.settle();
    return unpacking.files;
  } catch (error) {
    return refuse('invalid', error instanceof Hostile ? error.message : NOT_OURS);
  }
}

/** The same entries as a file again, without sounds. */
export const packEntries = (entries: Entries): Uint8Array =>
  zipSync(Object.fromEntries(entries), { level: PACKED });

/** How much JSON there is, without reading it: elements of the outermost list, values at any depth, in the largest element, the depth, and characters that are written by their number. One pass over the bytes. */
export function measureJson(bytes: Uint8Array): {
  elements: number;
  values: number;
  depth: number;
  largest: number;
  numbered: number;
} {
  const [QUOTE, ESCAPE, OPEN, CLOSE, BEGIN, END, COMMA] = [
    0x22, 0x5c, 0x5b, 0x5d, 0x7b, 0x7d, 0x2c,
  ];
  let [elements, values, depth, deepest, inText] = [0, 0, 0, 0, false];
  let [largest, begun, numbered] = [0, 0, 0];
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i];
    if (inText) {
      if (b === ESCAPE) {
        if (bytes[++i] === BY_NUMBER) numbered++;
      } else if (b === QUOTE) inText = false;
    } else if (b === QUOTE) inText = true;
    else if (b === OPEN || b === BEGIN) {
      depth++;
      values++;
      if (depth > deepest) deepest = depth;
    } else if (b === CLOSE || b === END) depth--;
    else if (b === COMMA) {
      values++;
      if (depth === 1) {
        elements++;
        largest = Math.max(largest, values - begun);
        begun = values;
      }
    }
  }
  return {
    elements: elements + 1,
    values,
    depth: deepest,
    largest: Math.max(largest, values - begun),
    numbered,
  };
}
/** The `u` of `\\u0000`: what JSON has no letter for is written so, and nothing else can be odd (oddTextIn). */
const BY_NUMBER = 0x75;

type Tables = Record<string, unknown[]>;
/** Of a file from before there was a table, that table is empty; control pages become sheets. */
function upToDate(tables: Tables, schema: number): Tables {
  const fresh = tablesThat((t) => (t.since ?? 1) > schema).map((table): [string, unknown[]] => [
    table,
    [],
  ]);
  const next: Tables = { ...tables, ...Object.fromEntries(fresh) };
  if (schema >= SHEETS_SINCE) return next;
  const made = (tables.pages ?? []).map(sheetOfPage);
  return {
    ...next,
    sheets: made.map((m) => m.sheet),
    sheetpieces: made.flatMap((m) => m.pieces),
  };
}

/** A log in which pages are sheets as well. */
const logUpToDate = (log: unknown, schema: number): unknown =>
  schema < SHEETS_SINCE && Array.isArray(log)
    ? log.map((c: { rows?: unknown }) =>
        Array.isArray(c.rows) ? { ...c, rows: withoutPages(c.rows as LoggedRow[]) } : c,
      )
    : log;

const LOG = 'log';
const json = (bytes: Uint8Array | undefined, what: string): unknown => readJson(bytes, what).value;
function readJson(
  bytes: Uint8Array | undefined,
  what: string,
): { value: unknown; mayBeOdd: boolean } {
  if (!bytes) throw new Hostile(`The file lacks ${what}. Nothing was changed.`);
  const size = measureJson(bytes);
  if (size.elements > JSON_LIMITS.elements || size.values > JSON_LIMITS.values)
    throw new Hostile(
      `The file has more in its ${what} than a show can have. Nothing was changed.`,
    );
  // In the log a change has as many rows as it wrote.
  if (what !== LOG && size.largest > JSON_LIMITS.row)
    throw new Hostile(
      `The file has a row in its ${what} that is larger than any of a show. Nothing was changed.`,
    );
  if (size.depth > JSON_LIMITS.depth)
    throw new Hostile(
      `The file is broken: its ${what} is nested deeper than anything of a show. Nothing was changed.`,
    );
  try {
    return { value: JSON.parse(strFromU8(bytes)), mayBeOdd: size.numbered > 0 };
  } catch {
    throw new Hostile(`The file is broken: its ${what} cannot be read. Nothing was changed.`);
  }
}

/**
 * Reads a show file.
 * @returns a refusal in words for anything that is not one, is damaged, or is made by a newer Wingman
 */
export async function readShowFile(
  bytes: Uint8Array,
  unpackedLimit = UNPACKED_LIMIT,
): Promise<Result<ShowFile>> {
  const entries = await unpackShowFile([bytes], undefined, { unpacked: unpackedLimit });
  return isRefusal(entries) ? entries : readEntries(entries);
}

/** Reads what is in a show file. */
export async function readEntries(entries: Entries): Promise<Result<ShowFile>> {
  try {
    return await read(entries);
  } catch (error) {
    return refuse('invalid', error instanceof Hostile ? error.message : NOT_OURS);
  }
}

async function read(files: Map<string, Uint8Array>): Promise<ShowFile> {
  const head = json(files.get('manifest.json'), 'manifest');
  const schema =
    typeof head === 'object' && head !== null && 'schema' in head ? Number(head.schema) : NaN;
  if (schema > SCHEMA)
    throw new Hostile(
      `The file was made by a newer Wingman (schema ${schema}; this one reads up to ${SCHEMA}). Update Wingman, then open it. Nothing was changed.`,
    );
  const parsed = Manifest.safeParse(head);
  if (!parsed.success)
    throw new Hostile('The file’s manifest is not one of Wingman’s. Nothing was changed.');
  const manifest = parsed.data;
  for (const [name, bytes] of files) {
    if (name === 'manifest.json') continue;
    const wanted = manifest.checksums[name];
    if (wanted === undefined)
      throw new Hostile(
        `The file has an entry that its manifest does not know (“${name}”). Nothing was changed.`,
      );
    if (wanted !== (await sha256(bytes)))
      throw new Hostile(
        `The file is damaged: “${name}” is not what was written (its checksum differs). Use another copy or a back-up. Nothing was changed.`,
      );
  }
  for (const name of Object.keys(manifest.checksums))
    if (!files.has(name))
      throw new Hostile(
        `The file is not whole: “${name}” is missing. Use another copy or a back-up. Nothing was changed.`,
      );

  const inFile: Tables = {};
  let mayBeOdd = false;
  for (const name of files.keys()) {
    const table = /^tables\/(.*)\.json$/.exec(name)?.[1];
    if (table === undefined) continue;
    const read = readJson(files.get(name), `table “${table}”`);
    const rows = read.value;
    mayBeOdd ||= read.mayBeOdd;
    if (!Array.isArray(rows))
      throw new Hostile(
        `The file is broken: its table “${table}” is no list. Nothing was changed.`,
      );
    inFile[table] = rows;
  }
  const show = new MutableShow();
  let waiting: RowChange[] = [];
  for (const { table, row } of rowsOf(upToDate(inFile, manifest.schema), files, mayBeOdd)) {
    waiting.push(changeOf(table, null, row));
    if (waiting.length < ROWS_AT_ONCE) continue;
    show.apply(waiting);
    waiting = [];
    await breathe();
  }
  show.apply(waiting);
  const broken = danglingIn(show);
  if (broken)
    throw new Hostile(
      `The file is broken: a row leans on one that is not there (${broken}). Nothing was changed.`,
    );
  if (!show.settings.has('show'))
    throw new Hostile('The file is broken: it has no show in it. Nothing was changed.');
  if (show.lists.size === 0)
    throw new Hostile('The file is broken: a show has at least one cue list. Nothing was changed.');
  const log = z
    .array(LoggedChange)
    .safeParse(logUpToDate(json(files.get('changes.json'), LOG), manifest.schema));
  if (!log.success)
    throw new Hostile('The file is broken: its log is not one of Wingman’s. Nothing was changed.');
  return { manifest, show, changes: log.data as unknown as Change[] };
}

function* rowsOf(
  tables: Tables,
  files: ReadonlyMap<string, Uint8Array>,
  mayBeOdd: boolean,
): Generator<{ table: TableName; row: AnyRow }> {
  let count = 0;
  for (const table of TABLE_NAMES) {
    const rows = tables[table];
    if (!rows)
      throw new Hostile(
        `The file is not whole: its table “${table}” is missing. Nothing was changed.`,
      );
    const seen = new Set<string>();
    for (const raw of rows) {
      if (++count > ROWS_LIMIT)
        throw new Hostile('The file has more rows than a show can have. Nothing was changed.');
      if (mayBeOdd && oddTextIn(raw) !== undefined)
        throw new Hostile(
          `The file is broken: a row of table “${table}” has text with zero bytes or broken characters. Nothing was changed.`,
        );
      const row = TABLES[table].row.safeParse(
        TABLES[table].asset ? withAsset(table, raw, files) : raw,
      );
      if (!row.success) {
        throw new Hostile(
          `The file is broken: a row of table “${table}” is not valid. ${sayFirst(row.error)} Nothing was changed.`,
        );
      }
      const { id } = row.data;
      if (seen.has(id))
        throw new Hostile(
          `The file is broken: table “${table}” has a row twice. Nothing was changed.`,
        );
      seen.add(id);
      if ((TABLES[table].idOf?.(row.data as never) ?? id) !== id)
        throw new Hostile(
          `The file is broken: a ${TABLES[table].one} is not where it says it is. Nothing was changed.`,
        );
      yield { table, row: row.data };
    }
  }
}

function withAsset(
  table: TableName,
  raw: unknown,
  files: ReadonlyMap<string, Uint8Array>,
): unknown {
  if (typeof raw !== 'object' || raw === null) return raw;
  const { asset, ...rest } = raw as { asset?: unknown };
  // Its file stands beside the rows, and is known by its sum.
  if (asset === undefined && 'file' in rest) return rest;
  const bytes = typeof asset === 'string' ? files.get(asset) : undefined;
  if (!bytes || typeof asset !== 'string')
    throw new Hostile(
      'The file is not whole: a picture or a sound is missing. Nothing was changed.',
    );
  return {
    ...rest,
    data: `data:${TABLES[table].asset?.kind}/${asset.split('.').at(-1) ?? ''};base64,${toBase64(bytes)}`,
  };
}
