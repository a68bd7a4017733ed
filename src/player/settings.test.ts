/** What commands make of fixtures, asked directly: values, who is left out, and why there are none. */
import { slotKey, type ValueRow } from '../core/cues/rows.ts';
import type { Tracked } from '../core/cues/tracking.ts';
import { isRefusal } from '../core/refusal.ts';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import { LIT } from '../core/select/select.ts';
import type { MutableShow } from '../core/show/show.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import {
  aim,
  applyLook,
  applyPalette,
  colour,
  fan,
  home,
  like,
  nudge,
  ownAttributes,
  set,
  startEffect,
  take,
  type Hands,
  type Made,
} from './settings.ts';

interface Held {
  level?: number;
  onStage?: number;
  palette?: string;
  recorded?: Tracked;
}

/** Hands over a show where these slots have something; all others are at nothing. */
function handsOn(
  held: Record<string, Held> = {},
  show: MutableShow = exampleShow(),
): Hands & { show: MutableShow } {
  const at = (fixtureId: string, attribute: string): Held =>
    held[slotKey(fixtureId, attribute)] ?? {};
  return {
    show,
    levelAt: (f, a) => at(f, a).level ?? at(f, a).onStage ?? 0,
    onStage: (f, a) => at(f, a).onStage ?? 0,
    recordedAt: (f, a) => at(f, a).recorded,
    follows: (f, a) => {
      const { palette } = at(f, a);
      return palette === undefined ? {} : { palette };
    },
  };
}
const units = ({ show }: Hands, ...numbers: number[]): FixtureRow[] =>
  numbers.flatMap((n) => show.fixtureByNumber(n) ?? []);
/** Number of the unit, attribute, level. */
const levels = (hands: Hands, made: Made): [number, string, number][] => {
  if (isRefusal(made)) throw new Error(made.message);
  return made.values.map((v) => [
    hands.show.fixtures.get(v.fixtureId)?.number ?? 0,
    v.attribute,
    Math.round(v.level * 1e4) / 1e4,
  ]);
};
const SPREAD = {
  command: 'fan',
  what: 'value',
  pivot: 'first',
  curve: 'even',
  mirrored: false,
} as const;

describe('one value', () => {
  test('is said either as a level or in its unit: neither and both are refused', () => {
    const h = handsOn();
    expect(set(h, units(h, 1), { attribute: 'Dimmer' })).toMatchObject({ code: 'invalid' });
    const both = { attribute: 'Dimmer', level: 0.5, physical: 50 };
    expect(set(h, units(h, 1), both)).toMatchObject({ code: 'invalid' });
    expect(levels(h, set(h, units(h, 1), { attribute: 'Dimmer', level: 0.25 }))).toEqual([
      [1, 'Dimmer', 0.25],
    ]);
    const inUnit = set(h, units(h, 2), {
      attribute: 'Dimmer',
      physical: 30,
      fade_s: 2,
      delay_s: 1,
    });
    expect(levels(h, inUnit)).toEqual([[2, 'Dimmer', 0.3]]);
    expect(inUnit).toMatchObject({ fade_s: 2, delay_s: 1 });
  });

  test('without times it is there at once', () => {
    const h = handsOn();
    expect(set(h, units(h, 1), { attribute: 'Dimmer', level: 1 })).toMatchObject({
      fade_s: 0,
      delay_s: 0,
    });
  });

  test('names who has no such attribute, and refuses where nobody has', () => {
    const h = handsOn();
    const some = set(h, units(h, 1, 2, 101), { attribute: 'Pan', level: 0.5 });
    expect(levels(h, some)).toEqual([[101, 'Pan', 0.5]]);
    expect(some).toMatchObject({ message: '1–2 left out: no pan.' });
    expect(set(h, units(h, 1, 2), { attribute: 'Pan', level: 0.5 })).toMatchObject({
      code: 'not-found',
      message: 'None of these fixtures has pan. Nothing was set.',
    });
    expect(set(h, units(h, 101), { attribute: 'Pan', level: 0.5 })).not.toHaveProperty('message');
  });

  test('more and less go from where each is, by a step of its own unit, and stop at both ends', () => {
    const h = handsOn();
    const one = (level: number, c: { add?: number; times?: number }): number => {
      const on = handsOn({ [slotKey(idOf(h.show, 1), 'Dimmer')]: { level } }, h.show);
      return levels(on, nudge(on, units(on, 1), { attribute: 'Dimmer', ...c }))[0]?.[2] ?? NaN;
    };
    expect(one(0.5, { add: 20 })).toBe(0.7);
    expect(one(0.5, { add: -20 })).toBe(0.3);
    expect(one(0.5, { add: 80 })).toBe(1);
    expect(one(0.5, { add: -80 })).toBe(0);
    expect(one(0.5, { times: 0.5 })).toBe(0.25);
    expect(one(0.5, { times: 3 })).toBe(1);
    expect(one(0.5, { times: 0.5, add: 10 })).toBe(0.35);
    expect(one(0.5, {})).toBe(0.5);
    const none = nudge(h, units(h, 1), { attribute: 'Pan', add: 10 });
    expect(none).toMatchObject({ code: 'not-found' });
  });
});

