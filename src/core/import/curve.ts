/** A measured dimmer curve, as a table of levels and what comes of them, laid on units. */
import { clamp } from '../numbers.ts';
import { rowsOf, type CsvField, type CsvMapping, type CsvTable } from '../formats/csv-table.ts';
import { Oddities } from '../formats/odd.ts';
import { numberIn } from '../formats/xml.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { refuse, type Result } from '../refusal.ts';
import { replaceRow } from '../edits/define-edit.ts';
import { numberRanges, plural } from '../words.ts';
import type { ImportContext, Proposed } from './proposed.ts';

/** What the second column is called where it is light that was measured, and not what is sent. */
const LIGHT = ['light', 'lux', 'measured', 'brightness', 'flux', 'lumen', 'lumens'];
/** What a table of a dimmer’s curve may have. */
export const CURVE_FIELDS: readonly CsvField[] = [
  { key: 'level', label: 'Level', words: ['level', 'in', 'input', 'percent', 'dmxin', 'control'] },
  {
    key: 'out',
    label: 'Comes out',
    words: ['comesout', 'out', 'output', 'dmx', 'value', ...LIGHT],
  },
];
/** Points of a curve in a row, evenly from 0 to 1. */
const POINTS = 33;

type Points = readonly (readonly [x: number, y: number])[];

function between(points: Points, x: number): number {
  const after = points.findIndex(([at]) => at >= x);
  const [x1 = 0, y1 = 0] = points[after < 0 ? points.length - 1 : after] ?? [];
  const [x0 = 0, y0 = 0] = points[Math.max(0, after - 1)] ?? [];
  if (after <= 0 || x1 === x0) return y1;
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}

/** Shares of the largest, from the smallest up; each level once. */
function pointsOf(table: CsvTable, mapping: CsvMapping, odd: Oddities): Points {
  const read = rowsOf(table, mapping).flatMap(({ line, cell }): [number, number][] => {
    const [x, y] = [
      numberIn(cell('level').replace('%', '')),
      numberIn(cell('out').replace('%', '')),
    ];
    if (x !== undefined && y !== undefined && x >= 0 && y >= 0) return [[x, y]];
    odd.add(
      `line ${line}`,
      `“${cell('level')}, ${cell('out')}” are no two numbers; the line was left out`,
    );
    return [];
  });
  const sorted = [...new Map(read).entries()].sort((a, b) => a[0] - b[0]);
  const [top, most] = [sorted.at(-1)?.[0] ?? 0, Math.max(0, ...sorted.map(([, y]) => y))];
  return top > 0 && most > 0 ? sorted.map(([x, y]) => [x / top, y / most] as const) : [];
}

/** What must be sent so that the light follows the level evenly. */
const inverse = (points: Points): Points =>
  [...points]
    .map(([x, y]) => [y, x] as const)
    .sort((a, b) => a[0] - b[0] || a[1] - b[1])
    .filter(([y], i, all) => i === 0 || y > (all[i - 1]?.[0] ?? -1));

/** What a table of in and out, in percent, would make of the curve of the chosen units. */
export function importCurve(
  table: CsvTable,
  mapping: CsvMapping,
  c: ImportContext,
): Result<Omit<Proposed, 'kind' | 'columns'>> {
  const odd = new Oddities();
  const points = pointsOf(table, mapping, odd);
  if (points.length < 2)
    return refuse('invalid', 'A curve has at least two lines with a level and what comes of it.');
  const isLight = LIGHT.includes((table.header[mapping.out ?? -1] ?? '').trim().toLowerCase());
  const line = isLight ? inverse(points) : points;
  const curve = Array.from(
    { length: POINTS },
    (_, i) => Math.round(clamp(between(line, i / (POINTS - 1))) * 1e4) / 1e4,
  );
  const fixtures = (c.options.fixtures ?? []).flatMap((number): FixtureRow[] => {
    const fixture = c.show.fixtureByNumber(number);
    if (!fixture) odd.add(`fixture ${number}`, 'is not in this show');
    return fixture ? [fixture] : [];
  });
  if (fixtures.length === 0) odd.add('the curve', 'is for chosen units: choose them first');
  const changes = fixtures.map((f) =>
    replaceRow('fixtures', f, {
      ...f,
      transforms: { ...f.transforms, Dimmer: { ...f.transforms?.Dimmer, curve } },
    }),
  );
  return {
    items: fixtures.map((f) => ({
      what: 'fixture',
      name: `${f.number} ${f.label}`,
      does: 'changed',
      says: 'gets the curve',
    })),
    problems: odd.all(),
    changes,
    summary: `Laid a measured curve of ${plural(points.length, 'point')} on ${numberRanges(fixtures.map((f) => f.number)) || 'no unit'}${isLight ? ', so that light follows the level' : ''}`,
  };
}
