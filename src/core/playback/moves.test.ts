/** How long each slot of a cue takes: tables worked out by hand. */
import { slotKey, type CueRow, type ValueRow } from '../cues/rows.ts';
import type { MutableShow } from '../show/show.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { mayMoveEarly } from '../testing/early.ts';
import { Engine } from './engine.ts';
import { cueMoves, stateMoves, timesOf, type Onto } from './moves.ts';
import { compileSlots, INTENSITY, POSITION, slotIndex } from './slots.ts';

const CUE: CueRow = {
  id: 'c',
  listId: 'main',
  number: 1000,
  name: '',
  up_s: 5,
  down_s: 7,
  delay_s: 1,
  family_s: { position: 9 },
  familyDelay_s: { position: 2 },
  note: '',
  call: '',
  follow_s: null,
  parts: [
    {
      number: 1,
      name: 'Late',
      up_s: 20,
      down_s: 30,
      delay_s: 4,
      family_s: { position: 11 },
      note: '',
      curve: 'ease-out',
    },
  ],
};
const COLOUR = 2;

test.each<
  [
    what: string,
    value: Partial<ValueRow>,
    family: number,
    expected: { up: number; down: number; delay: number; curve: number },
  ]
>([
  ['intensity takes the cue’s up and down', {}, INTENSITY, { up: 5, down: 7, delay: 1, curve: 0 }],
  [
    'another family takes the up time both ways',
    {},
    COLOUR,
    { up: 5, down: 5, delay: 1, curve: 0 },
  ],
  [
    'a family’s own time and delay win over the cue’s; position eases',
    {},
    POSITION,
    { up: 9, down: 9, delay: 2, curve: 1 },
  ],
  [
    'a value’s own win over both',
    { fade_s: 3, delay_s: 0 },
    POSITION,
    { up: 3, down: 3, delay: 0, curve: 1 },
  ],
  [
    'a part’s times stand in for the cue’s, with its curve',
    { part: 1 },
    INTENSITY,
    { up: 20, down: 30, delay: 4, curve: 3 },
  ],
  ['a part’s family times too', { part: 1 }, POSITION, { up: 11, down: 11, delay: 4, curve: 3 }],
  [
    'a part that is gone leaves the cue’s',
    { part: 9 },
    INTENSITY,
    { up: 5, down: 7, delay: 1, curve: 0 },
  ],
  [
    'a value in a part keeps its own',
    { part: 1, fade_s: 2 },
    INTENSITY,
    { up: 2, down: 2, delay: 4, curve: 3 },
  ],
])('%s', (_what, value, family, expected) => expect(timesOf(value, CUE, family)).toEqual(expected));

test('a cue’s curve bends all its families, position as well', () => {
  expect(timesOf({}, { ...CUE, curve: 'linear' }, POSITION).curve).toBe(0);
  expect(timesOf({}, { ...CUE, curve: 'ease-in' }, INTENSITY).curve).toBe(2);
});

function onto(
  show: MutableShow,
): Onto & { slot: (fixture: number, attribute?: string) => number; engine: Engine } {
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  return {
    index,
    family: slots.family,
    find: () => -1,
    slot: (f, a = 'Dimmer') => index.get(slotKey(idOf(show, f), a)) ?? -1,
    engine: new Engine(slots),
  };
}
const row = (show: MutableShow, n: number): CueRow => {
  const found = show.cuesOf('main').find((c) => c.number === n * 1000);
  if (!found) throw new Error(`no cue ${n}`);
  return found;
};

test('a complete cue lets go of all that it does not set, and nobody else’s', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 60 }, { up_s: 0 });
  cue(show, 2, { 2: 70 }, { up_s: 0 });
  apply(show, 'block-cue', { ids: [row(show, 2).id], on: true });
  cue(show, 1, { 3: 40 });
  const o = onto(show);
  o.engine.move('main', cueMoves(show, o, row(show, 1)), 0);
  o.engine.move('main', cueMoves(show, o, row(show, 2)), 5);
  o.engine.tick(20);
  expect([1, 2, 3].map((f) => o.engine.shared.out[o.slot(f)])).toEqual([
    0.5,
    expect.closeTo(0.7, 5),
    0,
  ]);
});

