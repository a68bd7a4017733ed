/** Rows and their fields in words, for history, comparing and merging: what tables say of themselves, and the rest by rule. */
import type { FieldWords } from './define-table.ts';
import { entries, percent, seconds } from './plain-words.ts';
import { TABLES, type AnyRow, type TableName, type Tables } from './tables.ts';

/** A row in the middle of a sentence: `fixture 12`, `cue 2.5`. */
export const describeRow = (show: Tables, table: TableName, row: AnyRow | null): string =>
  row ? TABLES[table].says.row(row as never, show) : 'a row';

/** A row as it uses something else: `cue 2.5` for a value in it. */
export const describeUse = (show: Tables, table: TableName, row: AnyRow): string =>
  (TABLES[table].says.using ?? TABLES[table].says.row)(row as never, show);

const fieldOf = (table: TableName, field: string): FieldWords<Tables> | undefined =>
  TABLES[table].fields?.[field];

/** What people call a field of a row. */
export const fieldName = (table: TableName, field: string): string =>
  fieldOf(table, field)?.called ?? wordsOf(field);
const wordsOf = (field: string): string =>
  field
    .replace(/_s$/, '')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();

/** Kept for the machine: nobody reads it. */
export const isHidden = (table: TableName, field: string): boolean =>
  fieldOf(table, field)?.hidden === true;
/** Says how long something takes, or when it begins. */
export const isTime = (table: TableName, field: string): boolean =>
  /_s$/.test(field) || fieldOf(table, field)?.time === true;

/** The value of a field in words, short enough for a line. */
export function sayField(show: Tables, table: TableName, field: string, value: unknown): string {
  if (field === 'level' && value === null) return 'let go';
  if (value === undefined || value === null || value === '') return 'nothing';
  if (value === true) return 'yes';
  if (value === false) return 'no';
  if (isEmpty(value)) return 'nothing';
  const own = fieldOf(table, field);
  if (own?.say) return own.say(value as never, show);
  if (typeof value === 'number') return sayNumber(field, value, own?.unit);
  if (typeof value === 'string') return sayText(field, value);
  if (Array.isArray(value)) return value.length === 0 ? 'nothing' : entries(value.length);
  return sayObject(show, table, field, value);
}

/** An empty list may say something (off the rig); an empty record never does. */
const isEmpty = (value: unknown): boolean =>
  typeof value === 'object' && !Array.isArray(value) && Object.keys(value ?? {}).length === 0;

function sayNumber(field: string, value: number, unit: string | undefined): string {
  if (unit !== undefined) return `${Math.round(value * 100) / 100}${unit}`;
  if (/_s$/.test(field)) return seconds(value);
  if (field === 'level' || field === 'opacity') return percent(value);
  return String(Math.round(value * 1000) / 1000);
}

const LONGEST = 90;
function sayText(field: string, value: string): string {
  if (field === 'data') return `${Math.round((value.length * 3) / 4 / 1024)} kB`;
  return value.length > LONGEST ? `“${value.slice(0, LONGEST - 2)}…”` : `“${value}”`;
}

/** Objects of a few plain values are said in full; of larger ones, how many entries they have. */
function sayObject(show: Tables, table: TableName, field: string, value: object): string {
  const own = Object.entries(value);
  if (own.length > 4 || own.some(([, v]) => typeof v === 'object')) return entries(own.length);
  const unit = /_s$/.test(field) ? '_s' : '';
  return own.map(([k, v]) => `${wordsOf(k)} ${sayField(show, table, `${k}${unit}`, v)}`).join(', ');
}
