import { channelCount, isEmitter, baseOf } from '../attributes.ts';
import { checkType } from '../check-type.ts';
import { topOf, wheelSlotAt } from '../channel.ts';
import { findTypes, indexTypes } from '../search.ts';
import { libraryTypes } from './index.ts';

const types = libraryTypes();
const modes = types.flatMap((type) => type.modes.map((mode) => ({ type, mode })));

test('at least 40 types and 90 modes ship, by the made-up makers and without one', () => {
  expect(types.length).toBeGreaterThanOrEqual(40);
  expect(modes.length).toBeGreaterThanOrEqual(90);
  expect(new Set(types.map((t) => t.maker))).toEqual(
    new Set(['Generic', 'Aldersund', 'Pellworth', 'Quillon']),
  );
  expect(new Set(types.map((t) => t.id)).size).toBe(types.length);
});

test.each(types.map((t) => [`${t.maker} ${t.name}`, t] as const))(
  '%s has nothing wrong with it',
  (_name, type) => {
    expect(checkType(type)).toEqual([]);
    for (const mode of type.modes) {
      // Every emitter has a colour; every wheel that is on a channel has its slots within the channel.
      for (const c of mode.channels) {
        if (isEmitter(c.attribute)) expect(type.emitters[baseOf(c.attribute)]).toBeDefined();
        for (const f of c.functions ?? []) expect(f.to).toBeLessThanOrEqual(topOf(c));
      }
    }
  },
);

test('what the trade expects is there: cells, breaks, five emitters with shutters, two pattern wheels, a mirror, relays, haze', () => {
  const has = (what: (m: (typeof modes)[number]) => boolean): boolean => modes.some(what);
  expect(has(({ mode }) => mode.cells?.length === 9)).toBe(true);
  expect(has(({ mode }) => (mode.breaks?.length ?? 0) > 0)).toBe(true);
  expect(
    has(
      ({ mode }) =>
        mode.channels.filter((c) => isEmitter(c.attribute)).length === 5 &&
        mode.channels.some((c) => c.attribute === 'Blade1A'),
    ),
  ).toBe(true);
  expect(
    has(({ mode }) =>
      ['Gobo1', 'Gobo2', 'ColorSub_C'].every((a) => mode.channels.some((c) => c.attribute === a)),
    ),
  ).toBe(true);
  expect(types.some((t) => /mirror/i.test(t.name))).toBe(true);
  expect(types.some((t) => /relay/i.test(t.name))).toBe(true);
  expect(types.some((t) => t.shape === 'hazer')).toBe(true);
  expect(
    types.some(
      (t) =>
        t.macros?.some((m) => m.name === 'Lamp on') && t.macros.some((m) => m.name === 'Reset'),
    ),
  ).toBe(true);
});

test('every slot of every wheel can be reached by a level, in every resolution', () => {
  for (const { type, mode } of modes) {
    for (const c of mode.channels) {
      const wheel = type.wheels?.find((w) => w.name === baseOf(c.attribute));
      if (!wheel) continue;
      const reached = new Set(
        Array.from({ length: 2001 }, (_, i) => wheelSlotAt(type, c, i / 2000)?.slot),
      );
      for (let n = 1; n <= wheel.slots.length; n++) expect(reached.has(n)).toBe(true);
    }
  }
});

describe('search', () => {
  const index = indexTypes(types);
  const names = (query: string): string[] => findTypes(index, query).map((f) => f.type.name);

  test.each([
    ['wash19', 'Wash 19'],
    ['WASH 19', 'Wash 19'],
    ['quillon wash-19', 'Wash 19'],
    ['19 wash', 'Wash 19'],
    ['rgbaw uv', 'RGBAW+UV par'],
    ['shoreline 15-30', 'Shoreline zoom 15-30'],
  ])('“%s” finds %s, whatever case, spaces and punctuation', (query, name) =>
    expect(names(query)).toContain(name),
  );

  test('a number finds modes of that many channels, and only the modes that fit are offered', () => {
    const found = findTypes(index, 'wash 19 17');
    expect(found.map((f) => f.type.name)).toEqual(['Wash 19']);
    expect(found[0]?.modes.map(channelCount)).toEqual([17]);
    expect(names('zz top')).toEqual([]);
    expect(findTypes(index, '').length).toBe(types.length);
  });
});
