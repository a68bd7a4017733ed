import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { hueSaturation, kelvin } from './mix.ts';
import { correlatedKelvin } from './white.ts';

test('a black body’s own temperature comes back within one in a hundred', () => {
  fc.assert(
    fc.property(
      evenly(1800, 20_000),
      (k) => Math.abs((correlatedKelvin(kelvin(k)) ?? 0) / k - 1) < 0.01,
    ),
  );
});

test('published illuminants (CIE 15): A is 2856 K, D65 about 6504 K', () => {
  expect(correlatedKelvin({ x: 0.44757, y: 0.40745 })).toBeCloseTo(2856, -2);
  expect(Math.abs((correlatedKelvin({ x: 0.31272, y: 0.32903 }) ?? 0) - 6504)).toBeLessThan(80);
});

test('a colour has no temperature', () =>
  expect(correlatedKelvin(hueSaturation(220, 0.8))).toBeUndefined());
