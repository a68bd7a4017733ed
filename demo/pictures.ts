/** What the show is made of besides cues: set, mounting, stage points, beams, levels, looks, effects. */
import { membersOf } from '../src/core/groups/members.ts';
import type { MutableShow } from '../src/core/show/show.ts';

type EditFn = (name: string, params: unknown) => void;

/** The ferry: her deck, her wheelhouse, the gangway. Metres. */
const SET: [string, number, number, [number, number][]][] = [
  [
    'Deck',
    0,
    0.35,
    [
      [-3.4, 2.2],
      [3.4, 2.2],
      [2.8, 6],
      [-2.8, 6],
    ],
  ],
  [
    'Wheelhouse',
    0.35,
    2.3,
    [
      [1.2, 4.9],
      [3, 4.9],
      [3, 6.1],
      [1.2, 6.1],
    ],
  ],
  [
    'Gangway',
    0,
    0.9,
    [
      [-5, 1.6],
      [-3.5, 1.6],
      [-3.5, 2.3],
      [-5, 2.3],
    ],
  ],
];

/** Stage points that people aim at by name; metres, a face about 1.6 m up. */
const POINTS: [string, [number, number, number]][] = [
  ['Bow rail', [0, 2.4, 1.9]],
  ['Gangway top', [-4.2, 2, 2.4]],
  ['Wheelhouse', [2.1, 4.7, 2]],
  ['Stern lamp', [0, 5.7, 2]],
  ['Quay edge', [-5.2, 0.8, 1.6]],
];

export function buildSet(edit: EditFn, show: MutableShow, id: (number: number) => string): void {
  for (const [name, z, height, points] of SET)
    edit('set-piece', {
      set: { name, kind: 'set', z, height, points: points.map(([x, y]) => ({ x, y })) },
    });
  const cyc = [...show.pieces.values()].find((p) => p.kind === 'cyc');
  if (cyc) {
    const { id: pieceId, ...set } = cyc;
    edit('set-piece', { id: pieceId, set: { ...set, height: 5.5 } });
  }
  const lean = (numbers: readonly number[], degrees: number, rotation?: number): void =>
    edit('change-fixtures', {
      fixtures: numbers.map((n) => ({
        id: id(n),
        set: { lean: degrees, ...(rotation === undefined ? {} : { rotation }) },
      })),
    });
  const run = (first: number, count: number): number[] =>
    Array.from({ length: count }, (_, i) => first + i);
  // FOH looks at the deck, back light at the audience, booms across, the footlights of the cyc up at it.
  lean([...run(1, 8), ...run(81, 4)], 46);
  lean(run(27, 10), 32, 180);
  lean(run(47, 6), 34, 180);
  lean([...run(21, 3), ...run(24, 3)], 76);
  lean(run(61, 6), 28);
  lean(run(71, 3), 140);
  lean(run(11, 8), 8);
  lean([9, 10], 10);
  lean(run(41, 6), 14);
}

export function keepPictures(
  edit: EditFn,
  show: MutableShow,
  id: (number: number) => string,
): void {
  let number = 20;
  for (const [name, [x, y, z]] of POINTS)
    edit('record-palette', {
      number: ++number,
      family: 'position',
      name,
      any: { point: { x, y, z } },
    });
  for (const [name, level] of [
    ['Full', 1],
    ['Glow', 0.35],
    ['Half', 0.5],
  ] as const)
    edit('record-palette', { number: ++number, family: 'intensity', name, any: { level } });
  const beam = (name: string, values: [number[], string, number][]): void =>
    edit('record-palette', {
      number: ++number,
      family: 'beam',
      name,
      scope: 'types',
      values: values.flatMap(([numbers, attribute, level]) =>
        numbers.map((n) => ({ fixtureId: id(n), attribute, level })),
      ),
    });
  beam('Tight', [
    [[101, 102, 103, 104], 'Zoom', 0.12],
    [[111, 112, 113, 114], 'Zoom', 0.1],
  ]);
  beam('Wide', [
    [[101, 102, 103, 104], 'Zoom', 0.85],
    [[111, 112, 113, 114], 'Zoom', 0.8],
  ]);
  beam('Rigging', [[[111, 112, 113, 114], 'Gobo1', 0.1]]);
  edit('add-standard-effects', {});

  const group = (name: string): string =>
    [...show.groups.values()].find((g) => g.name === name)?.id ?? '';
  edit('record-group', { name: 'Movers', fixtures: [group('Washes'), group('Spots')] });
  const palette = (name: string): string =>
    [...show.palettes.values()].find((p) => p.name === name)?.id ?? '';
  const effect = (name: string): string =>
    [...show.effects.values()].find((e) => e.name === name)?.id ?? '';
  const on = (what: string, ...groups: string[]): object => ({
    kind: 'palette',
    palette: palette(what),
    members: groups.map(group),
  });
  const levels = (name: string, level: number): object[] => {
    const found = show.groups.get(group(name));
    return (found ? membersOf(show, found) : []).map((fixtureId) => ({
      kind: 'level',
      fixtureId,
      attribute: 'Dimmer',
      level,
    }));
  };
  const look = (name: string, items: object[]): void => edit('record-look', { name, items });
  const inner = (name: string): object => ({
    kind: 'look',
    look: [...show.looks.values()].find((l) => l.name === name)?.id,
  });
  look('Quay base', [
    ...levels('FOH warm', 0.55),
    ...levels('Back', 0.35),
    on('Dusk', 'Cyc top', 'Back pars'),
    ...levels('Cyc top', 0.5),
  ]);
  look('Night water', [
    on('Night', 'Cyc top', 'Cyc foot', 'Back pars'),
    ...levels('Cyc top', 0.45),
    ...levels('Cyc foot', 0.3),
    ...levels('Back pars', 0.4),
  ]);
  look('Storm', [
    inner('Night water'),
    on('Moon', 'Washes'),
    ...levels('Washes', 0.6),
    { kind: 'effect', effect: effect('Ripple'), members: [group('Washes')] },
  ]);
  look('Engine room', [
    on('Ember', 'Washes'),
    on('Port', 'Front pars', 'Back pars'),
    ...levels('Washes', 0.8),
    ...levels('Back pars', 0.6),
  ]);
  look('Lantern light', [
    ...levels('Lanterns', 0.7),
    on('Lantern', 'Front pars'),
    ...levels('Front pars', 0.25),
  ]);
}

/** Cues that run an effect or follow a look, beside what they set. */
export function moreInCues(edit: EditFn, show: MutableShow, id: (number: number) => string): void {
  const effect = (name: string): string =>
    [...show.effects.values()].find((e) => e.name === name)?.id ?? '';
  const waltz = [41, 42, 43, 44, 45, 46];
  edit('record-cue', {
    listId: 'main',
    number: 14_000,
    values: waltz.map((n, i) => ({
      fixtureId: id(n),
      attribute: 'Dimmer',
      level: 0.55,
      effect: { id: effect('Breathe'), phase: i / waltz.length },
    })),
  });
  const sea = [61, 62, 63, 64, 65, 66];
  edit('record-cue', {
    listId: 'main',
    number: 8000,
    values: sea.map((n, i) => ({
      fixtureId: id(n),
      attribute: 'Dimmer',
      level: 0.6,
      effect: { id: effect('Shimmer'), phase: ((i * 5) % 6) / 6 },
    })),
  });
}
