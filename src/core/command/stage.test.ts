import { kelvin } from '../color/mix.ts';
import { SWATCHES } from '../palettes/standard.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { readCommand } from './command.ts';
import type { CommandContext } from './reader.ts';

const show = exampleShow();
cue(show, 1, { 1: 50 });
apply(show, 'record-group', { name: 'Front', number: 2, fixtures: [idOf(show, 3), idOf(show, 1)] });
apply(show, 'record-palette', {
  family: 'position',
  name: 'Bow rail',
  number: 12,
  any: { point: { x: 1, y: 4, z: 1.2 } },
});
apply(show, 'record-palette', { family: 'colour', name: 'Dusk', number: 5, any: { kelvin: 3200 } });
apply(show, 'record-look', {
  name: 'Storm',
  number: 4,
  items: [{ kind: 'level', fixtureId: idOf(show, 2), attribute: 'Dimmer', level: 0.4 }],
});
apply(show, 'set-effect', {
  set: {
    name: 'Swell',
    number: 3,
    speed: { hz: 0.5 },
    direction: 'forward',
    spread: { turns: 1, groups: 0, blocks: 1, wings: 1 },
    tracks: [
      {
        attribute: 'Dimmer',
        wave: 'sine',
        mode: 'relative',
        size: 0.3,
        base: 0,
        width: 1,
        offset: 0,
      },
    ],
  },
});
const context: CommandContext = {
  show,
  selection: [],
  listId: null,
  cueOn: () => show.cuesOf('main')[0]?.id ?? null,
  unrecorded: 3,
  held: () => 3,
  lit: () => [],
  levelOf: () => undefined,
};
const id = (rows: ReadonlyMap<string, { id: string; number: number }>, number: number): string =>
  [...rows.values()].find((r) => r.number === number)?.id ?? '';
function read(text: string, more: Partial<CommandContext> = {}) {
  const result = readCommand(text, { ...context, ...more });
  if (!result.ok) throw new Error(`${text}: ${result.message}`);
  return result;
}
const swatch = (name: string) => SWATCHES.find(([n]) => n === name)?.[1];
const changed = (text: string, field: 'position' | 'rotation' | 'lean' | 'hang'): unknown[] => {
  const { intent } = read(text);
  if (intent.kind !== 'edit' || intent.edit !== 'change-fixtures')
    throw new Error(`${text} is ${JSON.stringify(intent)}`);
  return (intent.params as { fixtures: { set: Record<string, unknown> }[] }).fixtures.map(
    (f) => f.set[field],
  );
};

test.each<[string, Record<string, unknown>, string]>([
  [
    '1 thru 3 look 4',
    { command: 'look', look: id(show.looks, 4), fixtures: [2] },
    '1 fixture as look 4 “Storm”',
  ],
  ['2 look "storm" time 3', { command: 'look', fixtures: [2], fade_s: 3 }, 'in 3 s'],
  [
    '1 thru 4 effect 3',
    { command: 'effect', effect: id(show.effects, 3), fixtures: [1, 2, 3, 4], on: true },
    'over 4 fixtures, in this order',
  ],
  [
    '1 thru 4 effect 3 off time 2',
    { command: 'effect', on: false, fade_s: 2 },
    '4 fixtures without effect 3 “Swell” in 2 s',
  ],
  [
    '11 thru 14 white 3200 time 5',
    { command: 'colour', fixtures: [11, 12, 13, 14], kelvin: 3200, fade_s: 5 },
    'white 3200 K',
  ],
  [
    '11 thru 14 colour dusk',
    { command: 'palette', palette: id(show.palettes, 5), fixtures: [11, 12, 13, 14] },
    '4 fixtures · colour follows palette 5 “Dusk”',
  ],
  [
    '11 + 12 colour dusk thru red',
    { command: 'colour', fixtures: [11, 12], ...kelvin(3200), to: swatch('Port red') },
    'colour “Dusk” to colour “Port red”',
  ],
  [
    '11 colour red',
    { command: 'colour', fixtures: [11], ...swatch('Port red') },
    'colour “Port red”',
  ],
  [
    '11 + 12 colour red thru "Deep water"',
    { command: 'colour', fixtures: [11, 12], ...swatch('Port red'), to: swatch('Deep water') },
    'colour “Port red” to colour “Deep water”',
  ],
  [
    '11 thru 13 palette 5',
    { command: 'palette', palette: id(show.palettes, 5), fixtures: [11, 12, 13] },
    '3 fixtures · colour follows palette 5 “Dusk”',
  ],
  ['1 + 11 palette 5', { command: 'palette', fixtures: [1, 11] }, '(it does not reach 1)'],
  [
    '101 + 102 aim at "Bow rail"',
    { command: 'palette', palette: id(show.palettes, 12) },
    'position follows palette 12 “Bow rail”',
  ],
  [
    '101 aim palette 12 flip',
    { command: 'aim', points: [{ x: 1, y: 4, z: 1.2 }], flip: true },
    'the other way round',
  ],
  [
    '101 + 102 aim -3 2 thru 3 2 1.5',
    {
      command: 'aim',
      points: [
        { x: -3, y: 2, z: 0 },
        { x: 3, y: 2, z: 1.5 },
      ],
    },
    'along a line from -3 2 0 m to 3 2 1.5 m',
  ],
  ['101 flip in 2', { command: 'flip', fixtures: [101], fade_s: 2 }, 'the other way round in 2 s'],
  ['101 home', { command: 'home', fixtures: [101] }, 'at full, straight ahead, open white'],
  ['101 home colour', { command: 'home', families: ['colour'] }, 'colour alone'],
])('“%s” is told with what it does', (text, command, says) => {
  const result = read(text);
  expect(result.intent).toMatchObject({ kind: 'select-and-set', command });
  expect(result.says).toContain(says);
});

