import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { libraryType } from '../rig/library/index.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import { chromaticity, hueSaturation, kelvin } from './mix.ts';
import { colourLevels, colourOf, colourParts, filtered, lampXYZ } from './unit-colour.ts';

function unit(id: string, mode: string): { type: TypeRow; mode: Mode } {
  const type = libraryType(id);
  const found = type?.modes.find((m) => m.name === mode);
  if (!type || !found) throw new Error(`no ${id} ${mode}`);
  return { type, mode: found };
}

/** What comes out when a target goes in. */
function through({ type, mode }: { type: TypeRow; mode: Mode }, target: { x: number; y: number }) {
  const part = colourParts(type, mode)[0];
  if (!part) throw new Error('no colour');
  const answer = colourLevels(type, part, target);
  const levels = new Map(answer.levels.map((l) => [l.attribute, l.level]));
  return { answer, at: chromaticity(colourOf(type, part, (a) => levels.get(a) ?? 0)) };
}

test.each([
  ['generic-rgb', 'RGB'],
  ['generic-rgbw', 'Dimmer RGBW'],
  ['aldersund-skerry', 'Direct'],
  ['generic-spot-cmy', 'Basic'],
] as const)('%s comes out at a soft colour as it is asked', (id, mode) => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 359 }), evenly(0, 0.35), (hue, saturation) => {
      const target = hueSaturation(hue, saturation);
      const { at, answer } = through(unit(id, mode), target);
      return (
        answer.off_uv < 0.02 &&
        at !== undefined &&
        Math.hypot(at.x - target.x, at.y - target.y) < 0.02 &&
        answer.levels.every((l) => l.level >= 0 && l.level <= 1)
      );
    }),
  );
});

test('tunable white reaches whites between its two, and says how far off a colour is', () => {
  const warm = unit('generic-tunable', 'Warm cool');
  expect(through(warm, kelvin(4000)).answer.off_uv).toBeLessThan(0.02);
  expect(through(warm, hueSaturation(220, 0.9)).answer.off_uv).toBeGreaterThan(0.05);
});

test('a unit with nothing but a wheel takes its nearest slot, its own slots included', () => {
  const mirror = unit('generic-mirror', '8 bit');
  const part = colourParts(mirror.type, mirror.mode)[0];
  const wheelLevel = (own?: Parameters<typeof colourLevels>[3]): number =>
    part
      ? (colourLevels(mirror.type, part, hueSaturation(235, 0.9), own).levels[0]?.level ?? -1)
      : -1;
  const sound = mirror.mode.channels
    .find((c) => c.attribute === 'Color1')
    ?.functions?.[0]?.sets?.find((s) => s.name === 'Violet hour' || s.name === 'Sound blue');
  expect(Math.round(wheelLevel() * 255)).toBeGreaterThanOrEqual(sound?.from ?? 999);
  const { x, y } = hueSaturation(235, 0.9);
  expect(
    Math.round(
      wheelLevel({ wheels: { Color1: { '2': { name: 'Night', color: { x, y, Y: 0.2 } } } } }) * 255,
    ),
  ).toBe(23);
});

test('ultraviolet is left to the programmer', () => {
  const six = unit('generic-six', 'RGBAW+UV');
  expect(
    through(six, hueSaturation(280, 0.6)).answer.levels.find((l) => l.attribute === 'ColorAdd_UV')
      ?.level,
  ).toBe(0);
});

test('filters that are out change nothing; all in leave next to nothing', () => {
  const lamp = lampXYZ(unit('generic-spot-cmy', 'Basic').type);
  filtered(lamp, [0, 0, 0]).forEach((v, i) => expect(v).toBeCloseTo(lamp[i] ?? 0, 2));
  expect(filtered(lamp, [1, 1, 1])[1]).toBeLessThan(0.05);
});

test('every cell of a strip is a part of its own', () => {
  const { type, mode } = unit('generic-strip', '8 cells RGB');
  expect(colourParts(type, mode).map((p) => p.cell)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
  expect(
    colourParts(...(Object.values(unit('generic-dimmer', '8 bit')) as [TypeRow, Mode])),
  ).toEqual([]);
});

test('filters of which a maker says what they let through are mixed by that, and nearer than by what is usual', () => {
  const { type, mode } = unit('generic-spot-cmy', 'Basic');
  const filters = {
    ColorSub_C: { x: 0.2, y: 0.28, Y: 0.45 },
    ColorSub_M: { x: 0.34, y: 0.2, Y: 0.3 },
    ColorSub_Y: { x: 0.42, y: 0.48, Y: 0.9 },
  };
  const measured = { type: { ...type, filters }, mode };
  const part = colourParts(measured.type, mode)[0];
  if (!part) throw new Error('no colour');
  for (const hue of [30, 150, 200, 320]) {
    const target = hueSaturation(hue, 0.2);
    const { answer, at } = through(measured, target);
    const usual = new Map(
      colourLevels(type, part, target).levels.map((l) => [l.attribute, l.level]),
    );
    const asUsual = chromaticity(colourOf(measured.type, part, (a) => usual.get(a) ?? 0));
    const off = (c: { x: number; y: number } | undefined): number =>
      c ? Math.hypot(c.x - target.x, c.y - target.y) : 1;
    expect([hue, answer.off_uv < 0.02, off(at) < 0.02]).toEqual([hue, true, true]);
    expect(off(at)).toBeLessThan(off(asUsual));
  }
});
