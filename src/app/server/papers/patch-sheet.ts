/** The patch on paper: by number, by universe, by position, and the settings of address switches. */
import { wattsOf } from '@/core/rig/power';
import type { Content } from 'pdfmake/interfaces';
import { attributeInfo, channelCount } from '@/core/rig/attributes';
import { occupied, usedByUniverse } from '@/core/rig/addresses';
import { absolute, formatPoint, formatPoints, fromAbsolute, modeOf } from '@/core/fixtures/points';
import { switchesFor } from '@/core/rig/switches';
import { isPlain, sayCurve } from '@/core/rig/transform';
import type { FixtureRow } from '@/core/fixtures/rows';
import { showName, universeName, type Show } from '@/core/show/show';
import { mono, plainText, RULED, type Paper } from './paper';

/** How a patch may be sorted for paper. */
export const PATCH_PAPERS = ['number', 'universe', 'position', 'switches'] as const;
export type PatchPaper = (typeof PATCH_PAPERS)[number];

const byNumber = (show: Show): FixtureRow[] =>
  [...show.fixtures.values()].sort((a, b) => a.number - b.number);
const typeName = (show: Show, f: FixtureRow): string =>
  `${show.types.get(f.typeId)?.name ?? ''}, ${f.mode}`;
const circuit = (show: Show, f: FixtureRow): string =>
  f.circuitId ? (show.circuits.get(f.circuitId)?.name ?? '') : '';

const word = (attribute: string): string => attributeInfo(attribute).label.toLowerCase();

/** What a technician must know of a unit beyond its address. */
function notes(f: FixtureRow): string {
  const t = f.transforms ?? {};
  const words = Object.entries(t).flatMap(([a, x]) =>
    isPlain(x)
      ? []
      : [
          x.invert ? `${word(a)} inverted` : '',
          (x.min ?? 0) > 0 || (x.max ?? 1) < 1
            ? `${word(a)} ${Math.round((x.min ?? 0) * 100)}–${Math.round((x.max ?? 1) * 100)} %`
            : '',
          x.curve ? `curve: ${sayCurve(x).toLowerCase()}` : '',
        ],
  );
  if (f.swapPanTilt) words.push('pan and tilt swapped');
  if (f.noGrandMaster) words.push('not by grand master');
  return words.filter((w) => w !== '').join('; ');
}

const HEAD = [
  'No.',
  'Label',
  'Type, mode',
  'Ch',
  'Address',
  'Position',
  'Circuit',
  'Watts',
  'Notes',
];
const WIDTHS = [26, 76, '*', 18, 54, 58, 36, 32, 78];

/** @param placed a column for the position too */
function rowsOf(show: Show, fixtures: readonly FixtureRow[], placed = true): Content {
  const shown = <T>(cells: readonly T[]): T[] => cells.filter((_, i) => placed || i !== 5);
  const body = fixtures.map((f) => {
    const mode = modeOf(show, f);
    return shown([
      mono(String(f.number), { bold: true }),
      plainText(f.label),
      plainText(typeName(show, f)),
      mono(String(mode ? channelCount(mode) : ''), { alignment: 'right' }),
      mono(formatPoints(f.patch) || 'off the rig'),
      plainText(f.hang),
      mono(circuit(show, f)),
      mono(String(wattsOf(show, f)), { alignment: 'right' }),
      plainText(notes(f), { fontSize: 8, color: '#444' }),
    ]);
  });
  return {
    table: {
      headerRows: 1,
      widths: shown(WIDTHS) as never,
      body: [shown(HEAD).map((h) => plainText(h, { bold: true, fontSize: 8 })), ...body],
      dontBreakRows: true,
    },
    layout: RULED,
  };
}

const section = (title: string, about: string, table: Content): Content => ({
  stack: [
    {
      columns: [
        plainText(title, { bold: true, fontSize: 11, headlineLevel: 1, width: 140 }),
        plainText(about, { alignment: 'right', color: '#555' }),
      ],
      margin: [0, 8, 0, 3],
    },
    table,
  ],
});

function byUniverse(show: Show): Content[] {
  const used = usedByUniverse(show);
  return [...used.keys()]
    .sort((a, b) => a - b)
    .map((universe) => {
      const ranges = occupied(show).filter((r) => fromAbsolute(r.from).universe === universe);
      const body = ranges.map((r) => [
        mono(
          r.from === r.to
            ? `${fromAbsolute(r.from).address}`
            : `${fromAbsolute(r.from).address}–${fromAbsolute(r.to).address}`,
          { bold: true },
        ),
        mono(String(r.fixture.number)),
        plainText(r.fixture.label),
        plainText(typeName(show, r.fixture)),
        plainText(r.fixture.hang),
        mono(circuit(show, r.fixture)),
      ]);
      const routes = [...show.routes.values()]
        .filter((x) => x.universe === universe && x.on)
        .map((x) =>
          x.protocol === 'sacn'
            ? `sACN ${x.wire}`
            : `Art-Net ${x.wire >> 8}.${(x.wire >> 4) & 15}.${x.wire & 15}`,
        );
      const table: Content = {
        table: {
          headerRows: 1,
          widths: [52, 30, '*', '*', 80, 46],
          body: [
            ['Addresses', 'No.', 'Label', 'Type, mode', 'Position', 'Circuit'].map((h) =>
              plainText(h, { bold: true, fontSize: 8 }),
            ),
            ...body,
          ],
          dontBreakRows: true,
        },
        layout: RULED,
      };
      const name = universeName(show, universe);
      return section(
        `Universe ${universe}${name ? `, ${name}` : ''}`,
        `${used.get(universe) ?? 0} of 512 used${routes.length > 0 ? ` · ${routes.join(', ')}` : ' · not sent'}`,
        table,
      );
    });
}