test('units are hung, turned, lined up and spaced, each said before it is done', () => {
  expect(changed('101 + 102 hang "Bar 2"', 'hang')).toEqual(['Bar 2', 'Bar 2']);
  expect(changed('101 rotate -45', 'rotation')).toEqual([-45]);
  expect(changed('1 lean 30', 'lean')).toEqual([30]);
  // The height stays where none is said, and is taken where it is, also the floor's.
  const [first, second] = [
    show.fixtureByNumber(101)?.position,
    show.fixtureByNumber(102)?.position,
  ];
  if (!first || !second) throw new Error('no washes');
  expect(changed('101 + 102 place 2 5', 'position')).toEqual([
    { x: 2, y: 5, z: first.z },
    { x: 2 + second.x - first.x, y: 5 + second.y - first.y, z: second.z },
  ]);
  expect(changed('101 place 2 5 0', 'position')).toEqual([{ x: 2, y: 5, z: 0 }]);
  expect(read('101 place 2 5 0').says).toContain('at 2 5 0 m');
  const moved = show.clone();
  apply(moved, 'change-fixtures', {
    fixtures: [1, 2, 3].map((n, i) => ({
      id: idOf(moved, n),
      set: { position: { x: [0, 1, 6][i] ?? 0, y: [4, 5, 4][i] ?? 0, z: 6 } },
    })),
  });
  const places = (text: string): unknown =>
    (
      read(text, { show: moved }).intent as {
        params?: { fixtures: { set: { position: { x: number; y: number } } }[] };
      }
    ).params?.fixtures.map((f) => [f.set.position.x, f.set.position.y]);
  expect(places('1 thru 3 distribute')).toEqual([
    [0, 4],
    [3, 4],
    [6, 4],
  ]);
  expect(new Set((places('1 thru 3 align') as [number, number][]).map(([, y]) => y)).size).toBe(1);
  expect(new Set((places('1 thru 3 align up') as [number, number][]).map(([x]) => x)).size).toBe(1);
});

test('for whom a palette is kept, and what is named, renamed and deleted', () => {
  expect(read('record colour palette 9 "Night" for any').intent).toMatchObject({
    kind: 'record-held',
    params: { number: 9, name: 'Night', family: 'colour', scope: 'any' },
  });
  expect(read('record colour palette 9 for type').intent).toMatchObject({
    params: { scope: 'types' },
  });
  expect(read('record colour palette 9 for group 2').intent).toMatchObject({
    params: { scope: 'group', group: id(show.groups, 2) },
  });
  expect(read('update palette 5').says).toContain('into palette 5 “Dusk”');
  expect(read('name effect 3 Tide').intent).toMatchObject({
    edit: 'set-effect',
    params: { set: { name: 'Tide', speed: { hz: 0.5 } } },
  });
  expect(read('name look 4 Gale').intent).toMatchObject({
    edit: 'change-look',
    params: { set: { name: 'Gale' } },
  });
  expect(read('delete look 4').intent).toMatchObject({ kind: 'edit', edit: 'delete-look' });
  expect(read('5 + 6 record group "Side"').intent).toMatchObject({
    edit: 'record-group',
    params: { name: 'Side', fixtures: [idOf(show, 5), idOf(show, 6)] },
  });
});

