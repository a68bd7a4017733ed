/** Many rows of a new show at once, by PostgreSQL's COPY: a third of the time that statements take (docs/performance.md). */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { from as copyFrom } from 'pg-copy-streams';
import type { RowChange } from '../core/show/show.ts';
import { clientOf, type Database } from './database.ts';

/** Characters that go to the server together. */
const PIECE = 65_536;
const ESCAPES: Record<string, string> = { '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' };
/** As COPY's text format has it (PostgreSQL, COPY, File Formats). */
const escaped = (text: string): string =>
  text.replace(/[\\\n\r\t]/g, (mark) => ESCAPES[mark] ?? '');

function* lines(showId: string, changes: readonly RowChange[]): Generator<string> {
  let piece = '';
  for (const { table, id, after } of changes) {
    if (after === null) continue;
    piece += `${showId}\t${table}\t${escaped(id)}\t${escaped(JSON.stringify(after))}\n`;
    if (piece.length < PIECE) continue;
    yield piece;
    piece = '';
  }
  yield piece;
}

/**
 * Writes the rows of a show that has none yet. In the order of the key, so that the index grows at its end.
 * @param trx a transaction, of which this is a part
 */
export async function copyRows(
  trx: Database,
  showId: string,
  changes: readonly RowChange[],
): Promise<void> {
  const keys = changes.map((change) => ({ key: `${change.table}\t${change.id}`, change }));
  keys.sort((a, b) => (a.key < b.key ? -1 : 1));
  const client = await clientOf(trx);
  const stream = client.query(copyFrom('copy show_rows (show_id, tbl, id, data) from stdin'));
  await pipeline(
    Readable.from(
      lines(
        showId,
        keys.map((k) => k.change),
      ),
    ),
    stream,
  );
}
