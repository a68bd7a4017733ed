/** Where beams land. */
import { FAR_M, Landings } from './lands';
import { surfacesOf, unit, type Vec } from './surfaces';

const BOUNDS = { left: -8, right: 8, top: 9, bottom: -5 };
const DOWN: Vec = [0, 0, -1];

/** The floor alone, or with a wall of four metres across it at y = 2. */
const wall = {
  id: 'wall',
  kind: 'set' as const,
  name: 'Wall',
  z: 0,
  height: 4,
  points: [
    { x: -3, y: 2 },
    { x: 3, y: 2 },
  ],
};

test('straight down it goes to the floor, and lies round its foot', () => {
  const [land, ...more] = new Landings(surfacesOf([], BOUNDS)).of(0, [1, 2, 6], DOWN, 10).lands;
  expect(more).toEqual([]);
  expect(land?.far).toBeCloseTo(6);
  const [x, up, z] = land?.corner ?? [];
  // In three.js upstage is away from the eye: the foot at (1, 2) is at x 1, z -2.
  expect((x ?? 0) + (land?.u[0] ?? 0) / 2).toBeCloseTo(1, 2);
  expect((z ?? 0) + (land?.v[2] ?? 0) / 2).toBeCloseTo(-2, 2);
  expect(up).toBeGreaterThan(0);
  expect(up).toBeLessThan(0.02);
});

test('it ends at what its middle meets first, and lands on what its edge reaches', () => {
  const surfaces = surfacesOf([wall], BOUNDS);
  const from: Vec = [0, -4, 2];
  const across = new Landings(surfaces).of(0, from, [0, 1, 0], 15);
  expect(across.reach).toBeCloseTo(6, 1);
  expect(across.lands.length).toBeGreaterThan(1);
  const past = new Landings(surfaces).of(0, from, unit([0, 0.05, 1]), 5);
  expect(past.reach).toBe(FAR_M);
});

test('what it found is kept until it looks elsewhere or opens; each beam by itself', () => {
  const landings = new Landings(surfacesOf([], BOUNDS));
  const first = landings.of(0, [1, 2, 6], DOWN, 10);
  expect(landings.of(0, [1, 2, 6], [...DOWN], 10)).toBe(first);
  expect(landings.of(1, [3, 2, 6], DOWN, 10)).not.toBe(first);
  expect(landings.of(0, [1, 2, 6], DOWN, 11).half).toBe(11);
  expect(landings.of(0, [1, 2, 6], unit([0, 1, -1]), 11).reach).toBeCloseTo(6 * Math.SQRT2);
});