test.each([
  ['1 look 4', 'says nothing for 1'],
  ['1 look 44', 'There is no look 44.'],
  ['1 look storm', '“storm” is not a look number; a name goes in quotes.'],
  ['1 effect', 'Here an effect number is missing.'],
  ['11 white 900', 'White goes from 1667 to 25000 K; 900 does not.'],
  ['11 hue 400', 'A hue goes from 0 to 360 degrees'],
  ['11 colour blurple', 'There is no colour called “blurple”.'],
  ['11 colour red thru dusk', 'needs at least two fixtures'],
  ['1 palette 5', 'says nothing for 1'],
  ['101 rotate 500', 'at most 360 degrees'],
  ['101 lean 200', 'at most 180 degrees'],
  ['101 hang', 'Say on which bar'],
  ['101 hang "Bar 9"', 'There is no bar called “Bar 9”'],
  ['101 place 2', 'metres upstage is missing'],
  ['update palette 77', 'There is no palette 77 to update.'],
  ['update look 77', 'There is no look 77 to update.'],
  ['record palette 77', 'Say of which family'],
  ['record colour palette 9 for me', 'For whom?'],
  ['record colour look', 'Expected “palette”'],
  ['1 record group', 'A group needs a name'],
  ['name look 4', 'Here the name is missing.'],
  ['1 let go banana', '“banana” is neither a family nor an attribute.'],
  ['keep banana', 'Keep what?'],
  ['take cue 99', 'There is no cue 99.'],
])('“%s” is refused with what is missing', (text, message) => {
  expect(readCommand(text, context)).toMatchObject({
    ok: false,
    message: expect.stringContaining(message),
  });
});

describe('fader … holds', () => {
  test('puts a look, a palette or an effect’s speed under a fader, new or in place of another', () => {
    const effect = [...show.effects.values()].find((e) => e.number === 3);
    expect(readCommand('fader 4 holds effect 3 speed', context)).toMatchObject({
      intent: {
        kind: 'edit',
        edit: 'put-on-fader',
        params: { number: 4, holds: { kind: 'effect', id: effect?.id }, mode: 'rate' },
      },
      says: 'fader 4 holds effect 3 “Swell”, for its speed',
    });
    expect(readCommand('fader 4 holds look 9', context)).toMatchObject({
      message: 'There is no look 9.',
    });
    expect(readCommand('fader 4 holds water', context)).toMatchObject({
      message: 'A fader holds a list, a look, a palette, a group or an effect.',
    });
  });
});

describe('lights on a spot', () => {
  const on = show.fixtureByNumber(1);
  const lit: Partial<CommandContext> = {
    levelOf: (unit, attribute) => {
      if (attribute === 'Dimmer') return Number(unit === on?.id);
      return attribute === 'Pan' ? 0.5 : undefined;
    },
  };
  beforeAll(() => {
    apply(show, 'change-fixtures', {
      fixtures: [{ id: on?.id, set: { position: { x: 2, y: -1.5, z: 5 }, lean: 0 } }],
    });
    apply(show, 'set-area', {
      set: {
        name: 'Quay',
        corners: [
          { x: 1, y: -2 },
          { x: 3, y: -2 },
          { x: 3, y: -1 },
          { x: 1, y: -1 },
        ],
      },
    });
  });

  test('selects who puts light there, and says who gives how much', () => {
    const spot = read('lights on 2 -1.5', lit);
    expect(spot.intent).toMatchObject({ kind: 'select-and-set', select: [on?.id] });
    expect(spot.says).toBe(
      `1 unit puts light there · 1 ${on?.label} gives 100 % of it · selected in that order`,
    );
    expect(read('lights on "quay"', lit).says).toContain('puts light on “Quay”');
    // It is a selection as any other.
    expect(read('lights on 2 -1.5 at 40', lit).intent).toMatchObject({
      select: [on?.id],
      command: { level: 0.4 },
    });
    expect(read('lights on 2 -1.5 + 2', lit).says).toContain('select 2 fixtures');
  });

  test('who could comes without those who do', () => {
    const could = read('lights could 2 -1.5', lit).intent;
    if (could.kind !== 'select-and-set') throw new Error(could.kind);
    expect(could.select).not.toContain(on?.id);
    expect(could.select).toContain(show.fixtureByNumber(101)?.id);
  });

  test('says what is missing, and where nothing falls', () => {
    const wrong = (text: string): string => {
      const result = readCommand(text, { ...context, ...lit });
      return result.ok ? 'understood' : result.message;
    };
    expect(wrong('lights on 90 90')).toBe('No unit puts light there now.');
    expect(wrong('lights on "Galley"')).toBe('There is no area “Galley”.');
    expect(wrong('lights on')).toMatch(/Say where/);
    expect(wrong('lights on 2 up')).toBe('“up” is not metres upstage.');
  });
});
