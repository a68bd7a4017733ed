/** The tables of a show: the one list of them, and the types that follow from it. */
import type { z } from 'zod';
import { areas } from '../areas/tables.ts';
import { inputs } from '../inputs/tables.ts';
import { circuits } from '../circuits/tables.ts';
import { parts } from '../crew/tables.ts';
import { cues, values } from '../cues/tables.ts';
import { effects } from '../effects/tables.ts';
import { faders } from '../faders/tables.ts';
import { fixtures } from '../fixtures/tables.ts';
import { groups } from '../groups/tables.ts';
import { hands } from '../hands/tables.ts';
import { lists } from '../lists/tables.ts';
import { looks } from '../looks/tables.ts';
import { likes, notes, photos } from '../notes/tables.ts';
import { occasions } from '../occasions/tables.ts';
import { palettes } from '../palettes/tables.ts';
import { layouts, pictures, pieces } from '../plan/tables.ts';
import { routes, universes } from '../routes/tables.ts';
import { calls, departments, prompts, scripts } from '../script/tables.ts';
import { settings } from '../settings/tables.ts';
import { sheetpieces, sheets } from '../sheets/tables.ts';
import { sounds } from '../sounds/tables.ts';
import { types } from '../types/tables.ts';
import type { TableDefinition } from './define-table.ts';
import type { IdOf } from './fields.ts';

/** In the order in which they stand in the show file. */
const LIST = [
  settings,
  types,
  fixtures,
  groups,
  lists,
  cues,
  values,
  scripts,
  calls,
  faders,
  sounds,
  pieces,
  routes,
  universes,
  circuits,
  palettes,
  looks,
  effects,
  layouts,
  pictures,
  parts,
  notes,
  areas,
  inputs,
  sheets,
  sheetpieces,
  hands,
  occasions,
  departments,
  prompts,
  photos,
  likes,
] as const;
type Listed = (typeof LIST)[number];

/** What all tables are called. */
export type TableName = Listed['name'];
export type RowOf = { [T in Listed as T['name']]: z.infer<T['row']> };
/** A row of any table. */
export type AnyRow = RowOf[TableName];
/** Tables that decide what values stand for. */
export type MeaningTable = Extract<Listed, { means?: true }>['name'];
/** A show as its tables alone. */
export type Tables = { readonly [T in TableName]: ReadonlyMap<IdOf<T>, RowOf[T]> };

/** The rows of a table whose name is only known when it runs. Row and id are of that table, whichever it is. */
export const rowsIn = (show: Tables, table: TableName): ReadonlyMap<string, AnyRow> => show[table];

/** A definition as those ask it that know no table: rows go in as what they are of. */
export type AnyTable = TableDefinition<TableName, never, Tables, TableName, boolean, AnyRow>;
// What a table leans on and reads is there, or this does not compile.
const DEFINED: readonly AnyTable[] = LIST;

/** All tables by their names. */
export const TABLES = Object.fromEntries(DEFINED.map((t) => [t.name, t])) as Readonly<
  Record<TableName, AnyTable>
>;
/** All names, in the order of the list. */
export const TABLE_NAMES: readonly TableName[] = LIST.map((t) => t.name);
/** Names of the tables of which something holds. */
export const tablesThat = (holds: (table: AnyTable) => unknown): readonly TableName[] =>
  DEFINED.filter(holds).map((t) => t.name);
