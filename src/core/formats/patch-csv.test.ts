import fc from 'fast-check';
import { formatPoints } from '../fixtures/points.ts';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';
import { readCsv } from './csv-table.ts';
import { checkImport } from './patch-check.ts';
import { guessMapping, mapRows, writePatchCsv, type ImportRow } from './patch-csv.ts';
import type { CsvTable } from './csv-table.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
function table(text: string): CsvTable {
  const read = readCsv(bytes(text));
  if (isRefusal(read)) throw new Error(read.message);
  return read;
}
const rowsIn = (text: string): ImportRow[] => {
  const t = table(text);
  return mapRows(t, guessMapping(t.header));
};
const message = (data: Uint8Array): string => {
  const read = readCsv(data);
  return isRefusal(read) ? read.message : '';
};

describe('reading a file', () => {
  test('commas, semicolons and tabs, quotes and a byte order mark are read', () => {
    for (const separator of [',', ';', '\t']) {
      const t = table(
        `\ufeffNo.${separator}Name\r\n1${separator}"Bow, left"\r\n\r\n2${separator}Stern\r\n`.replaceAll(
          'Bow, left',
          separator === ',' ? 'Bow, left' : 'Bow',
        ),
      );
      expect(t.header).toEqual(['No.', 'Name']);
      expect(t.rows.map((r) => r.line)).toEqual([2, 4]);
    }
  });

  test('UTF-16 is read when it says so; other encodings are refused in words', () => {
    const utf16 = new Uint8Array([
      0xff,
      0xfe,
      ...[...'Number,Label\n7,Skerry'].flatMap((c) => [c.charCodeAt(0), 0]),
    ]);
    const read = readCsv(utf16);
    expect(!isRefusal(read) && read.rows[0]?.cells).toEqual(['7', 'Skerry']);
    expect(message(new Uint8Array([0x4e, 0x6f, 0x0a, 0xf8, 0x72]))).toMatch(/not in UTF-8/);
    expect(message(new Uint8Array([0x4e, 0, 0, 0x0a]))).toMatch(/binary data/);
  });

  test('an empty file, one without rows, 50,000 rows and an open quotation mark are refused', () => {
    expect(message(bytes(''))).toMatch(/empty/);
    expect(message(bytes('Number,Label\n'))).toMatch(/no rows/);
    expect(
      message(bytes(`Number\n${Array.from({ length: 50_000 }, (_, i) => i + 1).join('\n')}`)),
    ).toMatch(/at most 10,000 rows/);
    expect(message(bytes('Number,Label\n1,"Bow\n2,Stern\n'))).toMatch(/quotation mark/);
  });

  test('columns are found by their headers, whatever their case and order', () => {
    expect(guessMapping(['POSITION', 'Fixture Type', 'dmx address', 'Name', 'no.'])).toEqual({
      hang: 0,
      type: 1,
      address: 2,
      label: 3,
      number: 4,
    });
  });
});

