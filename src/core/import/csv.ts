/** Tables that people keep in spreadsheets: which one a file is, what its rows would do, and the same written out. */
import { CUE_FIELDS, readCueLines } from '../formats/cues-csv.ts';
import {
  columnsOf,
  readNumbers,
  rowsOf,
  writeCsv,
  writeNumbers,
  type CsvField,
  type CsvMapping,
  type CsvTable,
  readCsv,
} from '../formats/csv-table.ts';
import { Oddities } from '../formats/odd.ts';
import { mapRows, PATCH_FIELDS } from '../formats/patch-csv.ts';
import { numberIn } from '../formats/xml.ts';
import { membersOf } from '../groups/members.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { PALETTE_FAMILIES, type PaletteRow } from '../palettes/rows.ts';
import type { RouteRow } from '../routes/rows.ts';
import { firstList, type RowChange, type Show } from '../show/show.ts';
import { insertRow, replaceRow } from '../edits/define-edit.ts';
import { planEdit } from '../edits/plan-edit.ts';
import { same } from '../same.ts';
import { plural } from '../words.ts';
import { CURVE_FIELDS, importCurve } from './curve.ts';
import type { ImportContext, Item, Kind, Proposed } from './proposed.ts';

const NUMBER: CsvField = { key: 'number', label: 'Number', words: ['number', 'no', 'nr', 'id'] };
const NAME: CsvField = { key: 'name', label: 'Name', words: ['name', 'label', 'title'] };

const GROUP_FIELDS: readonly CsvField[] = [
  { ...NUMBER, words: [...NUMBER.words, 'group', 'groupnumber'] },
  { ...NAME, words: [...NAME.words, 'groupname'] },
  {
    key: 'fixtures',
    label: 'Fixtures',
    words: ['fixtures', 'members', 'channels', 'units', 'fixture'],
  },
];
const PALETTE_FIELDS: readonly CsvField[] = [
  { ...NUMBER, words: [...NUMBER.words, 'palette', 'palettenumber'] },
  { key: 'family', label: 'Family', words: ['family', 'kind', 'palettetype', 'palettefamily'] },
  { ...NAME, words: [...NAME.words, 'palettename'] },
  { key: 'value', label: 'For any unit', words: ['foranyunit', 'value', 'any'] },
  { key: 'units', label: 'Units', words: ['units'] },
];
const OUTPUT_FIELDS: readonly CsvField[] = [
  { key: 'universe', label: 'Universe', words: ['universe', 'uni'] },
  { key: 'protocol', label: 'Protocol', words: ['protocol', 'output'] },
  { key: 'destination', label: 'Destination', words: ['destination', 'to', 'ip', 'host'] },
  { key: 'card', label: 'Card', words: ['card', 'network card', 'interface', 'nic'] },
  {
    key: 'wire',
    label: 'Number there',
    words: ['numberthere', 'wire', 'portaddress', 'sacnuniverse'],
  },
  { key: 'priority', label: 'Priority', words: ['priority', 'prio'] },
  { key: 'on', label: 'On', words: ['on', 'active', 'enabled'] },
];

interface TableKind {
  kind: Kind;
  fields: readonly CsvField[];
  /** Columns without which it is another table. */
  needs: readonly string[];
  /** Columns by which it is told from others that have the same. */
  typical: readonly string[];
}
const TABLE_KINDS: readonly TableKind[] = [
  {
    kind: 'outputs',
    fields: OUTPUT_FIELDS,
    needs: ['universe', 'protocol'],
    typical: ['destination', 'wire'],
  },
  { kind: 'groups', fields: GROUP_FIELDS, needs: ['number', 'fixtures'], typical: ['fixtures'] },
  {
    kind: 'palettes',
    fields: PALETTE_FIELDS,
    needs: ['number', 'family'],
    typical: ['family', 'value'],
  },
  { kind: 'curve', fields: CURVE_FIELDS, needs: ['level', 'out'], typical: ['level', 'out'] },
  {
    kind: 'patch',
    fields: PATCH_FIELDS,
    needs: ['number'],
    typical: ['address', 'type', 'mode', 'universe', 'hang'],
  },
  {
    kind: 'cues',
    fields: CUE_FIELDS,
    needs: ['number'],
    typical: ['up', 'down', 'follow', 'call', 'delay', 'clock', 'after'],
  },
];