test('what cannot fade takes its value at the start, or at the end where the type says so', () => {
  const show = exampleShow();
  const type = show.types.get('generic-wash');
  if (!type) throw new Error('no type');
  const snaps = (snap: boolean | 'end') => ({
    ...type,
    modes: type.modes.map((m) => ({
      ...m,
      channels: m.channels.map((c) => (c.attribute === 'Zoom' ? { ...c, snap } : c)),
    })),
  });
  for (const [snap, half, end] of [
    [true, 0.9, 0.9],
    ['end', 0.1, 0.9],
  ] as const) {
    show.apply([{ table: 'types', id: type.id, before: type, after: snaps(snap) }]);
    const o = onto(show);
    const zoom = (level: number) => ({
      slot: Uint32Array.of(o.slot(101, 'Zoom')),
      level: Float32Array.of(level),
      up: Float32Array.of(4),
      down: Float32Array.of(4),
      delay: Float32Array.of(0),
      curve: Uint8Array.of(0),
      wave: Int32Array.of(-1),
      phase: Float32Array.of(0),
    });
    o.engine.move('main', { ...zoom(0.1), up: Float32Array.of(0), down: Float32Array.of(0) }, 0);
    o.engine.move('main', zoom(0.9), 0);
    o.engine.tick(2);
    expect(o.engine.shared.out[o.slot(101, 'Zoom')]).toBeCloseTo(half, 5);
    o.engine.tick(4.1);
    expect(o.engine.shared.out[o.slot(101, 'Zoom')]).toBeCloseTo(end, 5);
  }
});

test('a go-to takes the whole state in one time, or each value in its own', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 }, { up_s: 2, down_s: 2 });
  cue(show, 2, { 2: 60 }, { up_s: 8, down_s: 8 });
  const o = onto(show);
  const times = (time: number | undefined): [number | undefined, number | undefined] => {
    const m = stateMoves(show, o, 'main', row(show, 2), time);
    return [m.up[m.slot.indexOf(o.slot(1))], m.up[m.slot.indexOf(o.slot(2))]];
  };
  expect(times(3)).toEqual([3, 3]);
  expect(times(undefined)).toEqual([8, 8]);
});

test('a full state says of each slot whether its cue sets it, or an earlier one has', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 40 });
  cue(show, 2, { 2: 60 });
  const o = onto(show);
  for (const time of [3, undefined]) {
    const m = stateMoves(show, o, 'main', row(show, 2), time);
    expect([1, 2].map((n) => m.tracks?.[m.slot.indexOf(o.slot(n))])).toEqual([1, 0]);
  }
});

describe('early moves', () => {
  test.each<
    [what: string, options: Parameters<typeof mayMoveEarly>[0], expected: [number, number][]]
  >([
    ['a head that is dark moves at once', { lit: [0, 0, 1] }, [[2, 0]]],
    [
      'one that goes dark moves when it is dark and half a second more',
      { lit: [1, 0, 1] },
      [[2, 3.5]],
    ],
    ['one that is lit does not', { lit: [1, 1, 1] }, []],
    ['one that stays dark does not', { lit: [0, 0, 0] }, []],
    ['not where the list does not', { lit: [0, 0, 1], list: false }, []],
    ['where its cue says so all the same', { lit: [0, 0, 1], list: false, cue: true }, [[2, 0]]],
    ['not where its cue says no', { lit: [0, 0, 1], cue: false }, []],
    ['not what the cue before sets itself', { lit: [0, 0, 1], panIn2: true }, []],
  ])('%s', (_what, options, expected) => expect(mayMoveEarly(options)).toEqual(expected));
});

test('go to takes each slot in the time that it has in the cue that is gone to: a part’s times for what this cue sets in it, never for what tracks from another’s', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 60 }, { up_s: 3, down_s: 3 });
  apply(show, 'change-cue', {
    id: row(show, 1).id,
    set: {
      parts: [
        { number: 1, name: 'Late', up_s: 20, down_s: 20, delay_s: 2, family_s: {}, note: '' },
      ],
    },
  });
  apply(show, 'record-cue', {
    listId: 'main',
    number: 1000,
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.5, part: 1 }],
  });
  cue(show, 2, { 3: 70 }, { up_s: 5, down_s: 5 });
  apply(show, 'change-cue', {
    id: row(show, 2).id,
    set: {
      parts: [{ number: 1, name: 'Soon', up_s: 9, down_s: 9, delay_s: 1, family_s: {}, note: '' }],
    },
  });
  const o = onto(show);
  const times = (n: number): Record<number, [number, number]> => {
    const moves = stateMoves(show, o, 'main', row(show, n), undefined);
    return Object.fromEntries(
      [1, 2, 3].map((f) => {
        const i = moves.slot.indexOf(o.slot(f));
        return [f, [moves.up[i] ?? NaN, moves.delay[i] ?? NaN]];
      }),
    );
  };
  expect(times(1)).toEqual({ 1: [20, 2], 2: [3, 0], 3: [3, 0] });
  expect(times(2)).toEqual({ 1: [5, 0], 2: [5, 0], 3: [5, 0] });
});
