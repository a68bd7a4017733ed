/** Steps of a lane: how much of the round each takes, for how much of that it moves, and where it goes on each unit. */
import { apply, exampleShow, idOf, refused } from '../testing/example.ts';
import { attributesOfLane, laneOf, levelsOfSteps } from './lanes.ts';
import { sideOf } from './spread.ts';
import { waveAt } from './wave.ts';
import { effectUses } from '../looks/resolve.ts';
import { modeOf } from '../fixtures/points.ts';
import type { EffectRow, EffectTrack } from './rows.ts';

const lane = (steps: EffectTrack['steps'], more: Partial<EffectTrack> = {}): EffectTrack => ({
  attribute: 'Tilt',
  wave: 'steps',
  mode: 'absolute',
  size: 1,
  base: 0,
  width: 1,
  offset: 0,
  ...more,
  ...(steps === undefined ? {} : { steps }),
});
const draft = (tracks: EffectTrack[]): Omit<EffectRow, 'id' | 'number'> => ({
  name: 'Rise',
  tracks,
  speed: { round_s: 3 },
  direction: 'forward',
  spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
});

describe('a slow rise and a fast return', () => {
  // Up in the first 62 % of the round, all of it moving; down in the rest, moving for half of that.
  const rise = lane([
    { level: 1, share: 1, takes: 0.62 },
    { level: 0, share: 0.5, takes: 0.38 },
  ]);

  test.each([
    [0, 0],
    [0.31, 0.5],
    [0.6199, 1],
    [0.62 + 0.095, 0.5],
    [0.62 + 0.19, 0],
    [0.9, 0],
  ])('at %f of the round it is at %f', (at, level) => {
    expect(waveAt(rise, at)).toBeCloseTo(level, 3);
  });

  test('what steps take is against each other, whatever it comes to together', () => {
    const times = lane((rise.steps ?? []).map((s) => ({ ...s, takes: (s.takes ?? 1) * 50 })));
    for (let i = 0; i < 20; i++) expect(waveAt(times, i / 20)).toBeCloseTo(waveAt(rise, i / 20), 9);
  });

  test('smooth steps leave and arrive slowly, and are half way in the middle', () => {
    const smooth = { ...rise, curve: 'smooth' as const };
    expect(waveAt(smooth, 0.062)).toBeCloseTo((1 - Math.cos(Math.PI / 10)) / 2, 6);
    expect(waveAt(smooth, 0.31)).toBeCloseTo(0.5, 6);
  });

  test('a lane can be shifted against the others', () => {
    expect(waveAt({ ...rise, offset: 0.31 }, 0)).toBeCloseTo(0.5, 6);
  });
});

test('steps that say nothing of how long they take share the round evenly, as they always did', () => {
  const even = lane([
    { level: 1, share: 0 },
    { level: 0.2, share: 0 },
    { level: 0.6, share: 0 },
  ]);
  expect([0.1, 0.4, 0.9].map((p) => waveAt(even, p))).toEqual([1, 0.2, 0.6]);
});

describe('steps that go elsewhere on each unit', () => {
  const show = exampleShow();
  const heads = [101, 102].map((n) => idOf(show, n));
  apply(show, 'record-palette', {
    family: 'position',
    name: 'Roof',
    values: heads.map((fixtureId, i) => ({ fixtureId, attribute: 'Tilt', level: 0.8 + i / 10 })),
  });
  const palette = [...show.palettes.values()].at(-1);
  if (!palette) throw new Error('no palette');
  const track = lane([
    { level: 0.1, share: 1, palette: palette.id },
    { level: 0.3, share: 1, units: { [heads[0] ?? '']: { Tilt: 0.4 } } },
  ]);
  const of = (id: string): number[] => {
    const fixture = show.fixtures.get(id);
    if (!fixture) throw new Error('no fixture');
    return levelsOfSteps(show, track, fixture, 'Tilt');
  };

  test('by a palette each unit goes where the palette says for it; without an answer, to the step’s level', () => {
    expect(heads.map((id) => of(id)[0])).toEqual([expect.closeTo(0.8, 4), expect.closeTo(0.9, 4)]);
    expect(heads.map((id) => of(id)[1])).toEqual([0.4, 0.3]);
  });

  test('a palette that is deleted leaves steps where they went', () => {
    apply(show, 'set-effect', { set: draft([track]) });
    const before = heads.map((id) => of(id)[0]);
    apply(show, 'delete-palette', { id: palette.id });
    const [effect] = [...show.effects.values()].slice(-1);
    const step = effect?.tracks[0]?.steps?.[0];
    expect(step?.palette).toBeUndefined();
    expect(heads.map((id) => step?.units?.[id]?.Tilt)).toEqual(before);
  });

  test('a unit that is deleted leaves the steps, and comes back with undo', () => {
    const effect = () => [...show.effects.values()].at(-1);
    const first = heads[0] ?? '';
    apply(show, 'delete-fixtures', { ids: [first] });
    expect(effect()?.tracks[0]?.steps?.[1]?.units).toEqual({});
    expect(effect()?.tracks[0]?.steps?.[1]?.level).toBe(0.3);
  });
});

