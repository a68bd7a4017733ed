/** The patch as comma-separated values: what its columns are, and writing it. */
import Papa from 'papaparse';
import { z } from 'zod';
import { formatPoints } from '../fixtures/points.ts';
import type { PatchPoint } from '../fixtures/rows.ts';
import { channelCount } from '../rig/attributes.ts';
import { wattsOf } from '../rig/power.ts';
import type { Show } from '../show/show.ts';
import { columnsOf, harmless, type CsvTable } from './csv-table.ts';

/** What a table of fixtures may have. */
export const PATCH_FIELDS = [
  {
    key: 'number',
    label: 'Number',
    words: [
      ...['number', 'no', 'nr', 'fixture', 'fixturenumber', 'fixtureid', 'id'],
      ...['channel', 'channelnumber', 'chan', 'ch', 'chn', 'unitid'],
    ],
  },
  {
    key: 'label',
    label: 'Label',
    words: ['label', 'name', 'fixturename', 'title', 'purpose', 'description'],
  },
  { key: 'maker', label: 'Maker', words: ['maker', 'manufacturer', 'make', 'brand'] },
  {
    key: 'type',
    label: 'Type',
    words: ['type', 'fixturetype', 'model', 'instrument', 'instrumenttype', 'unittype', 'device'],
  },
  { key: 'mode', label: 'Mode', words: ['mode', 'dmxmode', 'personality'] },
  {
    key: 'address',
    label: 'Address (2.101 or absolute)',
    words: ['address', 'patch', 'dmxaddress', 'dmx', 'absoluteaddress', 'absolute', 'addresses'],
  },
  { key: 'universe', label: 'Universe, when apart', words: ['universe', 'uni', 'dmxuniverse'] },
  { key: 'hang', label: 'Position', words: ['position', 'hangson', 'hang', 'location', 'bar'] },
  { key: 'circuit', label: 'Circuit', words: ['circuit', 'circ', 'circuitname'] },
] as const;
export type PatchField = (typeof PATCH_FIELDS)[number]['key'];
/** Column by field; a field without a column is left out. */
export type Mapping = Partial<Record<PatchField, number>>;

/** Columns by what their headers are called. */
export const guessMapping = (header: readonly string[]): Mapping => columnsOf(header, PATCH_FIELDS);

/** A line of a table of fixtures, as text, before it is understood. */
export const ImportRow = z.object({
  line: z.number().int().min(1),
  number: z.string().max(200),
  label: z.string().max(1000).default(''),
  maker: z.string().max(1000).default(''),
  type: z.string().max(1000).default(''),
  mode: z.string().max(1000).default(''),
  address: z.string().max(1000).default(''),
  universe: z.string().max(200).default(''),
  hang: z.string().max(1000).default(''),
  circuit: z.string().max(1000).default(''),
});
export type ImportRow = z.infer<typeof ImportRow>;

/** Rows of a table by what their columns mean. */
export function mapRows(table: CsvTable, mapping: Mapping): ImportRow[] {
  const cell = (cells: readonly string[], key: PatchField): string => {
    const at = mapping[key];
    return at === undefined ? '' : (cells[at] ?? '').trim();
  };
  return table.rows.map(({ line, cells }) => ({
    line,
    number: cell(cells, 'number'),
    label: cell(cells, 'label'),
    maker: cell(cells, 'maker'),
    type: cell(cells, 'type'),
    mode: cell(cells, 'mode'),
    address: cell(cells, 'address'),
    universe: cell(cells, 'universe'),
    hang: cell(cells, 'hang'),
    circuit: cell(cells, 'circuit'),
  }));
}

/** Universe and address apart, so that a spreadsheet does not make 1.1 of 1.10; several addresses are words to it. */
function addressCells(points: readonly PatchPoint[]): [string, string] {
  const [only, ...more] = points;
  return only && more.length === 0
    ? [String(only.universe), String(only.address)]
    : ['', formatPoints(points)];
}

/** The patch as a file: a header and a row per fixture, in the order of their numbers. */
export function writePatchCsv(show: Show): string {
  const rows = [...show.fixtures.values()]
    .sort((a, b) => a.number - b.number)
    .map((f) => {
      const type = show.types.get(f.typeId);
      const mode = type?.modes.find((m) => m.name === f.mode);
      const circuit = f.circuitId ? (show.circuits.get(f.circuitId)?.name ?? '') : '';
      return [
        f.number,
        harmless(f.label),
        harmless(type?.maker ?? ''),
        harmless(type?.name ?? ''),
        harmless(f.mode),
        mode ? channelCount(mode) : '',
        ...addressCells(f.patch),
        harmless(f.hang),
        harmless(circuit),
        type || f.watts !== undefined ? wattsOf(show, f) : '',
      ];
    });
  return (
    Papa.unparse(
      {
        fields: [
          'Number',
          'Label',
          'Maker',
          'Type',
          'Mode',
          'Channels',
          'Universe',
          'Address',
          'Position',
          'Circuit',
          'Watts',
        ],
        data: rows,
      },
      { newline: '\r\n' },
    ) + '\r\n'
  );
}
