/** “The ledger waltz”: a number along its time, a list of its own that nobody has to play. */
import type { MutableShow } from '../src/core/show/show.ts';
import { secondsAt } from '../src/core/time/tempo.ts';
import type { Setting } from './cue.ts';

type EditFn = (name: string, params: unknown) => void;
interface Value {
  fixtureId: string;
  attribute: string;
  level: number;
  palette?: string;
}

const TEMPO = [{ at_s: 0, bpm: 92, beats: 3 }];
/** 3:12, as long as the orchestra takes. */
const END_S = 192;
const MARKS = [
  ['Verse', 9],
  ['Chorus', 33],
  ['Middle', 57],
  ['Chorus again', 73],
] as const;

interface Step {
  name: string;
  bar: number;
  up: number;
  set: Setting[];
}
const STEPS: readonly Step[] = [
  {
    name: 'Out of the dark',
    bar: 1,
    up: 3,
    set: [
      ['Cyc top', 25, 'deep'],
      ['Back pars', 20, 'night'],
    ],
  },
  {
    name: 'Ledger open',
    bar: 9,
    up: 4,
    set: [
      ['Keys', 35, 'paper'],
      ['Deck', 25],
    ],
  },
  {
    name: 'Steps',
    bar: 17,
    up: 5.2,
    set: [
      ['Washes', 40, 'dusk'],
      ['Cyc top', 40, 'dusk'],
    ],
  },
  {
    name: 'Round once',
    bar: 25,
    up: 3.6,
    set: [
      ['Cyc top', 60, 'port'],
      ['Back pars', 45, 'dusk'],
    ],
  },
  {
    name: 'Turn',
    bar: 33,
    up: 2.2,
    set: [
      ['FOH warm', 55],
      ['Washes', 70, 'ember'],
    ],
  },
  {
    name: 'Out of the book',
    bar: 37,
    up: 6,
    set: [
      ['Cyc top', 80, 'ember'],
      ['Back pars', 70, 'port'],
      ['Keys', 70, 'paper'],
    ],
  },
  {
    name: 'Lamps take it',
    bar: 45,
    up: 1.4,
    set: [
      ['Lanterns', 90],
      ['Cyc top', 60, 'lantern'],
    ],
  },
  {
    name: 'Heads up',
    bar: 49,
    up: 2.4,
    set: [
      ['Spots', 80, 'paper'],
      ['FOH warm', 70],
    ],
  },
  {
    name: 'Low water',
    bar: 57,
    up: 8,
    set: [
      ['Cyc top', 30, 'night'],
      ['Washes', 30, 'night'],
      ['Spots', 0],
    ],
  },
  {
    name: 'Alone',
    bar: 65,
    up: 4,
    set: [
      ['FOH warm', 15],
      ['Keys', 60, 'moon'],
      ['Deck', 10],
    ],
  },
  {
    name: 'All in',
    bar: 73,
    up: 1.8,
    set: [
      ['Cyc top', 85, 'ember'],
      ['Washes', 85, 'port'],
      ['FOH warm', 75],
      ['Deck', 60],
    ],
  },
  {
    name: 'Faster',
    bar: 81,
    up: 1,
    set: [
      ['Back pars', 90, 'ember'],
      ['Spots', 90, 'lantern'],
    ],
  },
  {
    name: 'Last bar',
    bar: 93,
    up: 7,
    set: [
      ['Cyc top', 40, 'dawn'],
      ['Back pars', 20, 'dawn'],
      ['Washes', 10, 'dawn'],
      ['Spots', 0],
    ],
  },
  {
    name: 'Book shut',
    bar: 97,
    up: 0.5,
    set: [
      ['Cyc top', 0],
      ['Back pars', 0],
      ['Washes', 0],
      ['FOH warm', 0],
      ['Keys', 0],
      ['Deck', 0],
      ['Lanterns', 0],
    ],
  },
];

/** Nothing in it follows a palette: what the palettes are tried on is the play. */
export function layWaltz(
  edit: EditFn,
  show: MutableShow,
  valuesFor: (s: Setting) => Value[],
): void {
  const time = {
    on: true,
    end_s: END_S,
    tempo: TEMPO,
    marks: MARKS.map(([name, bar]) => ({
      name,
      at_s: Math.round((secondsAt(TEMPO, { bar, beat: 1, part: 0 }) ?? 0) * 1000) / 1000,
    })),
  };
  edit('make-list', { name: 'The ledger waltz', set: { time } });
  const list = [...show.lists.values()].find((l) => l.name === 'The ledger waltz')?.id ?? '';
  STEPS.forEach(({ name, up, set }, i) => {
    const values = set
      .flatMap(valuesFor)
      .map(({ fixtureId, attribute, level }) => ({ fixtureId, attribute, level }));
    edit('record-cue', {
      listId: list,
      number: (i + 1) * 1000,
      name,
      up_s: up,
      down_s: up,
      values,
    });
  });
  const cues = show.cuesOf(list);
  const at = STEPS.map(({ bar }, i) => [
    cues[i]?.id ?? '',
    secondsAt(TEMPO, { bar, beat: 1, part: 0 }) ?? 0,
  ]);
  edit('place-cues', { list, at: Object.fromEntries(at) as Record<string, number>, keeps: 'beat' });
  // Two go by the clock: the conductor holds them.
  const held = [cues[8], cues[12]].flatMap((c) => (c ? [c.id] : []));
  for (const id of held) edit('change-cue', { id, set: { keeps: 'clock' } });
}
