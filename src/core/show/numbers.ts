/** Numbers and addresses are given once: told where they would be given twice. */
import { rangesAt } from '../rig/addresses.ts';
import type { AnyRow, TableName } from './tables.ts';
import type { CueRow } from '../cues/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { RowChange, Show } from './show.ts';
import { describeRow } from './words.ts';

/** Tables whose numbers are given once. */
export const NUMBERED: readonly TableName[] = [
  'fixtures',
  'groups',
  'palettes',
  'looks',
  'effects',
  'lists',
  'faders',
  'pages',
  'layouts',
];

/** The next number from the wish on that is free; it is taken then. */
export function takeNumber(taken: Set<number>, wish: number): number {
  let number = wish;
  while (taken.has(number)) number++;
  taken.add(number);
  return number;
}

/** Takes a fixture's addresses. @returns the fixture that has one of them already, and then takes none */
export function claims(show: Pick<Show, 'types'>): (fixture: FixtureRow) => FixtureRow | undefined {
  const slots = new Map<number, FixtureRow>();
  return (fixture) => {
    const addresses = rangesAt(show, fixture).flatMap(({ from, to }) =>
      Array.from({ length: to - from + 1 }, (_, i) => from + i),
    );
    const clash = addresses
      .map((a) => slots.get(a))
      .find((f) => f !== undefined && f.id !== fixture.id);
    if (!clash) for (const a of addresses) slots.set(a, fixture);
    return clash;
  };
}

/** Says in words which number or address two rows would have after `changes`; undefined when none. */
export function doublesAfter(show: Show, changes: readonly RowChange[]): string | undefined {
  const changed = new Map(changes.map((c) => [`${c.table}/${c.id}`, c]));
  const fresh = <T extends AnyRow>(table: TableName): T[] =>
    changes.flatMap((c) => (c.table === table && c.after ? [c.after as T] : []));
  const standing = <T extends AnyRow>(table: TableName): T[] =>
    [...(show[table] as unknown as ReadonlyMap<string, T>).values()].filter(
      (row) => !changed.has(`${table}/${row.id}`),
    );
  for (const table of [...NUMBERED, 'cues'] as const) {
    const rows = fresh<AnyRow & { number: number; listId?: string }>(table);
    if (rows.length === 0) continue;
    const keyOf = (row: { number: number; listId?: string }): string =>
      `${table === 'cues' ? (row as CueRow).listId : ''}/${row.number}`;
    const taken = new Set(standing<AnyRow & { number: number }>(table).map(keyOf));
    for (const row of rows) {
      if (taken.has(keyOf(row)))
        return `there is another ${table === 'cues' ? describeRow(show, table, row) : `${table.slice(0, -1)} ${row.number}`} now`;
      taken.add(keyOf(row));
    }
  }
  const fixtures = fresh<FixtureRow>('fixtures');
  if (fixtures.length === 0) return undefined;
  const claim = claims({
    types: new Map([
      ...show.types,
      ...fresh<AnyRow>('types').map((t) => [t.id, t] as const),
    ]) as Show['types'],
  });
  for (const fixture of standing<FixtureRow>('fixtures')) claim(fixture);
  for (const fixture of fixtures) {
    const clash = claim(fixture);
    if (clash)
      return `the address of fixture ${fixture.number} is taken by fixture ${clash.number} now`;
  }
  return undefined;
}
