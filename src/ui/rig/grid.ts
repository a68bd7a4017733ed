/** The patch table as a grid of cells: what stands in them, what is written into them, filling and pasting. No screen in it. */
import { wattsOf } from '@/core/rig/power';
import { attributesOf, channelCount } from '@/core/rig/attributes';
import { absolute, formatPoints, fromAbsolute, modeOf, parsePoints } from '@/core/fixtures/points';
import { sayCurve, transformed } from '@/core/rig/transform';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { Show } from '@/core/show/show';

/** Columns of the table of units. */
export type ColumnKey =
  | 'number'
  | 'label'
  | 'type'
  | 'mode'
  | 'address'
  | 'hang'
  | 'circuit'
  | 'watts'
  | 'curve'
  | 'flags';
/** A column and how it is written in. */
export interface Column {
  key: ColumnKey;
  title: string;
  width: number;
  editable: boolean;
  mono?: boolean;
  right?: boolean;
}

/** All columns in their order. */
export const COLUMNS: readonly Column[] = [
  { key: 'number', title: 'No.', width: 42, editable: true, mono: true },
  { key: 'label', title: 'Label', width: 80, editable: true },
  { key: 'type', title: 'Type', width: 100, editable: false },
  { key: 'mode', title: 'Mode', width: 60, editable: false },
  { key: 'address', title: 'Addr.', width: 58, editable: true, mono: true },
  { key: 'hang', title: 'Position', width: 74, editable: true },
  { key: 'circuit', title: 'Circ.', width: 40, editable: true, mono: true },
  { key: 'watts', title: 'Watts', width: 44, editable: true, mono: true, right: true },
  { key: 'curve', title: 'Curve', width: 64, editable: false },
  { key: 'flags', title: 'Set apart', width: 110, editable: false },
];

/** What is unusual about a fixture, in a word each. */
export function flagsOf(show: Show, f: FixtureRow): string[] {
  const t = f.transforms ?? {};
  const flags: string[] = [];
  if (f.patch.length === 0) flags.push('off the rig');
  if (f.patch.filter((p) => !p.break).length > 1) flags.push(`${f.patch.length} addresses`);
  if (f.swapPanTilt) flags.push('pan/tilt swapped');
  for (const [attribute, bend] of Object.entries(t)) {
    const word = attribute.toLowerCase();
    if (bend.invert) flags.push(`inv. ${word}`);
    if ((bend.min ?? 0) > 0 || (bend.max ?? 1) < 1)
      flags.push(
        attribute === 'Dimmer'
          ? `${Math.round(transformed({ ...bend, curve: undefined }, 0) * 100)}–${Math.round(transformed({ ...bend, curve: undefined }, 1) * 100)} %`
          : `${word} limited`,
      );
  }
  if (f.noGrandMaster) flags.push('no grand master');
  if (f.wheels) flags.push('own slots');
  if (f.watts !== undefined) flags.push(`own lamp ${f.watts} W`);
  void show;
  return flags;
}

/** What a cell says. */
export function cellText(show: Show, f: FixtureRow, column: ColumnKey): string {
  const type = show.types.get(f.typeId);
  switch (column) {
    case 'number':
      return String(f.number);
    case 'label':
      return f.label;
    case 'type':
      return type?.name ?? '';
    case 'mode':
      return f.mode;
    case 'address':
      return formatPoints(f.patch);
    case 'hang':
      return f.hang;
    case 'circuit':
      return f.circuitId ? (show.circuits.get(f.circuitId)?.name ?? '') : '';
    case 'watts':
      return String(wattsOf(show, f));
    case 'curve':
      return sayCurve(f.transforms?.Dimmer);
    case 'flags':
      return flagsOf(show, f).join(', ');
  }
}

/** What a column is sorted by. */
export function sortKey(show: Show, f: FixtureRow, column: ColumnKey): string | number {
  if (column === 'number') return f.number;
  if (column === 'address') return f.patch[0] ? absolute(f.patch[0]) : Infinity;
  if (column === 'watts') return wattsOf(show, f);
  const mode = column === 'mode' ? modeOf(show, f) : undefined;
  return mode ? channelCount(mode) : cellText(show, f, column);
}

/** What was typed into a cell. */
export interface CellWrite {
  id: string;
  column: ColumnKey;
  text: string;
}