describe('spread', () => {
  test('goes from one value to another, or by so much from where each is', () => {
    const h = handsOn({ [slotKey(idOf(exampleShow(), 3), 'Dimmer')]: { level: 0.5 } });
    const to = fan(h, units(h, 1, 2, 3), { ...SPREAD, attribute: 'Dimmer', stops: [10, 50] });
    expect(levels(h, to).map((l) => l[2])).toEqual([0.1, 0.3, 0.5]);
    const on = handsOn(
      Object.fromEntries(
        [1, 2, 3].map((n) => [slotKey(idOf(h.show, n), 'Dimmer'), { level: 0.9 }]),
      ),
      h.show,
    );
    const by = fan(on, units(on, 1, 2, 3), { ...SPREAD, attribute: 'Dimmer', by: 20 });
    expect(levels(on, by).map((l) => l[2])).toEqual([0.9, 1, 1]);
  });

  test('counts only those that have the attribute; one of them is no spread', () => {
    const h = handsOn();
    const c = { ...SPREAD, attribute: 'Pan', stops: [0, 90] };
    expect(fan(h, units(h, 1, 101), c)).toMatchObject({ code: 'invalid' });
    expect(fan(h, units(h, 1, 2), c)).toMatchObject({ code: 'not-found' });
    const two = fan(h, units(h, 1, 101, 102), c);
    expect(levels(h, two).map((l) => l[0])).toEqual([101, 102]);
    expect(two).toMatchObject({ message: '1 left out: no pan.' });
    const neither = { ...SPREAD, attribute: 'Dimmer' };
    expect(fan(h, units(h, 1, 2), neither)).toMatchObject({ code: 'invalid' });
    const both = { ...neither, stops: [0, 1], by: 5 };
    expect(fan(h, units(h, 1, 2), both)).toMatchObject({ code: 'invalid' });
  });
});