/** @returns undefined for what is no table, or one whose columns say nothing */
export function tableKind(bytes: Uint8Array): Kind | undefined {
  const table = readCsv(bytes);
  if (isRefusal(table) || table.header.length < 2) return undefined;
  const scored = TABLE_KINDS.flatMap(({ kind, fields, needs, typical }) => {
    const found = columnsOf(table.header, fields);
    if (needs.some((n) => found[n] === undefined)) return [];
    return [
      {
        kind,
        score:
          typical.filter((t) => found[t] !== undefined).length + Object.keys(found).length / 100,
      },
    ];
  });
  return scored.sort((a, b) => b.score - a.score)[0]?.kind;
}

interface Rows {
  items: Item[];
  changes: RowChange[];
}
type Reader = (
  show: Show,
  rows: ReturnType<typeof rowsOf>,
  odd: Oddities,
  newId: () => string,
) => Rows;

const whole = (text: string): number | undefined => {
  const n = numberIn(text);
  return n !== undefined && Number.isInteger(n) && n >= 1 && n <= 99_999 ? n : undefined;
};

/** What is there already changes, what is not is made; what stays as it is is counted and not written. */
function put<R extends { id: string }>(
  rows: Rows,
  table: 'groups' | 'palettes' | 'routes',
  item: Omit<Item, 'does'>,
  old: R | undefined,
  next: R,
): void {
  const again = old && same(old, next) ? 'same' : 'changed';
  const does = old ? again : 'new';
  rows.items.push({ ...item, does });
  if (does === 'new') rows.changes.push(insertRow(table, next as never));
  if (does === 'changed') rows.changes.push(replaceRow(table, old as never, next as never));
}

const readGroups: Reader = (show, lines, odd, newId) => {
  const rows: Rows = { items: [], changes: [] };
  const known = new Map([...show.groups.values()].map((g) => [g.number, g]));
  const byNumber = new Map([...show.fixtures.values()].map((f) => [f.number, f.id]));
  for (const { line, cell } of lines) {
    const number = whole(cell('number'));
    const where = `line ${line}`;
    if (number === undefined) {
      odd.add(where, `“${cell('number')}” is no group’s number; the line was left out`);
      continue;
    }
    const numbers = readNumbers(cell('fixtures'));
    if (!numbers) {
      odd.add(
        where,
        `“${cell('fixtures').slice(0, 60)}” are no fixtures; they look like 101-106 201. The line was left out`,
      );
      continue;
    }
    const missing = numbers.filter((n) => !byNumber.has(n));
    if (missing.length > 0)
      odd.add(where, `${writeNumbers(missing)} are not in this show and were left out`);
    const old = known.get(number);
    const listed = [...new Set(numbers.flatMap((n) => byNumber.get(n) ?? []))];
    // A group of groups that has these units stays one.
    const fixtures = old && same(membersOf(show, old), listed) ? old.fixtures : listed;
    const next = {
      id: old?.id ?? newId(),
      number,
      name: cell('name') || old?.name || `Group ${number}`,
      fixtures,
    };
    known.set(number, next);
    put(
      rows,
      'groups',
      { what: 'group', name: `${number} ${next.name}`, says: plural(listed.length, 'fixture') },
      old,
      next,
    );
  }
  return rows;
};

/** What a palette says for any unit, as people write it; undefined for what is none. */
function valueOf(family: PaletteRow['family'], text: string): PaletteRow['any'] | undefined {
  const numbers = (text.match(/-?\d+(?:[.,]\d+)?/g) ?? []).map((n) => numberIn(n) ?? 0);
  const [a, b, c] = numbers;
  if (family === 'intensity' && a !== undefined) return { level: a / 100 };
  if (family === 'colour' && /k\s*$/i.test(text) && a !== undefined) return { kelvin: a };
  if (family === 'colour' && a !== undefined && b !== undefined) return { colour: { x: a, y: b } };
  if (family === 'position' && a !== undefined && b !== undefined)
    return { point: { x: a, y: b, z: c ?? 0 } };
  return undefined;
}

function writeValue({ any }: PaletteRow): string {
  if (any?.level !== undefined) return `${Math.round(any.level * 1000) / 10} %`;
  if (any?.kelvin !== undefined) return `${any.kelvin} K`;
  if (any?.colour) return `xy ${any.colour.x} ${any.colour.y}`;
  return any?.point ? `at ${any.point.x} ${any.point.y} ${any.point.z}` : '';
}

