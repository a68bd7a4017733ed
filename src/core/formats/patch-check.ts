/** Lines of a table of fixtures against a show: what can be written of them, and what not and why. Nothing is written by it. */
import { absolute, formatPoint, parsePoints, widthAt, type Range } from '../fixtures/points.ts';
import { UNIVERSE_SLOTS } from '../dmx.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import { clashAt, nextFree, occupied } from '../rig/addresses.ts';
import { channelCount } from '../rig/attributes.ts';
import { libraryTypes } from '../rig/library/index.ts';
import { plain } from '../rig/search.ts';
import { sayFirst } from '../said-wrong.ts';
import { LIMITS, Name } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import { unmarked } from './csv-table.ts';
import { PATCH_FIELDS, type ImportRow, type PatchField } from './patch-csv.ts';

/** Why a line of a table of fixtures cannot be taken. */
export interface RowProblem {
  line: number;
  field: PatchField;
  message: string;
}

/** A row that can be written. `existing` keeps its programming. */
export interface ReadyRow {
  line: number;
  number: number;
  label: string;
  type: TypeRow;
  mode: Mode;
  patch: PatchPoint[];
  hang: string;
  circuit: string;
  existing: FixtureRow | undefined;
}

/** A spreadsheet runs cells that begin like this; a fixture is never called so on purpose. */
const FORMULA = /^[=@]|^[+-](?!\d+(\.\d+)?$)/;

const addressOf = (row: ImportRow): PatchPoint[] | undefined => {
  if (row.universe !== '' && /^\d+$/.test(row.universe) && /^\d+$/.test(row.address))
    return parsePoints(`${row.universe}.${row.address}`);
  return parsePoints(row.address.replaceAll(';', ',').replaceAll('/', '.').replaceAll(':', '.'));
};

/** Words as they were before a spreadsheet was kept from running them. */
const withoutMarks = (row: ImportRow): ImportRow => ({
  ...row,
  label: unmarked(row.label),
  maker: unmarked(row.maker),
  type: unmarked(row.type),
  mode: unmarked(row.mode),
  hang: unmarked(row.hang),
  circuit: unmarked(row.circuit),
});

/** Types of a show and of the library by what people may call them: the name, or the maker and the name. */
function typesByName(show: Show): ReadonlyMap<string, TypeRow> {
  const types = [...show.types.values(), ...libraryTypes().filter((t) => !show.types.has(t.id))];
  const byName = new Map<string, TypeRow>();
  // Of two of one name, the first counts: that of the show.
  for (const t of types.reverse()) {
    byName.set(plain(t.name), t);
    byName.set(plain(`${t.maker} ${t.name}`), t);
  }
  return byName;
}

/** What is wrong with one row is told to this, as often as there is something. */
type Bad = (field: PatchField, message: string) => void;

function numberIn(row: ImportRow, lines: Map<number, number>, bad: Bad): number {
  const number = /^\d{1,5}$/.test(row.number) ? Number(row.number) : 0;
  if (number < 1) {
    const said = `“${row.number.slice(0, 40)}” is not a fixture number.`;
    bad('number', row.number === '' ? 'The number is missing.' : said);
    return number;
  }
  const twin = lines.get(number);
  if (twin !== undefined) bad('number', `${number} is on line ${twin} already.`);
  else lines.set(number, row.line);
  return number;
}

/** A row without a type is of the type that its number has in the show. */
function typeIn(
  show: Show,
  row: ImportRow,
  existing: FixtureRow | undefined,
  byName: ReadonlyMap<string, TypeRow>,
  bad: Bad,
): TypeRow | undefined {
  if (row.type === '') {
    const type = show.types.get(existing?.typeId ?? '');
    if (!type) bad('type', 'The type is missing.');
    return type;
  }
  const called = `${row.maker} ${row.type}`;
  const type =
    byName.get(plain(called)) ?? (row.maker === '' ? byName.get(plain(row.type)) : undefined);
  if (!type) bad('type', `There is no type “${called.trim().slice(0, 60)}”.`);
  return type;
}

/** By its name, or by how many channels it has; where the row has none, the one that the fixture is in, or the first. */
function modeIn(
  row: ImportRow,
  existing: FixtureRow | undefined,
  type: TypeRow,
  bad: Bad,
): Mode | undefined {
  const wanted =
    row.mode === '' && existing && type.id === existing.typeId ? existing.mode : row.mode;
  const mode =
    type.modes.find((m) => plain(m.name) === plain(wanted)) ??
    type.modes.find((m) => String(channelCount(m)) === wanted.replace(/\D/g, '')) ??
    (wanted === '' ? type.modes[0] : undefined);
  if (!mode)
    bad(
      'mode',
      `${type.name} has no mode “${wanted.slice(0, 40)}”; it has ${type.modes.map((m) => m.name).join(', ')}.`,
    );
  return mode;
}