describe('colour', () => {
  const WARM = { x: 0.45, y: 0.41 };
  test('wants a chromaticity that there is, or a white point', () => {
    const h = handsOn();
    expect(colour(h, units(h, 11), {})).toMatchObject({ code: 'invalid' });
    expect(colour(h, units(h, 11), { x: 0.3 })).toMatchObject({ code: 'invalid' });
    expect(colour(h, units(h, 11), { x: 0.6, y: 0.41 })).toMatchObject({ code: 'invalid' });
    expect(isRefusal(colour(h, units(h, 11), { x: 0.6, y: 0.4 }))).toBe(false);
    expect(isRefusal(colour(h, units(h, 11), { kelvin: 3200 }))).toBe(false);
    expect(colour(h, units(h, 1, 2), WARM)).toMatchObject({ code: 'not-found' });
  });

  test('names who cannot make it, and nobody where all can', () => {
    const h = handsOn();
    expect(colour(h, units(h, 11, 12), WARM)).not.toHaveProperty('message');
    expect(colour(h, units(h, 11, 12), { x: 0.08, y: 0.83 })).toMatchObject({
      message: expect.stringMatching(
        /^11–12 cannot make this colour; the nearest is ΔE \d+ off\.$/,
      ),
    });
  });

  test('on the way to another the first has the one and the last the other; alone it has the first', () => {
    const h = handsOn();
    const COLD = { x: 0.3, y: 0.31 };
    const of = (made: Made, n: number): number[] =>
      levels(h, made)
        .filter((l) => l[0] === n)
        .map((l) => l[2]);
    const warm = of(colour(h, units(h, 11), WARM), 11);
    const way = colour(h, units(h, 11, 12, 13), { ...WARM, to: COLD });
    expect(of(way, 11)).toEqual(warm);
    expect(of(way, 13)).toEqual(of(colour(h, units(h, 13), COLD), 13));
    expect(of(way, 12)).not.toEqual(warm);
    expect(of(way, 12)).not.toEqual(of(way, 13));
    expect(of(colour(h, units(h, 11), { ...WARM, to: COLD }), 11)).toEqual(warm);
  });
});

test('who has no pan or no tilt looks nowhere; where to look must be said', () => {
  const h = handsOn();
  const c = { command: 'aim', flip: false } as const;
  expect(aim(h, units(h, 101), { ...c, points: [] })).toMatchObject({ code: 'invalid' });
  const points = [{ x: 0, y: 1, z: 0 }];
  expect(aim(h, units(h, 1), { ...c, points })).toMatchObject({ code: 'not-found' });
  expect(levels(h, aim(h, units(h, 1, 101), { ...c, points })).map((l) => [l[0], l[1]])).toEqual([
    [101, 'Pan'],
    [101, 'Tilt'],
  ]);
});