describe('the dry run', () => {
  test.each<[string, string, RegExp]>([
    [
      'a number twice',
      'Number,Type,Address\n201,Dimmer,5.1\n201,Dimmer,5.2',
      /line 3|on line 2 already/,
    ],
    ['no number', 'Number,Type,Address\n,Dimmer,5.1', /number is missing/],
    ['a type that nobody knows', 'Number,Type,Address\n201,Puffin,5.1', /no type “Puffin”/],
    [
      'a mode that the type lacks',
      'Number,Type,Mode,Address\n201,Dimmer,Pixel,5.1',
      /has no mode “Pixel”; it has 8 bit, 16 bit/,
    ],
    ['an address past 512', 'Number,Type,Address\n201,Dimmer,5.513', /no address/],
    ['a unit that ends past 512', 'Number,Type,Mode,Address\n201,RGBW par,RGBW,5.510', /past 512/],
    ['a place that is taken in the show', 'Number,Type,Address\n201,Dimmer,1.3', /would sit on 3/],
    [
      'two rows on one place',
      'Number,Type,Mode,Address\n201,RGBW par,RGBW,5.1\n202,RGBW par,RGBW,5.3',
      /would sit on line 2/,
    ],
    ['a formula', 'Number,Label,Type,Address\n201,=1+1,Dimmer,5.1', /begins like a formula/],
    ['another formula', 'Number,Label,Type,Address\n201,@cmd,Dimmer,5.1', /begins like a formula/],
    [
      'another type for a number of the show',
      'Number,Type,Address\n11,Dimmer,5.1',
      /Swap its type/,
    ],
  ])('lists %s by row', (_what, text, words) => {
    const show = exampleShow();
    const { problems } = checkImport(show, rowsIn(text));
    expect(problems.map((p) => `line ${p.line}: ${p.message}`).join(' ')).toMatch(words);
    expect(refused(show, 'import-patch', { rows: rowsIn(text) }).message).toMatch(
      /Nothing was imported/,
    );
    expect(show.fixtures.size).toBe(12);
  });

  test('every problem is listed, not only the first', () => {
    const { problems } = checkImport(
      exampleShow(),
      rowsIn('Number,Type,Address\nx,Dimmer,5.1\n202,Puffin,5.2\n203,Dimmer,9.999'),
    );
    expect(problems.map((p) => [p.line, p.field])).toEqual([
      [2, 'number'],
      [3, 'type'],
      [4, 'address'],
    ]);
  });
});

test('an import makes what is new and moves what is there, with its programming kept', () => {
  const show = exampleShow();
  cue(show, 1, { 2: 60 });
  const { summary } = apply(show, 'import-patch', {
    rows: rowsIn(
      'Number,Label,Type,Mode,Address,Position,Circuit\n2,Prompt side,Dimmer,,7.10,Bar 1,D7\n301,Keel,Tern par,RGBW,7.21,Bar 2,D7\n302,Mast,Quillon Wash 19,17,3173,,\n',
    ),
  });
  expect(summary).toBe('Imported a patch: 2 new fixtures, 1 changed');
  expect(show.fixtureByNumber(2)).toMatchObject({
    label: 'Prompt side',
    patch: [{ universe: 7, address: 10 }],
    id: idOf(show, 2),
  });
  expect([...show.values.values()][0]).toMatchObject({ fixtureId: idOf(show, 2), level: 0.6 });
  expect(formatPoints(show.fixtureByNumber(302)?.patch ?? [])).toBe('7.101');
  expect([...show.circuits.values()].map((c) => c.name)).toEqual(['D7']);
});

test('what is written is read again, whatever names are in it, and formulas lose their teeth', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc
          .oneof(
            fc.string({ minLength: 1, maxLength: 20 }),
            fc.stringMatching(/^'{0,2}[=+@-][a-z0-9' ]{0,6}$/),
          )
          .filter((s) => s.trim() !== '' && /^[^\u0000-\u001f\u007f]+$/.test(s)),
        { minLength: 1, maxLength: 4 },
      ),
      (labels) => {
        const show = exampleShow();
        labels.forEach((label, i) =>
          apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, i + 1), set: { label } }] }),
        );
        const text = writePatchCsv(show);
        const rows = rowsIn(text);
        rows.forEach((r) => expect(/^[=@+-]/.test(r.label)).toBe(false));
        const { ready, problems } = checkImport(show, rows);
        expect(problems).toEqual([]);
        for (const r of ready) expect(r.label).toBe(show.fixtureByNumber(r.number)?.label);
        return (
          rows.length === show.fixtures.size &&
          rows.every(({ number, universe, address }) => {
            // No cell is a number with a point in it, of which a spreadsheet would drop the last 0.
            const said = universe === '' ? address : `${universe}.${address}`;
            return (
              formatPoints(show.fixtureByNumber(Number(number))?.patch ?? []) === said &&
              !/^\d+\.\d+$/.test(address)
            );
          })
        );
      },
    ),
    { numRuns: 60 },
  );
});
