import { converter } from 'culori';
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { makeType, mode } from '../rig/make-type.ts';
import {
  chromaticity,
  displayRGB,
  hueSaturation,
  kelvin,
  mixXYZ,
  solveEmitters,
  toHueSaturation,
  toXYZ,
} from './mix.ts';

const emittersOf = (...attributes: string[]) =>
  Object.values(
    makeType({
      id: 't',
      maker: 'Aldersund',
      name: 'Test',
      shape: 'wash',
      watts: 1,
      modes: [mode('m', attributes)],
    }).emitters,
  );
const RGB = emittersOf('ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B');
const RGBW = emittersOf('ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W');
const FIVE = emittersOf('ColorAdd_R', 'ColorAdd_RY', 'ColorAdd_GY', 'ColorAdd_C', 'ColorAdd_B');

test('solve, then mix, comes back to the target within a 16-bit step', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(RGB, RGBW, FIVE),
      evenly(0, 359),
      evenly(0, 0.5),
      (emitters, hue, saturation) => {
        const target = hueSaturation(hue, saturation);
        const { weights, outside } = solveEmitters(emitters, target);
        const got = chromaticity(mixXYZ(emitters, weights));
        if (outside || !got) return false;
        return (
          Math.hypot(got.x - target.x, got.y - target.y) < 1e-4 &&
          weights.every((w) => w >= 0 && w <= 1)
        );
      },
    ),
  );
});

test('the brightest solution drives an emitter to full', () => {
  for (const saturation of [0, 0.3, 0.6])
    expect(Math.max(...solveEmitters(RGBW, hueSaturation(200, saturation)).weights)).toBeCloseTo(
      1,
      6,
    );
});

test('more emitters are never darker', () => {
  const Y = (emitters: typeof RGB): number =>
    mixXYZ(emitters, solveEmitters(emitters, kelvin(3200)).weights)[1];
  expect(Y(RGBW)).toBeGreaterThan(Y(RGB));
});

test('outside the gamut: the nearest chromaticity, and it is said', () => {
  const beyond = solveEmitters(RGB, { x: 0.735, y: 0.265 });
  expect(beyond.outside).toBe(true);
  expect(beyond.weights[0]).toBeGreaterThan(0.95);
  expect(Math.hypot(beyond.at.x - 0.694, beyond.at.y - 0.306)).toBeLessThan(0.02);
});

test('white points agree with published chromaticities of black bodies', () => {
  // CIE 15: illuminant A (2856 K) at x 0.4476, y 0.4074; 6500 K on the locus at 0.3135, 0.3237.
  expect(kelvin(2856).x).toBeCloseTo(0.4476, 2);
  expect(kelvin(2856).y).toBeCloseTo(0.4074, 2);
  expect(kelvin(6500).x).toBeCloseTo(0.3135, 2);
  expect(kelvin(6500).y).toBeCloseTo(0.3237, 2);
});

test('screen colours agree with an independent library', () => {
  const toRgb = converter('rgb');
  for (const [hue, saturation] of [
    [0, 1],
    [30, 0.5],
    [120, 0.8],
    [210, 0.4],
    [300, 1],
  ] as const) {
    const c = hueSaturation(hue, saturation);
    const rgb = displayRGB(toXYZ({ ...c, Y: 0.2 }));
    const other = toRgb({ mode: 'hsv', h: hue, s: saturation, v: 1 });
    [other.r, other.g, other.b].forEach((v, i) =>
      expect(Math.abs((rgb[i] ?? 0) - v * 255)).toBeLessThanOrEqual(2),
    );
  }
});

test('hue and saturation survive the way through light', () => {
  const back = toHueSaturation(toXYZ({ ...hueSaturation(212, 0.6), Y: 1 }));
  expect(back.hue).toBeCloseTo(212, 0);
  expect(back.saturation).toBeCloseTo(0.6, 2);
});

test('no light has no colour, and none is divided by', () => {
  expect(chromaticity([0, 0, 0])).toBeUndefined();
  expect(displayRGB([0, 0, 0])).toEqual([0, 0, 0]);
});