describe('palettes, looks and effects', () => {
  /** A palette of half the light for units 1 and 2. */
  function withPalette() {
    const h = handsOn();
    apply(h.show, 'record-palette', {
      family: 'intensity',
      name: 'Half',
      scope: 'fixtures',
      values: [
        { fixtureId: idOf(h.show, 1), attribute: 'Dimmer', level: 0.5 },
        { fixtureId: idOf(h.show, 2), attribute: 'Dimmer', level: 0.6 },
      ],
    });
    const id = [...h.show.palettes.values()].find((p) => p.name === 'Half')?.id ?? '';
    return { h, id };
  }

  test('whom a palette does not reach is named; reaching nobody it is refused', () => {
    const { h, id } = withPalette();
    expect(applyPalette(h, 'gone', units(h, 1), 0)).toMatchObject({ code: 'not-found' });
    const some = applyPalette(h, id, units(h, 1, 2, 101), 3);
    expect(levels(h, some)).toEqual([
      [1, 'Dimmer', 0.5],
      [2, 'Dimmer', 0.6],
    ]);
    expect(some).toMatchObject({
      fade_s: 3,
      message: expect.stringContaining('does not reach 101.'),
    });
    expect(applyPalette(h, id, units(h, 1), 0)).not.toHaveProperty('message');
    expect(applyPalette(h, id, units(h, 101), 0)).toMatchObject({ code: 'no-reach' });
  });

  test('like another unit: its palette where that says something here, else its value; not itself, nor what it does not share', () => {
    const { h, id } = withPalette();
    const on = handsOn(
      {
        [slotKey(idOf(h.show, 1), 'Dimmer')]: { level: 0.5, palette: id },
        [slotKey(idOf(h.show, 101), 'Pan')]: { level: 0.7 },
      },
      h.show,
    );
    const c = { command: 'like', from: 1 } as const;
    const made = like(on, units(on, 1, 2, 3), c);
    expect(levels(on, made)).toEqual([
      [2, 'Dimmer', 0.6],
      [3, 'Dimmer', 0.5],
    ]);
    expect(isRefusal(made) ? [] : made.values.map((v) => v.palette)).toEqual([id, undefined]);
    expect(like(on, units(on, 1), c)).toMatchObject({ code: 'nothing' });
    expect(like(on, units(on, 2), { ...c, from: 77 })).toMatchObject({ code: 'not-found' });
    expect(like(on, units(on, 2), { ...c, families: ['colour'] })).toMatchObject({
      code: 'nothing',
    });
    const heads = like(on, units(on, 102), { command: 'like', from: 101, families: ['position'] });
    expect(levels(on, heads)).toEqual([
      [102, 'Pan', 0.7],
      [102, 'Tilt', 0],
    ]);
  });

  test('what is gone is said; what says nothing for these is no start', () => {
    const h = handsOn();
    expect(applyLook(h, 'gone', {}, 0)).toMatchObject({ code: 'not-found' });
    expect(startEffect(h, 'gone', units(h, 1), 0)).toMatchObject({ code: 'not-found' });
  });

  test('of a look, these fixtures and families alone', () => {
    const { h, id } = withPalette();
    const value = (n: number, attribute: string, more: object) => ({
      fixtureId: idOf(h.show, n),
      attribute,
      ...more,
    });
    apply(h.show, 'record-look', {
      name: 'Dusk',
      values: [
        value(1, 'Dimmer', { level: 0.5, palette: id }),
        value(101, 'Dimmer', { level: 0.4, fade_s: 7 }),
        value(101, 'Pan', { level: 0.2 }),
      ],
    });
    const look = [...h.show.looks.keys()][0] ?? '';
    const of = (c: Parameters<typeof applyLook>[2]): [number, string, number][] =>
      levels(h, applyLook(h, look, c, 2));
    expect(of({})).toHaveLength(3);
    expect(of({ fixtures: [101] })).toEqual([
      [101, 'Dimmer', 0.4],
      [101, 'Pan', 0.2],
    ]);
    expect(of({ families: ['position'] })).toEqual([[101, 'Pan', 0.2]]);
    expect(applyLook(h, look, { fixtures: [4] }, 0)).toMatchObject({
      code: 'no-reach',
      message: expect.stringContaining('says nothing for these fixtures'),
    });
    expect(applyLook(h, look, { families: ['beam'] }, 0)).toMatchObject({
      message: expect.stringContaining('says nothing of beam for any fixture'),
    });
    const made = applyLook(h, look, {}, 2);
    expect(isRefusal(made) ? [] : made.values.map((v) => v.fade_s)).toEqual([2, 7, 2]);
  });
});

test('home lights a unit and brings the rest to its defaults; of a family alone, nothing else', () => {
  const h = handsOn();
  const all = levels(h, home(h, units(h, 101), undefined, 0));
  expect(all).toContainEqual([101, 'Dimmer', 1]);
  expect(all).toContainEqual([101, 'Pan', 0.5]);
  const colours = levels(h, home(h, units(h, 101), ['colour'], 0)).map((l) => l[1]);
  expect(colours.length).toBeGreaterThan(0);
  expect(colours).not.toContain('Dimmer');
  expect(colours).not.toContain('Pan');
  expect(levels(h, home(h, units(h, 1), ['intensity'], 0))).toEqual([[1, 'Dimmer', 0]]);
  expect(home(h, units(h, 1), ['colour'], 0)).toMatchObject({ code: 'nothing' });
});