const readPalettes: Reader = (show, lines, odd, newId) => {
  const rows: Rows = { items: [], changes: [] };
  const key = (p: Pick<PaletteRow, 'family' | 'number'>): string => `${p.family}/${p.number}`;
  const known = new Map([...show.palettes.values()].map((p) => [key(p), p]));
  for (const { line, cell } of lines) {
    const number = whole(cell('number'));
    const family = PALETTE_FAMILIES.find(
      (f) =>
        f === cell('family').toLowerCase() ||
        (f === 'colour' && cell('family').toLowerCase() === 'color'),
    );
    if (number === undefined || !family) {
      odd.add(
        `line ${line}`,
        `“${cell('number')} ${cell('family')}” is no palette’s number and family; the line was left out`,
      );
      continue;
    }
    const old = known.get(key({ family, number }));
    const text = cell('value');
    // What is written of it is shorter than what it says.
    const isAsWritten = text === '' || (old !== undefined && text === writeValue(old));
    const any = isAsWritten ? old?.any : valueOf(family, text);
    if (text !== '' && !any)
      odd.add(
        `line ${line}`,
        `“${text.slice(0, 40)}” is no ${family} for any unit and was left out`,
      );
    if (!old && !any) {
      odd.add(
        `line ${line}`,
        `palette ${number} would say nothing: units’ own values are not in a table. The line was left out`,
      );
      continue;
    }
    const name = cell('name') || old?.name || `${family} ${number}`;
    const next: PaletteRow = old
      ? { ...old, name, ...(any ? { any } : {}) }
      : { id: newId(), number, family, name, fixtures: {}, types: {}, ...(any ? { any } : {}) };
    known.set(key(next), next);
    put(
      rows,
      'palettes',
      { what: `${family} palette`, name: `${number} ${name}`, says: writeValue(next) },
      old,
      next,
    );
  }
  return rows;
};

const PROTOCOLS: Record<string, RouteRow['protocol']> = {
  sacn: 'sacn',
  'e1.31': 'sacn',
  artnet: 'artnet',
  'art-net': 'artnet',
};

const readOutputs: Reader = (show, lines, odd, newId) => {
  const rows: Rows = { items: [], changes: [] };
  const place = (r: Omit<RouteRow, 'id'>): string =>
    `${r.protocol}/${r.destination}/${r.card ?? ''}/${r.wire}`;
  const known = new Map([...show.routes.values()].map((r) => [place(r), r]));
  for (const { line, cell } of lines) {
    const universe = whole(cell('universe'));
    const protocol = PROTOCOLS[cell('protocol').toLowerCase().replaceAll(/\s/g, '')];
    if (universe === undefined || !protocol) {
      odd.add(
        `line ${line}`,
        `“${cell('universe')} ${cell('protocol')}” is no universe over sACN or Art-Net; the line was left out`,
      );
      continue;
    }
    const destination = (
      cell('destination').toLowerCase() || (protocol === 'sacn' ? 'multicast' : 'nodes')
    ).replace(/^(the )?simulated node$/, 'node');
    const wire = numberIn(cell('wire')) ?? (protocol === 'sacn' ? universe : universe - 1);
    const card = cell('card');
    const route = {
      universe,
      protocol,
      destination,
      wire,
      priority: numberIn(cell('priority')) ?? 100,
      on: !/^(no|off|0|false)$/i.test(cell('on')),
      ...(card === '' ? {} : { card }),
    };
    const old = known.get(place(route));
    if (old && old.universe !== universe) {
      odd.add(`line ${line}`, `universe ${old.universe} goes there already; the line was left out`);
      continue;
    }
    const next: RouteRow = { id: old?.id ?? newId(), ...route };
    known.set(place(next), next);
    put(
      rows,
      'routes',
      {
        what: 'output',
        name: `universe ${universe}`,
        says: `${protocol} ${wire} to ${destination}`,
      },
      old,
      next,
    );
  }
  return rows;
};

const READERS: Partial<Record<Kind, { reads: Reader; word: string }>> = {
  groups: { reads: readGroups, word: 'group' },
  palettes: { reads: readPalettes, word: 'palette' },
  outputs: { reads: readOutputs, word: 'output' },
};

const byLine = (problems: readonly { line: number; text: string }[]): Proposed['problems'] =>
  problems.map((p) => ({ where: `line ${p.line}`, text: p.text }));

function importPatch(
  table: CsvTable,
  mapping: CsvMapping,
  c: ImportContext,
): Result<Omit<Proposed, 'kind' | 'columns'>> {
  const planned = planEdit(
    c.show,
    c.role,
    'import-patch',
    { rows: mapRows(table, mapping) },
    c.editId,
  );
  if (isRefusal(planned)) {
    if (!planned.fields) return planned;
    const problems = Object.entries(planned.fields).map(([where, text]) => ({ where, text }));
    return { items: [], problems, changes: [], summary: planned.message };
  }
  const items = planned.changes.flatMap((x): Item[] =>
    x.table === 'fixtures' && x.after
      ? [
          {
            what: 'fixture',
            name: `${x.after.number} ${x.after.label}`,
            does: x.before ? 'changed' : 'new',
          },
        ]
      : [],
  );
  return { items, problems: [], changes: planned.changes, summary: planned.summary };
}

