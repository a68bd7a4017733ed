import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { aimAt, aimWays, direction, landing, partAxes } from './aim.ts';
import { headOf } from './unit.ts';

const PAN = [-270, 270] as const;
const TILT = [-135, 135] as const;

test('worked by hand: 6 m up, 6 m upstage is tilt 45 degrees at pan 0', () => {
  const head = { x: 0, y: 0, z: 6, rotation_deg: 0 };
  expect(aimAt(head, { x: 0, y: 6, z: 0 }, PAN, TILT)).toEqual({
    pan_deg: expect.closeTo(0, 6),
    tilt_deg: expect.closeTo(45, 6),
  });
  expect(aimAt(head, { x: 6, y: 0, z: 0 }, PAN, TILT)).toEqual({
    pan_deg: expect.closeTo(90, 6),
    tilt_deg: expect.closeTo(45, 6),
  });
  expect(landing(head, 90, 45)).toEqual({ x: expect.closeTo(6, 6), y: expect.closeTo(0, 6) });
});

test.each([
  // Standing on the floor it looks up; leaned out from a boom it looks along its rotation; a boom's tilt is sideways.
  ['hanging', { rotation_deg: 0, lean_deg: 0 }, 0, 0, [0, 0, -1]],
  ['standing', { rotation_deg: 0, lean_deg: 180 }, 0, 0, [0, 0, 1]],
  [
    'standing, tilt 90 at pan 0: what leaned upstage hanging leans downstage',
    { rotation_deg: 0, lean_deg: 180 },
    0,
    90,
    [0, -1, 0],
  ],
  ['a boom stage right, looking across', { rotation_deg: 90, lean_deg: 90 }, 0, 0, [1, 0, 0]],
  ['the same, tilted up', { rotation_deg: 90, lean_deg: 90 }, 0, 90, [0, 0, 1]],
  [
    'turned a quarter, tilted 30',
    { rotation_deg: 90, lean_deg: 0 },
    0,
    30,
    [0.5, 0, -Math.sqrt(3) / 2],
  ],
] as const)('%s', (_, mounted, pan, tilt, expected) => {
  direction(mounted, pan, tilt).forEach((v, i) => expect(v).toBeCloseTo(expected[i] ?? NaN, 9));
});

const metre = evenly(-6, 6);
const angle = evenly(-180, 180);

test('aiming, then looking where it lands, gives the point back, however the head is mounted', () => {
  fc.assert(
    fc.property(
      metre,
      metre,
      evenly(3, 9),
      metre,
      metre,
      angle,
      fc.constantFrom(0, 20, 90, 180),
      (x, y, z, px, py, rotation_deg, lean_deg) => {
        const head = { x, y, z, rotation_deg, lean_deg };
        // A full range, so that standing heads reach the floor as well.
        const aim = aimAt(head, { x: px, y: py, z: 0 }, PAN, [-180, 180]);
        const at = aim && landing(head, aim.pan_deg, aim.tilt_deg);
        // Flatter than the horizon of the plan: no landing is drawn.
        if (!at) return Math.hypot(px - x, py - y) / z > Math.tan((80 * Math.PI) / 180);
        return Math.hypot(at.x - px, at.y - py) < 1e-5;
      },
    ),
  );
});

test('every way leads to the same point, and the nearest is first', () => {
  fc.assert(
    fc.property(
      metre,
      metre,
      evenly(2, 9),
      evenly(-270, 270),
      angle,
      (px, py, z, pan_deg, rotation_deg) => {
        const head = { x: 0.3, y: -0.2, z, rotation_deg };
        const near = { pan_deg, tilt_deg: 20 };
        const ways = aimWays(head, { x: px, y: py, z: 0 }, PAN, TILT, near);
        const travel = ways.map((w) =>
          Math.max(Math.abs(w.pan_deg - near.pan_deg), Math.abs(w.tilt_deg - near.tilt_deg)),
        );
        const [first] = ways.map((w) => direction(head, w.pan_deg, w.tilt_deg));
        return (
          ways.every((w) =>
            direction(head, w.pan_deg, w.tilt_deg).every(
              (v, i) => Math.abs(v - (first?.[i] ?? NaN)) < 1e-9,
            ),
          ) && travel.every((t, i) => i === 0 || t >= (travel[i - 1] ?? 0))
        );
      },
    ),
  );
});