describe('what is taken', () => {
  const TAKE = { command: 'take', whole: false } as const;
  test('of what is lit: from the least light that shows, in the order of numbers', () => {
    const show = exampleShow();
    const lit = (n: number, onStage: number) => [slotKey(idOf(show, n), 'Dimmer'), { onStage }];
    const h = handsOn(
      Object.fromEntries([lit(3, 0.5), lit(2, LIT), lit(1, LIT - 0.0005), lit(101, 0.4)]) as never,
      show,
    );
    expect(levels(h, take(h, { ...TAKE, what: 'lit', families: ['intensity'] }))).toEqual([
      [2, 'Dimmer', LIT],
      [3, 'Dimmer', 0.5],
      [101, 'Dimmer', 0.4],
    ]);
    const one = take(h, { ...TAKE, what: 'lit', fixtures: [101], families: ['intensity'] });
    expect(levels(h, one)).toEqual([[101, 'Dimmer', 0.4]]);
    expect(take(h, { ...TAKE, what: 'lit', fixtures: [1] })).toMatchObject({ code: 'nothing' });
  });

  test('what a cue has there is followed while it is as recorded, to a ten-thousandth', () => {
    const show = exampleShow();
    cue(show, 1, { 2: 50 });
    const [row] = show.cuesOf('main');
    const [value] = show.valuesOf(row?.id ?? '').values() as Iterable<ValueRow>;
    if (!row || !value) throw new Error('no cue');
    const followed = (onStage: number): (string | undefined)[] => {
      const recorded: Tracked = {
        cue: row,
        value: { ...value, palette: undefined, look: 'a look' },
      };
      const h = handsOn({ [slotKey(idOf(show, 2), 'Dimmer')]: { onStage, recorded } }, show);
      const made = take(h, { ...TAKE, what: 'lit', fixtures: [2] });
      return isRefusal(made) ? [] : made.values.map((v) => v.look);
    };
    expect(followed(0.50005)).toEqual(['a look']);
    expect(followed(0.5003)).toEqual([undefined]);
  });

  test('of a cue: what it sets, or all that it shows; a cue that is not there is said with its list', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 80 });
    cue(show, 2, { 2: 50 });
    const h = handsOn({}, show);
    const of = (more: object): Made => take(h, { ...TAKE, what: 'cue', cue: '2', ...more });
    expect(levels(h, of({}))).toEqual([[2, 'Dimmer', 0.5]]);
    expect(levels(h, of({ whole: true }))).toEqual([
      [1, 'Dimmer', 0.8],
      [2, 'Dimmer', 0.5],
    ]);
    expect(levels(h, of({ whole: true, fixtures: [1] }))).toEqual([[1, 'Dimmer', 0.8]]);
    expect(of({ families: ['colour'] })).toMatchObject({ code: 'nothing' });
    expect(of({ cue: '7' })).toMatchObject({
      code: 'not-found',
      message: 'There is no cue 7. Nothing was taken.',
    });
    expect(of({ cue: 'x' })).toMatchObject({ message: 'There is no cue x. Nothing was taken.' });
  });
});

test('an attribute is that of the unit, of each of its cells, or the shutter that strobes', () => {
  const { show } = handsOn();
  const of = (n: number, attribute: string): string[] => {
    const fixture = show.fixtureByNumber(n);
    return fixture ? ownAttributes(show, fixture, attribute) : [];
  };
  expect(of(1, 'Dimmer')).toEqual(['Dimmer']);
  expect(of(1, 'Pan')).toEqual([]);
  expect(of(1, 'Shutter1Strobe')).toEqual([]);
  apply(show, 'patch-fixtures', {
    typeId: 'generic-strobe',
    mode: '2 channel',
    quantity: 1,
    first: 901,
    universe: 3,
    address: 1,
    label: 'Strobe',
  });
  expect(of(901, 'Shutter1Strobe')).toEqual(['Shutter1Strobe']);
  const gone = show.fixtureByNumber(1);
  expect(gone && ownAttributes(show, { ...gone, mode: 'none' }, 'Dimmer')).toEqual([]);
});