/** Texts as the parameters of one edit, or the first that cannot be read. */
export function writeCells(
  show: Show,
  writes: readonly CellWrite[],
): { fixtures: { id: string; set: Record<string, unknown> }[] } | { problem: string } {
  const sets = new Map<string, Record<string, unknown>>();
  for (const { id, column, text } of writes) {
    const fixture = show.fixtures.get(id);
    if (!fixture) continue;
    const set = sets.get(id) ?? {};
    sets.set(id, set);
    const value = text.trim();
    if (column === 'number') {
      if (!/^\d{1,5}$/.test(value)) return { problem: `“${value}” is not a fixture number.` };
      set.number = Number(value);
    } else if (column === 'label') set.label = value;
    else if (column === 'hang') set.hang = value;
    else if (column === 'address') {
      const points = value === '—' ? [] : parsePoints(value);
      if (!points)
        return { problem: `“${value}” is no address; they look like 2.101, or 1 to 131072.` };
      set.patch = points;
    } else if (column === 'circuit') {
      const circuit = [...show.circuits.values()].find(
        (c) => c.name.toLowerCase() === value.toLowerCase(),
      );
      if (value !== '' && !circuit)
        return { problem: `There is no circuit ${value}; circuits are made under Power.` };
      set.circuitId = circuit?.id ?? null;
    } else if (column === 'watts') {
      const w = Number(value.replace(',', '.').replace(/\s*w$/i, ''));
      if (value !== '' && (!Number.isFinite(w) || w < 0))
        return {
          problem: `“${value}” is no number of watts; leave it empty for what the type draws.`,
        };
      set.watts = value === '' || w === show.types.get(fixture.typeId)?.watts ? null : w;
    } else
      return {
        problem: `The ${column} is not typed here; swap the type in the panel on the right.`,
      };
  }
  return { fixtures: [...sets].map(([id, set]) => ({ id, set })) };
}

const COUNTED = /^(.*?)(\d+)(\D*)$/;

/**
 * The texts of a column filled from its first cell: the same in all, or counted on. Addresses count by each unit's
 * channels, names by the last number in them.
 */
export function fill(
  show: Show,
  rows: readonly FixtureRow[],
  column: ColumnKey,
  how: 'same' | 'count',
): CellWrite[] {
  const first = rows[0];
  if (!first) return [];
  const text = cellText(show, first, column);
  if (how === 'same') return rows.slice(1).map((r) => ({ id: r.id, column, text }));
  if (column === 'address') {
    let at = first.patch[0] ? absolute(first.patch[0]) : 0;
    return rows.slice(1).map((r, i) => {
      const before = rows[i];
      at += before ? (modeOf(show, before)?.footprint ?? 1) : 1;
      const point = fromAbsolute(at);
      return { id: r.id, column, text: first.patch[0] ? `${point.universe}.${point.address}` : '' };
    });
  }
  const parts = COUNTED.exec(text);
  return rows.slice(1).map((r, i) => ({
    id: r.id,
    column,
    text: parts ? `${parts[1]}${Number(parts[2]) + i + 1}${parts[3]}` : `${text} ${i + 2}`,
  }));
}

/** Rows of tab-separated text, as spreadsheets put it on the clipboard. */
export const parseGrid = (text: string): string[][] =>
  text
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((line) => line.split('\t'));

/** A pasted block over the grid from one cell on; what hangs over its edge is left out and counted. */
export function paste(
  rows: readonly FixtureRow[],
  columns: readonly Column[],
  from: { row: number; column: number },
  block: readonly (readonly string[])[],
  selected: number,
): { writes: CellWrite[]; left: number } {
  const writes: CellWrite[] = [];
  let left = 0;
  // One value for many cells fills them all.
  const lines =
    block.length === 1 && selected > 1
      ? Array.from({ length: selected }, () => block[0] ?? [])
      : block;
  lines.forEach((line, r) => {
    line.forEach((text, c) => {
      const row = rows[from.row + r];
      const column = columns[from.column + c];
      if (row && column?.editable) writes.push({ id: row.id, column: column.key, text });
      else left++;
    });
  });
  return { writes, left };
}

/** Fixtures that have an attribute, for panels that change many at once. */
export const having = (
  show: Show,
  fixtures: readonly FixtureRow[],
  attribute: string,
): FixtureRow[] =>
  fixtures.filter((f) => {
    const mode = modeOf(show, f);
    return mode !== undefined && attributesOf(mode).includes(attribute);
  });