function byPosition(show: Show): Content[] {
  // What hangs nowhere comes last.
  const hangs = [...new Set(byNumber(show).map((f) => f.hang))].sort(
    (a, b) =>
      Number(a === '') - Number(b === '') || a.localeCompare(b, undefined, { numeric: true }),
  );
  return hangs.map((hang) => {
    // As they hang: from the audience's left to its right.
    const fixtures = byNumber(show)
      .filter((f) => f.hang === hang)
      .sort((a, b) => a.position.x - b.position.x || a.position.y - b.position.y);
    const weight = fixtures.reduce((sum, f) => sum + (show.types.get(f.typeId)?.weight_kg ?? 0), 0);
    const power = fixtures.reduce((sum, f) => sum + wattsOf(show, f), 0);
    return section(
      hang === '' ? 'Standing free' : hang,
      `${fixtures.length} units · ${Math.round(weight)} kg · ${power} W · left to right as the audience sees it`,
      rowsOf(show, fixtures, false),
    );
  });
}

/** Ten switches as the unit shows them: white up is on. */
function switchDrawing(address: number): string {
  const cells = switchesFor(address).map((on, i) => {
    const x = i * 15;
    return `<rect x="${x + 0.5}" y="0.5" width="12" height="22" fill="#fff" stroke="#000" stroke-width="0.8"/><rect x="${x + 2.5}" y="${on ? 2.5 : 12}" width="8" height="8.500" fill="#000"/><text x="${x + 6.5}" y="31" font-size="7" text-anchor="middle" font-family="Sans" font-weight="${on ? 'bold' : 'normal'}">${i + 1}</text>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="152" height="34" viewBox="0 0 152 34">${cells.join('')}</svg>`;
}

function switches(show: Show): Content[] {
  const rows = byNumber(show).flatMap((f) =>
    f.patch.filter((p) => !p.break).map((point) => ({ f, point })),
  );
  rows.sort(
    (a, b) =>
      a.f.hang.localeCompare(b.f.hang, undefined, { numeric: true }) ||
      absolute(a.point) - absolute(b.point),
  );
  const cell = ({ f, point }: (typeof rows)[number]): Content => ({
    columns: [
      {
        width: 92,
        stack: [
          mono(String(f.number), { bold: true, fontSize: 11 }),
          plainText(f.label),
          plainText(f.hang, { color: '#555', fontSize: 8 }),
          mono(formatPoint(point)),
        ],
      },
      { width: 156, svg: switchDrawing(point.address) },
    ],
    columnGap: 6,
    margin: [0, 4, 0, 4],
  });
  const body: Content[][] = [];
  for (let i = 0; i < rows.length; i += 2)
    body.push([
      cell(rows[i] as (typeof rows)[number]),
      rows[i + 1] ? cell(rows[i + 1] as (typeof rows)[number]) : plainText(''),
    ]);
  return [
    plainText(
      'Up is on. Switch 1 counts 1, switch 2 counts 2, switch 3 counts 4 and so on; for units that count from 0, set one less.',
      { margin: [0, 4, 0, 6], color: '#444' },
    ),
    {
      table: {
        widths: ['*', '*'],
        body: body.length > 0 ? body : [[plainText('Nothing is patched.'), plainText('')]],
        dontBreakRows: true,
      },
      layout: RULED,
    },
  ];
}

/** A patch for paper. */
export function patchPaper(show: Show, by: PatchPaper): Paper {
  const fixtures = byNumber(show);
  const settings = show.settings.get('show');
  const base = { show: showName(show), venue: settings?.venue ?? '' };
  const count = `${fixtures.length} fixtures`;
  switch (by) {
    case 'number':
      return { ...base, title: 'Patch by number', about: count, content: [rowsOf(show, fixtures)] };
    case 'universe':
      return { ...base, title: 'Patch by universe', about: count, content: byUniverse(show) };
    case 'position':
      return { ...base, title: 'Patch by position', about: count, content: byPosition(show) };
    case 'switches':
      return { ...base, title: 'Address switches', about: count, content: switches(show) };
  }
}
