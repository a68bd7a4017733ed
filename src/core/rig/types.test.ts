import fc from 'fast-check';
import { TypeRow, type Channel } from '../types/rows.ts';
import { checkType } from './check-type.ts';
import { levelOfRaw, levelOfSet, meaningOf, rawOf, sayLevel } from './channel.ts';
import { libraryType, libraryTypes } from './library/index.ts';
import { cellWords, makeType, mode } from './make-type.ts';
import {
  attributeMeant,
  attributesOf,
  hasVirtualDimmer,
  isStandard,
  scaledByVirtual,
  spreadOverCells,
} from './attributes.ts';

const base = makeType({
  id: 't',
  maker: 'Quillon',
  name: 'Try',
  shape: 'wash',
  watts: 100,
  modes: [mode('A', ['Dimmer', 'Pan:16'])],
});
const withChannels = (change: (channels: Channel[]) => void): unknown => {
  const copy = structuredClone(base);
  change(copy.modes[0]?.channels ?? []);
  return copy;
};
const saying = (draft: unknown): string =>
  checkType(draft)
    .map((p) => p.message)
    .join(' | ');

describe('a type that cannot be is told what is wrong, and where', () => {
  test.each<[string, unknown, RegExp]>([
    [
      'overlapping channels',
      withChannels((c) => c[1] && (c[1].offset = [1, 2])),
      /Pan and Intensity both use channel 1/,
    ],
    [
      'a channel past the mode',
      withChannels((c) => c[1] && (c[1].offset = [2, 9])),
      /channel 9, but the mode has 3/,
    ],
    [
      'an attribute twice',
      withChannels((c) => c.push({ ...(c[0] as Channel), offset: [3] })),
      /there twice/,
    ],
    [
      'a function past its channel',
      withChannels(
        (c) =>
          c[0] &&
          (c[0].functions = [{ name: 'All', from: 0, to: 300, physicalFrom: 0, physicalTo: 1 }]),
      ),
      /ends at 300; the channel ends at 255/,
    ],
    [
      'a function that ends before it begins',
      withChannels(
        (c) =>
          c[0] &&
          (c[0].functions = [{ name: 'All', from: 9, to: 3, physicalFrom: 0, physicalTo: 1 }]),
      ),
      /begins at 9, after its end 3/,
    ],
    [
      'functions that overlap',
      withChannels(
        (c) =>
          c[0] &&
          (c[0].functions = [
            { name: 'One', from: 0, to: 100, physicalFrom: 0, physicalTo: 1 },
            { name: 'Two', from: 90, to: 255, physicalFrom: 0, physicalTo: 1 },
          ]),
      ),
      /overlap at 90/,
    ],
    [
      'a named range outside its function',
      withChannels(
        (c) =>
          c[0] &&
          (c[0].functions = [
            {
              name: 'One',
              from: 0,
              to: 100,
              physicalFrom: 0,
              physicalTo: 1,
              sets: [{ name: 'Far', from: 90, to: 120 }],
            },
          ]),
      ),
      /“Far” \(90–120\) lies outside/,
    ],
    ['no mode', { ...base, modes: [] }, /at least one mode/],
    [
      'two modes of one name',
      { ...base, modes: [base.modes[0], base.modes[0]] },
      /Two modes are called “A”/,
    ],
    [
      '513 channels',
      {
        ...base,
        modes: [{ ...mode('Big', cellWords(171, ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B'])) }],
      },
      /513 channels; a universe has 512/,
    ],
    [
      'a mode without channels',
      { ...base, modes: [{ name: 'Empty', footprint: 1, channels: [] }] },
      /no channels/,
    ],
    [
      'a wheel that is not there',
      withChannels(
        (c) =>
          c[0] &&
          (c[0].functions = [
            { name: 'One', from: 0, to: 255, physicalFrom: 0, physicalTo: 1, wheel: 'Color9' },
          ]),
      ),
      /names the wheel Color9/,
    ],
  ])('%s', (_what, draft, words) => expect(saying(draft)).toMatch(words));

  test('it never throws, whatever is typed', () => {
    fc.assert(fc.property(fc.anything(), (draft) => Array.isArray(checkType(draft))));
    fc.assert(
      fc.property(
        fc.record({
          modes: fc.array(
            fc.record({
              name: fc.string(),
              channels: fc.array(
                fc.record({ attribute: fc.string(), offset: fc.array(fc.double()) }),
              ),
            }),
          ),
        }),
        (draft) => checkType(draft).length > 0,
      ),
    );
  });

  test('what is right has no problems and is a row', () => {
    expect(checkType(base)).toEqual([]);
    expect(TypeRow.safeParse(base).success).toBe(true);
  });
});

describe('what a level means', () => {
  const spot = libraryType('generic-spot-cmy');
  const full = spot?.modes.find((m) => m.name === 'Full');
  const channel = (a: string): Channel => full?.channels.find((c) => c.attribute === a) as Channel;

  test('raw values and levels are each other’s reverse, at every resolution', () => {
    for (const c of [channel('Pan'), channel('Color1'), channel('Focus1')]) {
      fc.assert(
        fc.property(
          fc.integer({ min: 0, max: 256 ** c.offset.length - 1 }),
          (raw) => rawOf(c, levelOfRaw(c, raw)) === raw,
        ),
      );
    }
  });

  test('a level in a named range says its name, one in a function its physical value', () => {
    expect(sayLevel(spot, channel('Shutter1'), 0)).toBe('Closed');
    expect(sayLevel(spot, channel('Shutter1'), 31 / 255)).toBe('Open');
    expect(sayLevel(spot, channel('Shutter1'), 1)).toBe('Strobe 25');
    expect(sayLevel(spot, channel('Pan'), 0.5)).toBe('0°');
    const kelp = channel('Color1').functions?.[0]?.sets?.[4];
    expect(kelp && sayLevel(spot, channel('Color1'), levelOfSet(channel('Color1'), kelp))).toBe(
      'Kelp',
    );
  });

  test('a unit’s own slot is named instead of the type’s', () => {
    const set = channel('Gobo1').functions?.[0]?.sets?.[2];
    const level = set ? levelOfSet(channel('Gobo1'), set) : 0;
    expect(
      sayLevel(spot, channel('Gobo1'), level, {
        wheels: { Gobo1: { '3': { name: 'Net over water' } } },
      }),
    ).toBe('Net over water');
    expect(meaningOf(channel('Gobo1'), level).set?.slot).toBe(3);
  });
});

describe('cells', () => {
  test('cells without a dimmer of the unit get a virtual one that scales each cell', () => {
    const nine = libraryType('generic-blinder')?.modes.find((m) => m.name === '9 cells');
    expect(nine && hasVirtualDimmer(nine)).toBe(true);
    expect(nine?.channels.every((c) => scaledByVirtual(nine, c))).toBe(true);
    const master = libraryType('generic-blinder')?.modes.find(
      (m) => m.name === 'Master and 9 cells',
    );
    expect(master && hasVirtualDimmer(master)).toBe(false);
  });

  test('an attribute of the unit means that of all its cells when it has none of its own', () => {
    const strip = libraryType('generic-strip')?.modes.find((m) => m.name === '4 cells RGB');
    expect(strip && spreadOverCells(strip, 'ColorAdd_R')).toEqual([
      'ColorAdd_R@1',
      'ColorAdd_R@2',
      'ColorAdd_R@3',
      'ColorAdd_R@4',
    ]);
    expect(strip && spreadOverCells(strip, 'Dimmer')).toEqual(['Dimmer']);
    expect(strip && spreadOverCells(strip, 'Pan')).toEqual([]);
    expect(strip && attributesOf(strip).length).toBe(13);
  });
});

test.each([
  ['Red', 'ColorAdd_R'],
  ['warm white', 'ColorAdd_WW'],
  ['dimmer', 'Dimmer'],
  ['Strobe', 'Shutter1Strobe'],
  ['gobo', 'Gobo1'],
  ['pan', 'Pan'],
  ['UV', 'ColorAdd_UV'],
  ['green @3', 'ColorAdd_G@3'],
  ['ColorAdd_R', 'ColorAdd_R'],
  ['Sparkle', 'Sparkle'],
])('the plain word “%s” is %s', (word, attribute) => expect(attributeMeant(word)).toBe(attribute));
test.each([
  ['ColorAdd_R', true],
  ['ColorAdd_BM', true],
  ['Gobo1WheelShake', true],
  ['AnimationWheel1Pos', true],
  ['Sparkle', false],
  ['Redd', false],
  ['', false],
])('%s is one of the standard’s: %s', (attribute, is) => expect(isStandard(attribute)).toBe(is));
test('every attribute of the library is the standard’s', () => {
  const strange = libraryTypes()
    .flatMap((t) => t.modes.flatMap((m) => m.channels.map((c) => c.attribute)))
    .filter((a) => !isStandard(a));
  expect([...new Set(strange)]).toEqual([]);
});
