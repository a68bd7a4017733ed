/**
 * Large tables of a show that came whole, as from a file: packed, as they came. What is changed of them later lies over
 * them in show_rows, what is deleted as a row without data (decision 0046; store.test.ts).
 */
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { SCHEMA } from '../core/formats/show-file.ts';
import type { RowChange } from '../core/show/show.ts';
import type { AnyRow, TableName } from '../core/show/tables.ts';
import type { Database } from './database.ts';

const deflated = promisify<string, { level: number }, Buffer>(deflate);
const inflated = promisify<Buffer, Buffer>(inflate);

/** A table of fewer rows lies row by row. */
const MANY = 2000;
/** Rows of a piece: read in one go, while others wait. */
const PIECE = 20_000;
/** Rows repeat themselves so much that more effort makes them hardly smaller. */
const EFFORT = 1;
/** What statements ask for by its content (`library.ts`, `files.ts`). */
const ALWAYS_ROWS: ReadonlySet<TableName> = new Set<TableName>(['types', 'settings']);

/** Rows of a new show, parted into those that are packed, by table, and the others. */
export function parted(rows: readonly RowChange[]): {
  packed: Map<TableName, AnyRow[]>;
  others: RowChange[];
} {
  const counts = new Map<TableName, number>();
  for (const { table } of rows) counts.set(table, (counts.get(table) ?? 0) + 1);
  const packed = new Map<TableName, AnyRow[]>();
  for (const [table, count] of counts)
    if (count >= MANY && !ALWAYS_ROWS.has(table)) packed.set(table, []);
  const others: RowChange[] = [];
  for (const change of rows) {
    const pack = packed.get(change.table);
    if (!pack) others.push(change);
    else if (change.after !== null) pack.push(change.after);
  }
  return { packed, others };
}

/** Writes tables of a show that has no rows yet. */
export async function writePacks(
  db: Database,
  showId: string,
  tables: ReadonlyMap<TableName, readonly AnyRow[]>,
): Promise<void> {
  // Pieces are packed by other threads while the next ones are put into words.
  const pieces = [...tables].flatMap(([tbl, rows]) =>
    Array.from({ length: Math.ceil(rows.length / PIECE) }, (_, part) => {
      const text = JSON.stringify(rows.slice(part * PIECE, (part + 1) * PIECE));
      return { tbl, part, data: deflated(text, { level: EFFORT }) };
    }),
  );
  for (const { tbl, part, data } of pieces)
    await db
      .insertInto('show_packs')
      .values({ show_id: showId, tbl, part, schema: SCHEMA, data: await data })
      .execute();
}

/** Which of a show's tables are packed. */
export async function packedTables(db: Database, showId: string): Promise<ReadonlySet<TableName>> {
  const rows = await db
    .selectFrom('show_packs')
    .select('tbl')
    .distinct()
    .where('show_id', '=', showId)
    .execute();
  return new Set(rows.map((r) => r.tbl));
}

/** A row as it lies in show_rows; without data: the packed one is gone. */
interface Over {
  tbl: TableName;
  id: string;
  data: AnyRow | null;
}

/** All rows of a show: those that are packed, as far as no other lies over them, and those others. */
export async function withPacks(
  db: Database,
  showId: string,
  over: readonly Over[],
): Promise<{ table: TableName; row: AnyRow }[]> {
  const packs = await db
    .selectFrom('show_packs')
    .select(['tbl', 'data'])
    .where('show_id', '=', showId)
    .orderBy('tbl')
    .orderBy('part')
    .execute();
  const rows: { table: TableName; row: AnyRow }[] = [];
  const tables = new Set(packs.map((p) => p.tbl));
  const replaced = new Set(over.filter((r) => tables.has(r.tbl)).map((r) => `${r.tbl}/${r.id}`));
  for (const { tbl: table, data } of packs)
    for (const row of JSON.parse((await inflated(data)).toString('utf8')) as AnyRow[])
      if (replaced.size === 0 || !replaced.has(`${table}/${row.id}`)) rows.push({ table, row });
  for (const { tbl, data } of over) if (data !== null) rows.push({ table: tbl, row: data });
  return rows;
}
