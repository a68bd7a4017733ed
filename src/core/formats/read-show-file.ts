/**
 * Reading a show file trusts nothing: names, sizes, checksums, and every row are checked before any of it is believed.
 */
import { z } from 'zod';
import { breathe } from '../breathe.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { sayFirst } from '../said-wrong.ts';
import { sheetOfPage, withoutPages, type LoggedRow } from '../sheets/from-pages.ts';
import { changeOf } from '../show/fields-of.ts';
import { danglingIn } from '../show/references.ts';
import { MutableShow, type RowChange } from '../show/show.ts';
import { TABLE_NAMES, TABLES, tablesThat, type AnyRow, type TableName } from '../show/tables.ts';
import type { Change } from '../show/undo.ts';
import { oddTextIn } from '../text.ts';
import { toBase64 } from './base64.ts';
import { LOG, readJson } from './json-measured.ts';
import {
  BadFile,
  Manifest,
  NOT_OURS,
  SCHEMA,
  sha256,
  type Entries,
  type ShowFile,
} from './show-file.ts';
import { unpackShowFile } from './unpack-show-file.ts';

/** Before it, what sheets are now were control pages. */
const SHEETS_SINCE = 4;
const ROWS_LIMIT = 1_000_000;
/** A server that reads a large show answers others in between. */
const ROWS_AT_ONCE = 16_000;

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

/**
 * Reads a show file.
 * @returns a refusal in words for anything that is not one, is damaged, or is made by a newer Wingman
 */
export async function readShowFile(
  bytes: Uint8Array,
  unpacked?: number,
): Promise<Result<ShowFile>> {
  const entries = await unpackShowFile([bytes], undefined, { unpacked });
  return isRefusal(entries) ? entries : readEntries(entries);
}

/** Reads what is in a show file. */
export async function readEntries(entries: Entries): Promise<Result<ShowFile>> {
  try {
    return await read(entries);
  } catch (error) {
    return refuse('invalid', error instanceof BadFile ? error.message : NOT_OURS);
  }
}

async function read(entries: Entries): Promise<ShowFile> {
  const manifest = manifestOf(entries);
  await checkSums(entries, manifest);
  const { tables, mayBeOdd } = tablesOf(entries);
  const rows = rowsOf(upToDate(tables, manifest.schema), entries, mayBeOdd);
  return { manifest, show: await showOf(rows), changes: logOf(entries, manifest.schema) };
}

function manifestOf(entries: Entries): Manifest {
  const head = readJson(entries.get('manifest.json'), 'manifest').value;
  const schema =
    typeof head === 'object' && head !== null && 'schema' in head ? Number(head.schema) : NaN;
  if (schema > SCHEMA)
    throw new BadFile(
      `The file was made by a newer Wingman (schema ${schema}; this one reads up to ${SCHEMA}). Update Wingman, then open it. Nothing was changed.`,
    );
  const parsed = Manifest.safeParse(head);
  if (!parsed.success)
    throw new BadFile('The file’s manifest is not one of Wingman’s. Nothing was changed.');
  return parsed.data;
}

/** Every entry is what was written, none is missing, and none is more. */
async function checkSums(entries: Entries, { checksums }: Manifest): Promise<void> {
  for (const [name, bytes] of entries) {
    if (name === 'manifest.json') continue;
    const wanted = checksums[name];
    if (wanted === undefined)
      throw new BadFile(
        `The file has an entry that its manifest does not know (“${name}”). Nothing was changed.`,
      );
    if (wanted !== (await sha256(bytes)))
      throw new BadFile(
        `The file is damaged: “${name}” is not what was written (its checksum differs). Use another copy or a back-up. Nothing was changed.`,
      );
  }
  for (const name of Object.keys(checksums))
    if (!entries.has(name))
      throw new BadFile(
        `The file is not whole: “${name}” is missing. Use another copy or a back-up. Nothing was changed.`,
      );
}

