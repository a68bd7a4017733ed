import fc from 'fast-check';
import { aimAt, landing } from './aim.ts';

const PAN = [-270, 270] as const;
const TILT = [-135, 135] as const;

test('worked by hand: 6 m up, 6 m upstage is tilt 45 degrees at pan 0', () => {
  const head = { x: 0, y: 0, z: 6, rotation_deg: 0 };
  expect(aimAt(head, { x: 0, y: 6, z: 0 }, PAN, TILT)).toEqual({ pan_deg: expect.closeTo(0, 6), tilt_deg: expect.closeTo(45, 6) });
  expect(aimAt(head, { x: 6, y: 0, z: 0 }, PAN, TILT)).toEqual({ pan_deg: expect.closeTo(90, 6), tilt_deg: expect.closeTo(45, 6) });
  expect(landing(head, 90, 45)).toEqual({ x: expect.closeTo(6, 6), y: expect.closeTo(0, 6) });
});

test('aiming, then looking where it lands, gives the point back', () => {
  const metre = fc.double({ min: -6, max: 6, noNaN: true });
  fc.assert(
    fc.property(metre, metre, fc.double({ min: 3, max: 9, noNaN: true }), metre, metre, fc.double({ min: -180, max: 180, noNaN: true }), (x, y, z, px, py, rotation_deg) => {
      const head = { x, y, z, rotation_deg };
      const aim = aimAt(head, { x: px, y: py, z: 0 }, PAN, TILT);
      const at = aim && landing(head, aim.pan_deg, aim.tilt_deg);
      // Steeper than the horizon of the plan: no landing is drawn.
      if (!at) return Math.hypot(px - x, py - y) / z > Math.tan((80 * Math.PI) / 180);
      return Math.hypot(at.x - px, at.y - py) < 1e-6;
    }),
  );
});

test('the way with the least travel is taken', () => {
  const head = { x: 0, y: 0, z: 5, rotation_deg: 0 };
  expect(aimAt(head, { x: 0, y: -5, z: 0 }, PAN, TILT, 170)?.pan_deg).toBeCloseTo(180, 6);
  expect(aimAt(head, { x: 0, y: -5, z: 0 }, PAN, TILT, 10)?.pan_deg).toBeCloseTo(0, 6);
});

test('a point that no way reaches is not answered with a wrong angle', () => {
  expect(aimAt({ x: 0, y: 0, z: 5, rotation_deg: 0 }, { x: 0, y: 50, z: 0 }, [-10, 10], [-30, 30])).toBeUndefined();
});
