/** Areas of the ferry's deck, and sheets that her operators play from. */
import type { MutableShow } from '../src/core/show/show.ts';
import { sheetFrom } from '../src/core/sheets/templates.ts';
import type { PieceIs, PutPiece } from '../src/core/sheets/rows.ts';

type EditFn = (name: string, params: unknown) => void;

/** Corners in metres. */
const AREAS: [string, [number, number][]][] = [
  [
    'Deck, centre',
    [
      [-1.6, 2],
      [1.6, 2],
      [1.5, 4.2],
      [-1.5, 4.2],
    ],
  ],
  [
    'Quay',
    [
      [-5, 0.4],
      [-1.8, 0.4],
      [-1.8, 3.6],
      [-5, 3.6],
    ],
  ],
  [
    'Gangway',
    [
      [1.8, 0.4],
      [5, 0.4],
      [5, 3.6],
      [1.8, 3.6],
    ],
  ],
  [
    'Deck, up',
    [
      [-2.8, 4.4],
      [2.8, 4.4],
      [2.6, 6],
      [-2.6, 6],
    ],
  ],
];

/** Dusk over the river: CIE 1931 xy. */
const SKY = [
  { x: 0.17, y: 0.1 },
  { x: 0.2, y: 0.2 },
  { x: 0.25, y: 0.16 },
  { x: 0.37, y: 0.22 },
  { x: 0.52, y: 0.33 },
  { x: 0.47, y: 0.42 },
];

type More = Partial<Pick<PutPiece, 'label' | 'icon' | 'colour'>>;

/** Pieces one after the other in rows of a width. */
function laid(
  items: readonly (readonly [PieceIs, More?])[],
  { w, h, across }: { w: number; h: number; across: number },
): PutPiece[] {
  return items.map(([is, more], i) => ({
    x: (i % across) * (w + 0.5),
    y: Math.floor(i / across) * (h + 0.5),
    w,
    h,
    z: i,
    is,
    ...more,
  }));
}

export function keepSheets(edit: EditFn, show: MutableShow): void {
  const named = <T extends { id: string; name: string }>(
    rows: ReadonlyMap<string, T>,
    name: string,
  ): string => [...rows.values()].find((r) => r.name === name)?.id ?? '';
  for (const [name, corners] of AREAS)
    edit('set-area', { set: { name, corners: corners.map(([x, y]) => ({ x, y })) } });

  edit('set-sheet', sheetFrom(show, 'plan', 'The house'));

  const sky = ['Cyc top', 'Cyc foot'].map((g) => named(show.groups, g));
  edit('set-sheet', {
    set: { name: 'Cyc and sky', about: 'mixing by hand', columns: 48, rows: 34 },
    pieces: sky.flatMap((group, i): PutPiece[] => {
      const y = i * 16;
      return [
        { x: 0, y, w: 6, h: 15, z: i * 5, is: { kind: 'group', group } },
        { x: 7, y, w: 40, h: 4.5, z: i * 5 + 1, is: { kind: 'colours', group, stops: SKY } },
        { x: 7, y: y + 5, w: 24, h: 10, z: i * 5 + 2, is: { kind: 'field', group } },
        { x: 32, y: y + 5, w: 15, h: 4.5, z: i * 5 + 3, is: { kind: 'level', group } },
      ];
    }),
  });

  edit('set-sheet', {
    set: { name: 'Band', about: 'busking, by lists and faders', columns: 48, rows: 34 },
    pieces: [
      ...laid(
        ['Band', 'Lanterns', 'Haze'].flatMap((name) => {
          const list = named(show.lists, name);
          return [
            [{ kind: 'list', list, press: 'go' }],
            [{ kind: 'list', list, press: 'toggle' }],
          ] as const;
        }),
        { w: 7.5, h: 5, across: 6 },
      ),
      ...[...show.faders.values()].slice(0, 6).flatMap(({ id }, i): PutPiece[] => [
        {
          x: i * 8,
          y: 7,
          w: 7.5,
          h: 17,
          z: 20 + i,
          is: { kind: 'fader', fader: id, as: 'upright' },
        },
        {
          x: i * 8,
          y: 24.5,
          w: 7.5,
          h: 4,
          z: 40 + i,
          label: 'Flash',
          is: { kind: 'fader', fader: id, as: 'flash' },
        },
      ]),
      { x: 0, y: 29.5, w: 15.5, h: 4, z: 60, is: { kind: 'release-all' }, icon: 'stop' },
    ],
  });

  const house = named(show.groups, 'House');
  edit('set-sheet', {
    set: { name: 'House light', about: 'for front of house', columns: 32, rows: 20 },
    pieces: [
      {
        x: 0,
        y: 0,
        w: 24,
        h: 3,
        z: 0,
        is: { kind: 'words', text: 'House light, before and after' },
      },
      { x: 0, y: 4, w: 31, h: 6, z: 1, is: { kind: 'level', group: house } },
      ...laid(
        ([100, 50, 15, 0] as const).map((level) => [
          { kind: 'command', text: `group "House" at ${level} time 5` },
          { label: level === 0 ? 'Out' : `${level} %`, icon: level === 0 ? 'moon' : 'house' },
        ]),
        { w: 7.25, h: 8, across: 4 },
      ).map((p) => ({ ...p, y: p.y + 11, z: p.z + 2 })),
    ],
  });

  edit('set-sheet', {
    set: { name: 'Checks', about: 'lamps, work light', columns: 48, rows: 34 },
    pieces: [
      ...laid(
        [
          [
            { kind: 'command', text: 'all at 50' },
            { label: 'All at half', icon: 'sun' },
          ],
          [
            { kind: 'command', text: 'next' },
            { label: 'Next unit', icon: 'spot' },
          ],
          [
            { kind: 'command', text: 'highlight' },
            { label: 'Highlight', icon: 'star' },
          ],
          [
            { kind: 'command', text: 'clear' },
            { label: 'Let go of all', icon: 'stop' },
          ],
        ],
        { w: 11.5, h: 6, across: 4 },
      ),
      ...laid(
        [...show.fixtures.values()]
          .filter((f) => f.patch.length > 0)
          .sort((a, b) => a.number - b.number)
          .map((f) => [{ kind: 'unit', fixture: f.id }] as const),
        { w: 3.5, h: 3.5, across: 12 },
      ).map((p) => ({ ...p, y: p.y + 7, z: p.z + 10 })),
    ],
  });
}
