import { differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { chromaticityDeltaE, deltaE2000, toLab, type Lab } from './delta-e.ts';
import { hueSaturation, kelvin } from './mix.ts';

/* Pairs published with the formula's implementation notes (Sharma, Wu, Dalal 2005): they reach every branch of it. */
const PUBLISHED: [Lab, Lab, number][] = [
  [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
  [[50, 3.1571, -77.2803], [50, 0, -82.7485], 2.8615],
  [[50, 2.8361, -74.02], [50, 0, -82.7485], 3.4412],
  [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1.0],
  [[50, 0, 0], [50, -1, 2], 2.3669],
  [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
  [[50, 2.49, -0.001], [50, -2.49, 0.0011], 7.2195],
  [[50, -0.001, 2.49], [50, 0.0009, -2.49], 4.8045],
  [[50, 2.5, 0], [50, 0, -2.5], 4.3065],
  [[50, 2.5, 0], [73, 25, -18], 27.1492],
  [[50, 2.5, 0], [61, -5, 29], 22.8977],
  [[50, 2.5, 0], [56, -27, -3], 31.903],
  [[50, 2.5, 0], [58, 24, 15], 19.4535],
  [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
  [[63.0109, -31.0961, -5.8663], [62.8187, -29.7946, -4.0864], 1.263],
  [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
  [[90.8027, -2.0831, 1.441], [91.1528, -1.6435, 0.0447], 1.4441],
  [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
];

test.each(PUBLISHED)('%j and %j differ by %d', (a, b, expected) => {
  expect(deltaE2000(a, b)).toBeCloseTo(expected, 4);
  expect(deltaE2000(b, a)).toBeCloseTo(expected, 4);
});

test('agrees with an independent library everywhere', () => {
  const other = differenceCiede2000();
  const component = evenly(-90, 90);
  fc.assert(
    fc.property(
      fc.tuple(evenly(0, 100), component, component),
      fc.tuple(evenly(0, 100), component, component),
      (a, b) => {
        const wanted = other(
          { mode: 'lab65', l: a[0], a: a[1], b: a[2] },
          { mode: 'lab65', l: b[0], a: b[1], b: b[2] },
        );
        return Math.abs(deltaE2000(a, b) - wanted) < 1e-6;
      },
    ),
  );
});

test('white is L* 100, and grey has no colour', () => {
  toLab([0.95047, 1, 1.08883]).forEach((v, i) => expect(v).toBeCloseTo([100, 0, 0][i] ?? NaN, 4));
  expect(toLab([0.95047 * 0.18418651851, 0.18418651851, 1.08883 * 0.18418651851])[0]).toBeCloseTo(
    50,
    3,
  );
});

test('the same chromaticity does not differ; warm and cool white do, at a glance', () => {
  expect(chromaticityDeltaE(kelvin(3200), kelvin(3200))).toBe(0);
  expect(chromaticityDeltaE(kelvin(3200), kelvin(3250))).toBeLessThan(1);
  expect(chromaticityDeltaE(kelvin(2700), kelvin(6500))).toBeGreaterThan(20);
  expect(chromaticityDeltaE(hueSaturation(0, 0.9), hueSaturation(240, 0.9))).toBeGreaterThan(40);
});
