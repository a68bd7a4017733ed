/** What is told of a cue's times is what the engine plays. */
import fc from 'fast-check';
import { Engine } from '../playback/engine.ts';
import { cueMoves } from '../playback/moves.ts';
import { compileSlots, slotIndex } from '../playback/slots.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import type { CueRow } from './rows.ts';
import type { MutableShow } from '../show/show.ts';
import { listTimings, timeWords, timingOf } from './times.ts';

const id = (show: MutableShow, n: number): string =>
  show.cuesOf('main').find((c) => c.number === n * 1000)?.id ?? '';
const row = (show: MutableShow, n: number): CueRow =>
  show.cues.get(id(show, n)) ??
  (() => {
    throw new Error('no cue');
  })();

/** Plays the list in order, each cue to its end, and asks the clock how long each took. */
function played(show: MutableShow): Map<string, number> {
  const slots = compileSlots(show);
  const onto = { index: slotIndex(slots), family: slots.family, find: () => -1 };
  const engine = new Engine(slots);
  let now = 0;
  engine.tick(now);
  return new Map(
    show.cuesOf('main').map((c) => {
      engine.move('main', cueMoves(show, onto, c), now);
      const { total_s } = engine.status('main');
      engine.tick((now += total_s + 1));
      return [c.id, total_s];
    }),
  );
}

const time = fc.constantFrom(0, 1, 2.5, 7);
const family = fc.record(
  { intensity: time, position: time, colour: time, beam: time },
  { requiredKeys: [] },
);
const anyCue = fc.record({
  up_s: time,
  down_s: time,
  delay_s: time,
  family_s: family,
  familyDelay_s: fc.option(family, { nil: undefined }),
  parts: fc.constantFrom(0, 1, 2).chain((n) =>
    fc.tuple(
      ...Array.from({ length: n }, (_, i) =>
        fc.record({
          number: fc.constant(i + 1),
          name: fc.constant(''),
          up_s: time,
          down_s: time,
          delay_s: time,
          family_s: family,
          note: fc.constant(''),
        }),
      ),
    ),
  ),
  block: fc.boolean(),
  values: fc.uniqueArray(
    fc.record({
      at: fc.constantFrom(
        [1, 'Dimmer'],
        [2, 'Dimmer'],
        [11, 'ColorAdd_R'],
        [101, 'Pan'],
        [101, 'Dimmer'],
        [101, 'Zoom'],
      ),
      level: fc.constantFrom(0, 0.4, 1, null),
      fade_s: fc.option(time, { nil: undefined }),
      delay_s: fc.option(time, { nil: undefined }),
      part: fc.constantFrom(undefined, undefined, 1, 2),
    }),
    { selector: (v) => v.at.join(), minLength: 0, maxLength: 6 },
  ),
});

test('the total that is told of a cue is the engine’s, for cues, families, parts, delays and values of every kind', () => {
  fc.assert(
    fc.property(
      fc.array(anyCue, { minLength: 1, maxLength: 4 }),
      fc.boolean(),
      (cues, prePosition) => {
        const show = exampleShow();
        apply(show, 'change-list', { id: 'main', set: { prePosition } });
        cues.forEach(({ values, ...c }, i) => {
          const { parts, familyDelay_s, ...times } = c;
          const cueId = `c${i}`;
          show.apply([
            {
              table: 'cues',
              id: cueId,
              before: null,
              after: {
                id: cueId,
                listId: 'main',
                number: (i + 1) * 1000,
                name: '',
                note: '',
                call: '',
                follow_s: null,
                ...times,
                ...(parts.length > 0 ? { parts } : {}),
                ...(familyDelay_s ? { familyDelay_s } : {}),
              },
            },
            ...values.map((v) => {
              const fixtureId = idOf(show, Number(v.at[0]));
              const attribute = String(v.at[1]);
              const valueId = `${cueId}:${fixtureId}:${attribute}`;
              return {
                table: 'values' as const,
                id: valueId,
                before: null,
                after: {
                  id: valueId,
                  cueId,
                  fixtureId,
                  attribute,
                  level: v.level,
                  ...(v.fade_s === undefined ? {} : { fade_s: v.fade_s }),
                  ...(v.delay_s === undefined ? {} : { delay_s: v.delay_s }),
                  ...(v.part === undefined ? {} : { part: v.part }),
                },
              };
            }),
          ]);
        });
        const told = listTimings(show, 'main');
        for (const [cueId, total] of played(show))
          expect([cueId, told.get(cueId)?.total_s]).toEqual([cueId, expect.closeTo(total, 5)]);
      },
    ),
    { numRuns: 250 },
  );
});

describe('by hand', () => {
  function example(): MutableShow {
    const show = exampleShow();
    cue(show, 1, { 1: 50 }, { up_s: 3, down_s: 3 });
    cue(show, 2, { 1: 80, 2: 100 }, { up_s: 5, down_s: 7 });
    apply(show, 'record-cue', {
      listId: 'main',
      number: 2000,
      values: [{ fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.7 }],
    });
    apply(show, 'change-cue', {
      id: id(show, 2),
      set: { delay_s: 1, familyDelay_s: { position: 4 } },
    });
    return show;
  }

  test('a family with a delay of its own ends its fade after it', () => {
    const show = example();
    expect(timingOf(show, row(show, 2))).toEqual({
      total_s: 9,
      ways: [
        { family: 'intensity', isDown: false, end_s: 6 },
        { family: 'position', isDown: false, end_s: 9 },
      ],
    });
    expect(timeWords(row(show, 2))).toBe('1+5/7, position 4+5');
  });

  test('a cue that only goes down takes its down time; one that moves nothing takes none', () => {
    const show = example();
    cue(show, 3, { 1: 10 }, { up_s: 20, down_s: 2 });
    cue(show, 4, {}, { up_s: 8 });
    expect([3, 4].map((n) => timingOf(show, row(show, n)).total_s)).toEqual([2, 0]);
    expect(timingOf(show, row(show, 3)).ways).toEqual([
      { family: 'intensity', isDown: true, end_s: 2 },
    ]);
  });

  test('an intensity time as a family goes before up and down, and parts are told with theirs', () => {
    const show = example();
    apply(show, 'change-cue', {
      id: id(show, 1),
      set: {
        family_s: { intensity: 12 },
        parts: [
          {
            number: 1,
            name: 'Sky',
            up_s: 6,
            down_s: 8,
            delay_s: 3,
            family_s: { colour: 9 },
            note: '',
          },
        ],
      },
    });
    expect(timingOf(show, row(show, 1)).total_s).toBe(12);
    expect(timeWords(row(show, 1))).toBe('12, part 1 “Sky” 3+6/8 colour 3+9');
  });

  test('a changed cue, value or palette is told anew', () => {
    const show = example();
    expect(timingOf(show, row(show, 1)).total_s).toBe(3);
    apply(show, 'change-cue', { id: id(show, 1), set: { up_s: 4 } });
    expect(timingOf(show, row(show, 1)).total_s).toBe(4);
    apply(show, 'set-values', {
      cells: [
        { cueId: id(show, 1), fixtureId: idOf(show, 1), attribute: 'Dimmer', times: { fade_s: 9 } },
      ],
    });
    expect(timingOf(show, row(show, 1)).total_s).toBe(9);
  });
});