function importCues(table: CsvTable, c: ImportContext): Result<Omit<Proposed, 'kind' | 'columns'>> {
  const { ready, problems } = readCueLines(table);
  const listId = c.options.list ?? firstList(c.show)?.id ?? '';
  if (ready.length === 0)
    return {
      items: [],
      problems: byLine(problems),
      changes: [],
      summary: 'None of its lines is a cue.',
    };
  const cues = ready.map(({ line, ...cue }) => (void line, cue));
  const planned = planEdit(c.show, c.role, 'import-cues', { listId, cues }, c.editId);
  if (isRefusal(planned)) return planned;
  const items = planned.changes.flatMap((x): Item[] =>
    x.table === 'cues' && x.after
      ? [
          {
            what: 'cue',
            name: `${x.after.number / 1000} ${x.after.name}`,
            does: x.before ? 'changed' : 'new',
          },
        ]
      : [],
  );
  return { items, problems: byLine(problems), changes: planned.changes, summary: planned.summary };
}

/** What the rows of a table would do. */
export function importTable(kind: Kind, bytes: Uint8Array, c: ImportContext): Result<Proposed> {
  const table = readCsv(bytes);
  if (isRefusal(table)) return table;
  const fields = TABLE_KINDS.find((t) => t.kind === kind)?.fields ?? [];
  const guessed = columnsOf(table.header, fields);
  const mapping = c.options.columns ?? guessed;
  const columns = {
    header: table.header,
    fields: fields.map(({ key, label }) => ({ key, label })),
    mapping,
  };
  const withColumns = (p: Result<Omit<Proposed, 'kind' | 'columns'>>): Result<Proposed> =>
    isRefusal(p) ? p : { ...p, kind, columns };
  if (kind === 'patch') return withColumns(importPatch(table, mapping, c));
  if (kind === 'cues') return withColumns(importCues(table, c));
  if (kind === 'curve') return withColumns(importCurve(table, mapping, c));
  const reader = READERS[kind];
  if (!reader) return refuse('invalid', 'This is no table that Wingman reads.');
  const odd = new Oddities();
  const { items, changes } = reader.reads(c.show, rowsOf(table, mapping), odd, c.newId);
  return {
    kind,
    items,
    problems: odd.all(),
    changes,
    columns,
    summary: sayTable(items, reader.word),
  };
}

function sayTable(items: readonly Item[], word: string): string {
  const count = (does: Item['does']): number => items.filter((i) => i.does === does).length;
  if (count('new') + count('changed') === 0 && count('same') > 0)
    return `The ${plural(count('same'), word)} of this table ${count('same') === 1 ? 'is' : 'are'} in the show as here`;
  return `Took in a table: ${plural(count('new'), `new ${word}`)}, ${plural(count('changed'), word)} changed`;
}

const numbersOf = (show: Show, ids: readonly string[]): number[] =>
  ids.flatMap((id) => show.fixtures.get(id)?.number ?? []);

/** Tables as files; those that are here are read again. */
export const TABLE_FILES: Record<string, (show: Show) => string> = {
  'groups.csv': (show) =>
    writeCsv(
      GROUP_FIELDS,
      [...show.groups.values()]
        .sort((a, b) => a.number - b.number)
        .map((g) => [String(g.number), g.name, writeNumbers(numbersOf(show, membersOf(show, g)))]),
    ),
  'palettes.csv': (show) =>
    writeCsv(
      PALETTE_FIELDS,
      [...show.palettes.values()]
        .sort((a, b) => a.family.localeCompare(b.family) || a.number - b.number)
        .map((p) => [
          String(p.number),
          p.family,
          p.name,
          writeValue(p),
          String(Object.keys(p.fixtures).length),
        ]),
    ),
  'outputs.csv': (show) =>
    writeCsv(
      OUTPUT_FIELDS,
      [...show.routes.values()]
        .sort((a, b) => a.universe - b.universe || a.protocol.localeCompare(b.protocol))
        .map((r) => [
          String(r.universe),
          r.protocol,
          r.destination,
          r.card ?? '',
          String(r.wire),
          String(r.priority),
          r.on ? 'yes' : 'no',
        ]),
    ),
};
