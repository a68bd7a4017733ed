import fc from 'fast-check';
import { evenly } from '../../../core/testing/evenly';
import {
  add,
  around,
  distanceTo,
  isBefore,
  dot,
  meets,
  reachOn,
  surfacesOf,
  unit,
  type Surface,
  type Vec,
} from './surfaces';

const BOUNDS = { left: -8, right: 8, top: 9, bottom: -5 };
const [floor] = surfacesOf([], BOUNDS) as [Surface];

test('straight down from 6 m with 60 degrees lights a circle of 6·tan 30 about its foot', () => {
  const reach = reachOn(floor, [1, 2, 6], [0, 0, -1], 30);
  const r = 6 * Math.tan(Math.PI / 6);
  expect(((reach?.u[0] ?? 0) + (reach?.u[1] ?? 0)) / 2 + BOUNDS.left).toBeCloseTo(1, 6);
  expect(((reach?.v[1] ?? 0) - (reach?.v[0] ?? 0)) / 2).toBeGreaterThan(r * 0.99);
  expect(((reach?.v[1] ?? 0) - (reach?.v[0] ?? 0)) / 2).toBeLessThan(r * 1.15);
});

test('a beam that looks away from a surface never lands on it; one to the horizon goes to its edge', () => {
  expect(reachOn(floor, [0, 0, 6], [0, 0, 1], 10)).toBeUndefined();
  const flat = reachOn(floor, [0, 0, 1], unit([0, 1, -0.05]), 10);
  expect(flat?.v[1]).toBe(floor.height);
});

test('every lit point of a surface lies in the rectangle that is drawn for it', () => {
  const metre = evenly(-6, 6);
  fc.assert(
    fc.property(
      metre,
      metre,
      evenly(2, 8),
      metre,
      metre,
      evenly(2, 35),
      evenly(0, 6.28),
      evenly(0, 0.97),
      (x, y, z, px, py, half, turn, share) => {
        const from: Vec = [x, y, z];
        const along = unit(add([px, py, 0], from, -1));
        const [right, up] = around(along);
        const spread = Math.tan((half * share * Math.PI) / 180);
        const ray = unit(
          add(add(along, right, Math.cos(turn) * spread), up, Math.sin(turn) * spread),
        );
        const hit = meets(floor, from, ray);
        if (!hit || hit[0] < 0 || hit[1] < 0 || hit[0] > floor.width || hit[1] > floor.height)
          return true;
        const reach = reachOn(floor, from, along, half);
        const within = (v: number, [low, high]: [number, number]): boolean =>
          v >= low - 0.02 && v <= high + 0.02;
        return reach !== undefined && within(hit[0], reach.u) && within(hit[1], reach.v);
      },
    ),
  );
});

test('a set piece has walls and a top, a cyc stands upright, a flat line is nothing', () => {
  const box = {
    id: 'b',
    name: '',
    kind: 'set' as const,
    z: 0,
    height: 1,
    points: [
      { x: 0, y: 0 },
      { x: 2, y: 0 },
      { x: 2, y: 1 },
      { x: 0, y: 1 },
    ],
  };
  const surfaces = surfacesOf(
    [
      box,
      {
        ...box,
        id: 'c',
        kind: 'cyc',
        points: [
          { x: -6, y: 8 },
          { x: 6, y: 8 },
        ],
        height: 5,
      },
      { ...box, id: 'd', height: 0 },
    ],
    BOUNDS,
  );
  expect(surfaces.length).toBe(1 + 4 + 1 + 1);
  const top = surfaces.find((s) => s.corner[2] === 1);
  expect([top?.width, top?.height]).toEqual([2, 1]);
  // Every wall looks away from the middle of the piece, the cyc at the audience.
  expect(
    surfaces
      .filter((x) => x.corner[2] === 0 && x.width <= 2)
      .every((x) => !isBefore(x, [1, 0.5, 0.5])),
  ).toBe(true);
  const cyc = surfaces.find((s) => s.width === 12);
  expect(isBefore(cyc as Surface, [0, 2, 3])).toBe(true);
  expect(distanceTo(cyc as Surface, [0, 0, 2], [0, 1, 0])).toBeCloseTo(8, 6);
  expect(
    surfaces.every((s) => Math.abs(dot(s.u, s.v)) < 1e-9 && Math.abs(dot(s.u, s.normal)) < 1e-9),
  ).toBe(true);
});
