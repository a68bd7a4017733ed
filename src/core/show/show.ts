/**
 * A show in memory: tables of rows by id, with the two indexes that everything asks for (cues in list order,
 * values by cue). `applyChanges` is the only writer.
 */
import type { AnyRow, RowOf, TableName, Tables } from './tables.ts';
import type { CueRow, ValueRow } from '../cues/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { IdOf } from './fields.ts';
import { TABLE_NAMES } from './tables.ts';
import { slotKey } from '../cues/rows.ts';

/** One row before and after; null is absence. */
export type RowChange = {
  [T in TableName]: { table: T; id: string; before: RowOf[T] | null; after: RowOf[T] | null };
}[TableName];

/** A show as it stands, to be read. */
export interface Show extends Tables {
  /** Values that a cue sets, by slot key. */
  valuesOf(cueId: IdOf<'cues'>): ReadonlyMap<string, ValueRow>;
  /** Cues of a list in order of their numbers. */
  cuesOf(listId: IdOf<'lists'>): readonly CueRow[];
  fixtureByNumber(number: number): FixtureRow | undefined;
  /** Counts the writes to a table; a derived value is fresh while the counts that it was made from stand. */
  version(table: TableName): number;
}

const NO_VALUES: ReadonlyMap<string, ValueRow> = new Map();

/** A map for each table. The one place where the type checker is told that the list of tables makes all of them. */
const MapsOfTables = class {
  constructor() {
    for (const table of TABLE_NAMES) Object.assign(this, { [table]: new Map() });
  }
} as new () => { readonly [T in TableName]: Map<IdOf<T>, RowOf[T]> };

/** A show that row changes are applied to; it keeps the indexes that reading wants. */
export class MutableShow extends MapsOfTables implements Show {
  private readonly byCue = new Map<string, Map<string, ValueRow>>();
  private readonly versions = new Map<TableName, number>();
  private ordered: { version: number; lists: Map<string, CueRow[]> } = {
    version: -1,
    lists: new Map(),
  };
  private numbered: { version: number; fixtures: Map<number, FixtureRow> } = {
    version: -1,
    fixtures: new Map(),
  };

  static from(rows: Iterable<{ table: TableName; row: AnyRow }>): MutableShow {
    const show = new MutableShow();
    for (const { table, row } of rows) show.put(table, row.id, row);
    return show;
  }

  /** A copy that may be changed without this one. Rows are shared: they are never written into. */
  clone(): MutableShow {
    const copy = new MutableShow();
    for (const table of TABLE_NAMES) {
      const own = copy[table] as Map<string, AnyRow>;
      for (const [id, row] of this[table] as Map<string, AnyRow>) own.set(id, row);
    }
    for (const [cueId, values] of this.byCue) copy.byCue.set(cueId, new Map(values));
    for (const [table, version] of this.versions) copy.versions.set(table, version);
    return copy;
  }

  version(table: TableName): number {
    return this.versions.get(table) ?? 0;
  }

  valuesOf(cueId: IdOf<'cues'>): ReadonlyMap<string, ValueRow> {
    return this.byCue.get(cueId) ?? NO_VALUES;
  }

  cuesOf(listId: IdOf<'lists'>): readonly CueRow[] {
    if (this.ordered.version !== this.version('cues')) {
      const lists = new Map<string, CueRow[]>();
      for (const cue of this.cues.values()) {
        const list = lists.get(cue.listId);
        if (list) list.push(cue);
        else lists.set(cue.listId, [cue]);
      }
      for (const list of lists.values()) list.sort((a, b) => a.number - b.number);
      this.ordered = { version: this.version('cues'), lists };
    }
    return this.ordered.lists.get(listId) ?? [];
  }

  fixtureByNumber(number: number): FixtureRow | undefined {
    if (this.numbered.version !== this.version('fixtures')) {
      this.numbered = {
        version: this.version('fixtures'),
        fixtures: new Map([...this.fixtures.values()].map((f) => [f.number, f])),
      };
    }
    return this.numbered.fixtures.get(number);
  }

  apply(changes: readonly RowChange[]): void {
    for (const change of changes) this.put(change.table, change.id, change.after);
  }

  /** Every row, table by table. */
  *rows(): Generator<{ table: TableName; row: AnyRow }> {
    for (const table of TABLE_NAMES) for (const row of this[table].values()) yield { table, row };
  }

  private put(table: TableName, id: string, row: AnyRow | null): void {
    this.versions.set(table, this.version(table) + 1);
    const map = this[table] as Map<string, AnyRow>;
    if (table === 'values') this.index(id, row as ValueRow | null);
    if (row === null) map.delete(id);
    else map.set(id, row);
  }

  private index(id: string, row: ValueRow | null): void {
    const old = this.values.get(id);
    if (old) {
      const cue = this.byCue.get(old.cueId);
      cue?.delete(slotKey(old.fixtureId, old.attribute));
      if (cue?.size === 0) this.byCue.delete(old.cueId);
    }
    if (!row) return;
    const cue = this.byCue.get(row.cueId) ?? new Map<string, ValueRow>();
    cue.set(slotKey(row.fixtureId, row.attribute), row);
    this.byCue.set(row.cueId, cue);
  }
}

/** What a universe is called, if it is. */
export const universeName = (show: Show, number: number): string | undefined =>
  show.universes.get(`u${number}`)?.name;
/** The list of the lowest number: the one that a GO without another word is for. */
export const firstList = (show: Pick<Show, 'lists'>): RowOf['lists'] | undefined =>
  [...show.lists.values()].sort((a, b) => a.number - b.number)[0];
/** The name of a show. */
export const showName = (show: Show): string => show.settings.get('show')?.name ?? 'Untitled show';
