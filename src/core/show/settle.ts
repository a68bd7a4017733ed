/** Where rows come in from another show or another time, numbers and addresses that are given already are settled, and it is said. */
import type { Draft } from './draft.ts';
import { CLAIMING, NUMBERED, numberedWithin, takeNumber, type NumberedRow } from './numbers.ts';
import type { Show } from './show.ts';
import { TABLES, type TableName } from './tables.ts';
import { describeRow } from './words.ts';

/** Numbers and addresses that both gave away: theirs takes the next free one, or goes without, and it is said. */
export function settle(draft: Draft, theirs: Show, notes: string[]): void {
  for (const table of NUMBERED) settleNumbers(draft, table, theirs, notes);
  for (const table of CLAIMING) settleClaims(draft, table, notes);
}

function settleNumbers(draft: Draft, table: TableName, theirs: Show, notes: string[]): void {
  const definition = TABLES[table].number;
  const rows = [...draft.after[table].values()] as NumberedRow[];
  const taken = new Map<string, Set<number>>();
  const takenBeside = (row: NumberedRow): Set<number> => {
    const within = numberedWithin(table, row);
    const numbers = taken.get(within) ?? new Set();
    taken.set(within, numbers);
    return numbers;
  };
  for (const row of rows) if (!draft.has(table, row.id)) takenBeside(row).add(row.number);
  const coming = rows
    .filter((row) => draft.has(table, row.id))
    .sort((a, b) => (definition?.within ? a.number - b.number : 0));
  for (const row of coming) {
    const beside = takenBeside(row);
    const number = takeNumber(beside, definition?.free?.(beside, row.number) ?? row.number);
    if (number === row.number) continue;
    notes.push(
      definition?.moved?.(row as never, number) ??
        `${describeRow(theirs, table, row)} came in as number ${number}: ${row.number} is taken.`,
    );
    const moved = { ...row, number };
    draft.put(table, row.id, moved);
  }
}

function settleClaims(draft: Draft, table: TableName, notes: string[]): void {
  const { claims } = TABLES[table];
  if (!claims) return;
  const claim = claims.begin(draft.after);
  const rows = [...draft.after[table].values()];
  for (const row of rows) if (!draft.has(table, row.id)) claim(row as never);
  for (const row of rows) {
    if (!draft.has(table, row.id)) continue;
    const other = claim(row as never);
    if (!other) continue;
    notes.push(claims.gaveUp(row as never, other as never));
    draft.put(table, row.id, claims.without(row as never));
  }
}