describe('a lane of a whole family', () => {
  const show = exampleShow();
  const wash = show.fixtures.get(idOf(show, 101));
  if (!wash) throw new Error('no fixture');
  const mode = modeOf(show, wash);

  test('moves every attribute of the family that the unit has', () => {
    const colour = { attribute: 'position' };
    expect(mode && attributesOfLane(mode, colour).sort()).toEqual(['Pan', 'Tilt']);
  });

  test('its own attribute’s lane comes before the family’s', () => {
    const own = lane(undefined, { attribute: 'Pan', wave: 'sine' });
    const family = lane([], { attribute: 'position' });
    expect(laneOf({ tracks: [family, own] }, 'Pan')).toBe(own);
    expect(laneOf({ tracks: [family, own] }, 'Tilt')).toBe(family);
    expect(laneOf({ tracks: [own] }, 'Dimmer')).toBeUndefined();
  });

  test('needs steps', () => {
    expect(
      refused(show, 'set-effect', {
        set: draft([lane(undefined, { attribute: 'colour', wave: 'sine' })]),
      }).message,
    ).toBe('The lane of the whole colour goes from palette to palette: it needs steps.');
  });

  test('reaches only what its palettes say something about', () => {
    apply(show, 'record-palette', {
      family: 'position',
      name: 'Quay',
      values: [{ fixtureId: wash.id, attribute: 'Pan', level: 0.3 }],
    });
    const palette = [...show.palettes.values()].at(-1)?.id ?? '';
    const steps = [0, 1].map((level) => ({ level, share: 1, palette }));
    apply(show, 'set-effect', { set: draft([lane(steps, { attribute: 'position' })]) });
    const effect = [...show.effects.values()].at(-1);
    expect(effect && effectUses(show, effect, [wash.id]).map((u) => u.attribute)).toEqual(['Pan']);
  });
});

test.each([
  ['no lane', draft([]), 'An effect needs at least one attribute.'],
  [
    'a hundred rounds a second',
    {
      ...draft([
        lane([
          { level: 0, share: 1 },
          { level: 1, share: 1 },
        ]),
      ]),
      speed: { hz: 100 },
    },
    'A speed is at most 20 Hz.',
  ],
  [
    'no rounds a second',
    {
      ...draft([
        lane([
          { level: 0, share: 1 },
          { level: 1, share: 1 },
        ]),
      ]),
      speed: { hz: 0 },
    },
    'A speed is at least 0.001 Hz.',
  ],
  [
    'a step that takes nothing',
    draft([
      lane([
        { level: 0, share: 1, takes: 0 },
        { level: 1, share: 1 },
      ]),
    ]),
    'A step takes at least a thousandth of the round.',
  ],
  ['one step', draft([lane([{ level: 0, share: 1 }])]), 'An effect has at least two steps.'],
  [
    'a palette that is gone',
    draft([
      lane([
        { level: 0, share: 1, palette: 'gone' },
        { level: 1, share: 1 },
      ]),
    ]),
    'A palette that a step goes to has been deleted meanwhile.',
  ],
])('refuses %s in words', (_, set, words) => {
  const answer = refused(exampleShow(), 'set-effect', { set });
  expect(JSON.stringify(answer)).toContain(words);
});

test('across the stage a unit’s turn is where it hangs, and moves with it', () => {
  const show = exampleShow();
  const ids = [...show.fixtures.keys()].slice(0, 3);
  apply(show, 'change-fixtures', {
    fixtures: ids.map((id, i) => ({ id, set: { position: { x: [-6, 0, 2][i], y: 0, z: 4 } } })),
  });
  const others = [...show.fixtures.values()].filter((f) => !ids.includes(f.id));
  const xs = [...others.map((f) => f.position.x), -6, 0, 2];
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  expect(ids.map((id) => sideOf(show, id))).toEqual(
    [-6, 0, 2].map((x) => expect.closeTo((x - from) / (to - from), 6)),
  );
});