test('the way with the least travel is taken; a flip only where it is shorter', () => {
  const head = { x: 0, y: 0, z: 5, rotation_deg: 0 };
  expect(
    aimAt(head, { x: 0, y: -5, z: 0 }, PAN, TILT, { pan_deg: 170, tilt_deg: 40 })?.pan_deg,
  ).toBeCloseTo(180, 6);
  expect(aimAt(head, { x: 0, y: -5, z: 0 }, PAN, TILT, { pan_deg: 10, tilt_deg: -30 })).toEqual({
    pan_deg: expect.closeTo(0, 6),
    tilt_deg: expect.closeTo(-45, 6),
  });
});

test('straight below it any pan will do: the head does not turn', () => {
  expect(
    aimAt({ x: 1, y: 2, z: 5, rotation_deg: 30 }, { x: 1, y: 2, z: 0 }, PAN, TILT, {
      pan_deg: 77,
      tilt_deg: 10,
    }),
  ).toEqual({ pan_deg: 77, tilt_deg: expect.closeTo(0, 9) });
});

test('a point that no way reaches is not answered with a wrong angle', () => {
  expect(
    aimAt({ x: 0, y: 0, z: 5, rotation_deg: 0 }, { x: 0, y: 50, z: 0 }, [-10, 10], [-30, 30]),
  ).toBeUndefined();
  expect(
    aimAt({ x: 0, y: 0, z: 5, rotation_deg: 0 }, { x: 0, y: 0, z: 5 }, PAN, TILT),
  ).toBeUndefined();
});

test('a head at the height of the floor or below it lands nowhere, however it is mounted', () => {
  // Standing in the pit and leaned downwards its line meets the floor only behind its back.
  for (const z of [0, -1, -2.5]) {
    for (const [lean_deg, tilt] of [
      [0, 0],
      [0, 45],
      [180, 0],
      [180, 45],
      [90, 30],
    ] as const)
      expect(landing({ x: 1, y: 2, z, rotation_deg: 0, lean_deg }, 0, tilt)).toBeUndefined();
  }
  expect(landing({ x: 1, y: 2, z: 3, rotation_deg: 0 }, 0, 0, 3)).toBeUndefined();
  expect(landing({ x: 1, y: 2, z: 3, rotation_deg: 0 }, 0, 0, 2)).toEqual({ x: 1, y: 2 });
});

describe('where the axes of a unit meet', () => {
  const at = { position: { x: 1, y: 2, z: 6 }, rotation: 90 };
  const pivot = (lean: number): number[] => {
    const { x, y, z } = headOf({ ...at, lean }, { reach_m: 0.5 });
    return [x, y, z].map((v) => Math.round(v * 1e6) / 1e6);
  };

  test('hanging it is below, standing above, on a boom in front of where it is fixed', () => {
    expect(pivot(0)).toEqual([1, 2, 5.5]);
    expect(pivot(180)).toEqual([1, 2, 6.5]);
    expect(pivot(90)).toEqual([1.5, 2, 6]);
    expect(headOf({ ...at, lean: 0 }, {})).toMatchObject(at.position);
  });

  test('aimed from there it looks at the point exactly: 6 m up with half a metre of reach, 5.5 m away is 45°', () => {
    const head = headOf({ position: { x: 0, y: 0, z: 6 }, rotation: 0 }, { reach_m: 0.5 });
    expect(aimAt(head, { x: 0, y: 5.5, z: 0 }, PAN, TILT)?.tilt_deg).toBeCloseTo(45, 6);
  });
});

test('parts of a head turn as its light does: against their z, with x and y at right angles', () => {
  fc.assert(
    fc.property(
      angle,
      angle,
      angle,
      fc.constantFrom(0, 35, 90, 180),
      (pan, tilt, rotation_deg, lean_deg) => {
        const mounted = { rotation_deg, lean_deg };
        const [x, y, z] = partAxes(mounted, pan, tilt);
        const way = direction(mounted, pan, tilt);
        z.forEach((v, i) => expect(-v).toBeCloseTo(way[i] ?? NaN, 9));
        const dot = (a: readonly number[], b: readonly number[]): number =>
          a.reduce((sum, v, i) => sum + v * (b[i] ?? 0), 0);
        for (const [a, b] of [
          [x, y],
          [y, z],
          [z, x],
        ] as const)
          expect(dot(a, b)).toBeCloseTo(0, 9);
        // Right-handed: x across y is z.
        const cross = [
          x[1] * y[2] - x[2] * y[1],
          x[2] * y[0] - x[0] * y[2],
          x[0] * y[1] - x[1] * y[0],
        ];
        cross.forEach((v, i) => expect(v).toBeCloseTo(z[i] ?? NaN, 9));
      },
    ),
  );
});