/** A table does not change what a fixture is: its programming would be lost. */
function checkSwap(
  show: Show,
  existing: FixtureRow,
  type: TypeRow,
  mode: Mode | undefined,
  bad: Bad,
): void {
  const { number } = existing;
  if (existing.typeId !== type.id)
    bad(
      'type',
      `${number} is a ${show.types.get(existing.typeId)?.name ?? 'other type'} in the show. Swap its type there, so that its programming is converted.`,
    );
  else if (mode && existing.mode !== mode.name)
    bad(
      'mode',
      `${number} is in mode “${existing.mode}” in the show. Swap it there, so that its programming is converted.`,
    );
}

function checkLengths(row: ImportRow, bad: Bad): void {
  if (row.hang.length > LIMITS.nameLength)
    bad('hang', `A position has at most ${LIMITS.nameLength} characters.`);
  if (row.circuit.length > LIMITS.nameLength)
    bad('circuit', `A circuit’s name has at most ${LIMITS.nameLength} characters.`);
}

/** One row, looked at whole; undefined where anything of it cannot be taken. */
function readyRow(
  show: Show,
  read: ImportRow,
  byName: ReadonlyMap<string, TypeRow>,
  lines: Map<number, number>,
  problems: RowProblem[],
): ReadyRow | undefined {
  const before = problems.length;
  const bad: Bad = (field, message) => void problems.push({ line: read.line, field, message });
  for (const { key } of PATCH_FIELDS)
    if (FORMULA.test(read[key]))
      bad(key, `“${read[key].slice(0, 40)}” begins like a formula. Write it as plain text.`);
  if (problems.length > before) return undefined;

  const row = withoutMarks(read);
  const number = numberIn(row, lines, bad);
  const existing = show.fixtureByNumber(number);
  const type = typeIn(show, row, existing, byName, bad);
  const mode = type && modeIn(row, existing, type, bad);
  if (existing && type) checkSwap(show, existing, type, mode, bad);
  const patch = addressOf(row);
  if (patch === undefined)
    bad(
      'address',
      `“${`${row.universe} ${row.address}`.trim().slice(0, 40)}” is no address; they look like 2.101, or 1 to 131072.`,
    );
  const named = Name.safeParse(
    row.label === '' ? (existing?.label ?? type?.name ?? '') : row.label,
  );
  if (row.label !== '' && !named.success) bad('label', sayFirst(named.error));
  checkLengths(row, bad);
  if (problems.length > before || !type || !mode || !patch) return undefined;
  return {
    line: row.line,
    number,
    label: named.data ?? type.name,
    type,
    mode,
    patch,
    hang: row.hang || (existing?.hang ?? ''),
    circuit: row.circuit,
    existing,
  };
}

/** Every row looked at, with every problem of it; nothing is written. */
export function checkImport(
  show: Show,
  rows: readonly ImportRow[],
): { ready: ReadyRow[]; problems: RowProblem[] } {
  const problems: RowProblem[] = [];
  const byName = typesByName(show);
  const lines = new Map<number, number>();
  const ready = rows.flatMap((row) => readyRow(show, row, byName, lines, problems) ?? []);
  problems.push(...checkAddresses(show, ready));
  return { ready, problems: problems.sort((a, b) => a.line - b.line) };
}

function checkAddresses(show: Show, ready: readonly ReadyRow[]): RowProblem[] {
  const problems: RowProblem[] = [];
  const moving = new Set(ready.flatMap((r) => (r.existing ? [r.existing.id] : [])));
  const standing = occupied(show, moving);
  const own: (Range & { line: number })[] = [];
  const all = ready
    .flatMap((r) =>
      r.patch.map((point) => ({
        r,
        point,
        from: absolute(point),
        to: absolute(point) + widthAt(r.mode, point) - 1,
      })),
    )
    .sort((a, b) => a.from - b.from);
  for (const { r, point, from, to } of all) {
    if (point.address + (to - from) > UNIVERSE_SLOTS) {
      problems.push({
        line: r.line,
        field: 'address',
        message: `${r.number} has ${to - from + 1} channels; at ${formatPoint(point)} it would end at ${point.address + to - from}, past 512.`,
      });
      continue;
    }
    const hit = clashAt(standing, from, to);
    if (hit) {
      const free = nextFree(show, to - from + 1);
      problems.push({
        line: r.line,
        field: 'address',
        message: `${r.number} at ${formatPoint(point)} would sit on ${hit.fixture.number} (${hit.fixture.label}) of the show.${free ? ` ${formatPoint(free)} is free.` : ''}`,
      });
    }
    const before = own.at(-1);
    if (before && before.to >= from)
      problems.push({
        line: r.line,
        field: 'address',
        message: `${r.number} at ${formatPoint(point)} would sit on line ${before.line}.`,
      });
    own.push({ from, to, line: r.line });
  }
  return problems;
}
