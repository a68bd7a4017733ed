import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import type { Transform } from '../fixtures/rows.ts';
import {
  curveAt,
  isPlain,
  sourceAttribute,
  tableOf,
  TABLE_SIZE,
  transformed,
} from './transform.ts';
import { addressOf, switchesFor } from './switches.ts';

const level = evenly(0, 1);
const transform: fc.Arbitrary<Transform> = fc.record(
  {
    invert: fc.boolean(),
    min: level,
    max: level,
    offset: evenly(-1, 1),
    curve: fc.oneof(
      fc.constantFrom('square' as const, 's' as const),
      fc.array(level, { minLength: 2, maxLength: 33 }),
    ),
  },
  { requiredKeys: [] },
);

test('the order is invert, limits, offset, curve', () => {
  expect(transformed({ invert: true, min: 0.2, max: 0.8 }, 0)).toBeCloseTo(0.8);
  expect(transformed({ min: 0.2, max: 0.8, offset: 0.1 }, 0)).toBeCloseTo(0.3);
  expect(transformed({ min: 0.5, curve: 'square' }, 0)).toBeCloseTo(0.25);
  expect(transformed({ offset: 0.7 }, 0.6)).toBe(1);
  expect(transformed(undefined, 0.42)).toBe(0.42);
});

test('nothing leaves 0 to 1, and a plain transform changes nothing', () => {
  fc.assert(
    fc.property(transform, level, (t, x) => transformed(t, x) >= 0 && transformed(t, x) <= 1),
  );
  fc.assert(fc.property(level, (x) => transformed({}, x) === x && isPlain({})));
});

test('preheat holds at zero and the limit at full', () => {
  fc.assert(
    fc.property(level, level, (a, b) => {
      const [min, max] = [Math.min(a, b), Math.max(a, b)];
      expect(transformed({ min, max }, 0)).toBeCloseTo(min);
      expect(transformed({ min, max }, 1)).toBeCloseTo(max);
    }),
  );
});

test('curves start at out, end at full, and never turn back', () => {
  for (const curve of ['square', 's'] as const) {
    expect(curveAt(curve, 0)).toBe(0);
    expect(curveAt(curve, 1)).toBe(1);
    fc.assert(
      fc.property(
        level,
        level,
        (a, b) => curveAt(curve, Math.min(a, b)) <= curveAt(curve, Math.max(a, b)) + 1e-12,
      ),
    );
  }
  expect(curveAt([0, 0.1, 1], 0.25)).toBeCloseTo(0.05);
});

test('the clock’s table says what the transform says', () => {
  fc.assert(
    fc.property(
      transform,
      fc.integer({ min: 0, max: TABLE_SIZE - 1 }),
      (t, i) => Math.abs((tableOf(t)[i] ?? -1) - transformed(t, i / (TABLE_SIZE - 1))) < 1e-6,
    ),
  );
});

test('swapped pan and tilt take each other’s values, nothing else does', () => {
  expect(sourceAttribute({ swapPanTilt: true }, 'Pan')).toBe('Tilt');
  expect(sourceAttribute({ swapPanTilt: true }, 'Zoom')).toBe('Zoom');
  expect(sourceAttribute({}, 'Pan')).toBe('Pan');
});

test('address switches: 264 is 8 and 256; 512 is the tenth; units from zero say one less', () => {
  expect(switchesFor(264).flatMap((on, i) => (on ? [i + 1] : []))).toEqual([4, 9]);
  expect(switchesFor(512).flatMap((on, i) => (on ? [i + 1] : []))).toEqual([10]);
  expect(switchesFor(1, true).some(Boolean)).toBe(false);
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 512 }),
      fc.boolean(),
      (n, zero) => addressOf(switchesFor(n, zero), zero) === n,
    ),
  );
});
