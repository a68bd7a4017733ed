/** What is on its way into this show from another: the rows that come, and what of theirs ours stand for. */
import { attributesOf } from '../rig/attributes.ts';
import { modeOf } from '../fixtures/points.ts';
import { changeOf } from '../show/fields-of.ts';
import { takeNumber } from '../show/numbers.ts';
import type { AnyRow, TableName } from '../show/tables.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { TypeRow } from '../types/rows.ts';
import type { RowChange, Show } from '../show/show.ts';

/** One taking over on its way: two shows, and what has come of it so far. */
export interface Coming {
  ours: Show;
  theirs: Show;
  newId: () => string;
  changes: RowChange[];
  /** What people should know of it, in sentences. */
  notes: string[];
  /** Theirs to ours; null or absent: nothing stands for it. */
  fixtures: Map<string, string | null>;
  /** Fixtures made new here, and types with those that come along. */
  made: Map<string, FixtureRow>;
  types: Map<string, TypeRow>;
  /** Their groups, palettes, looks and effects that are ours by now, by `table/id`. */
  known: Map<string, string>;
  /** Numbers that are taken here, as far as somebody asked. */
  taken: Map<TableName, Set<number>>;
}

/** What is brought from one show into another, before anything of it is decided. */
export const comingFrom = (
  ours: Show,
  theirs: Show,
  mapping: ReadonlyMap<string, string | null>,
  newId: () => string,
): Coming => ({
  ours,
  theirs,
  newId,
  changes: [],
  notes: [],
  fixtures: new Map(mapping),
  made: new Map(),
  types: new Map(ours.types),
  known: new Map(),
  taken: new Map(),
});

/** A row that comes in anew. */
export function add(c: Coming, table: TableName, row: AnyRow): void {
  c.changes.push(changeOf(table, null, row));
}

/** A number of a table that is free here, this one if it is; it is taken then. */
export function freeNumber(c: Coming, table: TableName, wish: number): number {
  let taken = c.taken.get(table);
  if (!taken) {
    const rows = c.ours[table] as ReadonlyMap<string, { number: number }>;
    taken = new Set([...rows.values()].map((r) => r.number));
    c.taken.set(table, taken);
  }
  return takeNumber(taken, wish);
}

/** Whether ours that stands for a fixture of theirs, also one that is only coming, has what theirs is set in. */
export function isAble(c: Coming, id: string, attribute: string): boolean {
  const own = c.fixtures.get(id) ?? '';
  const fixture = c.ours.fixtures.get(own) ?? c.made.get(own);
  const mode = fixture && modeOf(c, fixture);
  return mode !== undefined && attributesOf(mode).includes(attribute);
}