function tablesOf(entries: Entries): { tables: Tables; mayBeOdd: boolean } {
  const tables: Tables = {};
  let mayBeOdd = false;
  for (const [name, bytes] of entries) {
    const table = /^tables\/(.*)\.json$/.exec(name)?.[1];
    if (table === undefined) continue;
    const read = readJson(bytes, `table “${table}”`);
    mayBeOdd ||= read.mayBeOdd;
    if (!Array.isArray(read.value))
      throw new BadFile(
        `The file is broken: its table “${table}” is no list. Nothing was changed.`,
      );
    tables[table] = read.value;
  }
  return { tables, mayBeOdd };
}

/** A show of these rows, whole: whatever is leant on is there. */
async function showOf(rows: Iterable<{ table: TableName; row: AnyRow }>): Promise<MutableShow> {
  const show = new MutableShow();
  let waiting: RowChange[] = [];
  for (const { table, row } of rows) {
    waiting.push(changeOf(table, null, row));
    if (waiting.length < ROWS_AT_ONCE) continue;
    show.apply(waiting);
    waiting = [];
    await breathe();
  }
  show.apply(waiting);
  const broken = danglingIn(show);
  if (broken)
    throw new BadFile(
      `The file is broken: a row leans on one that is not there (${broken}). Nothing was changed.`,
    );
  if (!show.settings.has('show'))
    throw new BadFile('The file is broken: it has no show in it. Nothing was changed.');
  if (show.lists.size === 0)
    throw new BadFile('The file is broken: a show has at least one cue list. Nothing was changed.');
  return show;
}

function logOf(entries: Entries, schema: number): Change[] {
  const said = readJson(entries.get('changes.json'), LOG).value;
  const log = z.array(LoggedChange).safeParse(logUpToDate(said, schema));
  if (!log.success)
    throw new BadFile('The file is broken: its log is not one of Wingman’s. Nothing was changed.');
  return log.data as unknown as Change[];
}

function* rowsOf(
  tables: Tables,
  entries: Entries,
  mayBeOdd: boolean,
): Generator<{ table: TableName; row: AnyRow }> {
  let count = 0;
  for (const table of TABLE_NAMES) {
    const rows = tables[table];
    if (!rows)
      throw new BadFile(
        `The file is not whole: its table “${table}” is missing. Nothing was changed.`,
      );
    const seen = new Set<string>();
    for (const raw of rows) {
      if (++count > ROWS_LIMIT)
        throw new BadFile('The file has more rows than a show can have. Nothing was changed.');
      if (mayBeOdd && oddTextIn(raw) !== undefined)
        throw new BadFile(
          `The file is broken: a row of table “${table}” has text with zero bytes or broken characters. Nothing was changed.`,
        );
      const row = TABLES[table].row.safeParse(
        TABLES[table].asset ? withAsset(table, raw, entries) : raw,
      );
      if (!row.success) {
        throw new BadFile(
          `The file is broken: a row of table “${table}” is not valid. ${sayFirst(row.error)} Nothing was changed.`,
        );
      }
      const { id } = row.data;
      if (seen.has(id))
        throw new BadFile(
          `The file is broken: table “${table}” has a row twice. Nothing was changed.`,
        );
      seen.add(id);
      if ((TABLES[table].idOf?.(row.data as never) ?? id) !== id)
        throw new BadFile(
          `The file is broken: a ${TABLES[table].one} is not where it says it is. Nothing was changed.`,
        );
      yield { table, row: row.data };
    }
  }
}

function withAsset(table: TableName, raw: unknown, entries: Entries): unknown {
  if (typeof raw !== 'object' || raw === null) return raw;
  const { asset, ...rest } = raw as { asset?: unknown };
  // Its file stands beside the rows, and is known by its sum.
  if (asset === undefined && 'file' in rest) return rest;
  const bytes = typeof asset === 'string' ? entries.get(asset) : undefined;
  if (!bytes || typeof asset !== 'string')
    throw new BadFile(
      'The file is not whole: a picture or a sound is missing. Nothing was changed.',
    );
  return {
    ...rest,
    data: `data:${TABLES[table].asset?.kind}/${asset.split('.').at(-1) ?? ''};base64,${toBase64(bytes)}`,
  };
}
