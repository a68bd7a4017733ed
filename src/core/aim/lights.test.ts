/** Who lights a spot: against cones worked out by hand. */
import fc from 'fast-check';
import { apply, exampleShow, idOf } from '../testing/example.ts';
import { lightsOn } from './lights.ts';

/** A show whose units 1 and 2 hang where they are put, straight down unless they lean. Fresnels and profiles are 1000 W or so. */
function hung(places: Record<number, { x: number; y: number; z: number; lean?: number }>) {
  const show = exampleShow();
  apply(show, 'change-fixtures', {
    fixtures: Object.entries(places).map(([n, { lean = 0, ...position }]) => ({
      id: idOf(show, Number(n)),
      set: { position, lean },
    })),
  });
  return show;
}
const full =
  (show: ReturnType<typeof exampleShow>, ...numbers: number[]) =>
  (id: string, attribute: string): number | undefined => {
    if (attribute === 'Dimmer') return Number(numbers.some((n) => idOf(show, n) === id));
    return attribute.startsWith('ColorAdd') ? 1 : 0.5;
  };
const numbersOf = (show: ReturnType<typeof exampleShow>, ids: readonly string[]): number[] =>
  ids.map((id) => show.fixtures.get(id)?.number ?? 0);
const on = (show: ReturnType<typeof exampleShow>, x: number, y: number, ...lit: number[]) =>
  lightsOn(show, [{ x, y, z: 0 }], full(show, ...lit));

const shapeOf = (show: ReturnType<typeof exampleShow>, n: number) =>
  show.types.get(show.fixtureByNumber(n)?.typeId ?? '')?.shape;

test('a beam straight down lights a disc as wide as its cone, and nothing outside of it', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 20, max: 120 }).map((dm) => dm / 10),
      fc.integer({ min: 0, max: 359 }).map((deg) => (deg * Math.PI) / 180),
      fc.integer({ min: 0, max: 300 }).map((hundredths) => hundredths / 100),
      (z, way, out) => {
        const show = hung({ 1: { x: 0, y: 0, z } });
        // What kind it is says how wide it is without a zoom.
        const half_deg = { profile: 13, wash: 23, head: 10, strip: 30, house: 45, hazer: 10 }[
          shapeOf(show, 1) ?? 'profile'
        ];
        const radius = Math.tan((half_deg * Math.PI) / 180) * z;
        const r = radius * out;
        fc.pre(Math.abs(out - 1) > 0.15);
        const { gives } = on(show, Math.cos(way) * r, Math.sin(way) * r, 1);
        expect(gives.some((g) => g.fixtureId === idOf(show, 1))).toBe(out < 1);
      },
    ),
    { numRuns: 60 },
  ));

test('at twice the distance a unit gives a quarter, and shares are of all that falls there', () => {
  const show = hung({ 1: { x: 0, y: 0, z: 4 }, 2: { x: 0, y: 0, z: 8 } });
  const { gives } = on(show, 0, 0, 1, 2);
  expect(
    numbersOf(
      show,
      gives.map((g) => g.fixtureId),
    ),
  ).toEqual([1, 2]);
  expect(gives.map((g) => g.share)).toEqual([expect.closeTo(0.8, 5), expect.closeTo(0.2, 5)]);
  expect(gives.reduce((sum, g) => sum + g.share, 0)).toBeCloseTo(1, 9);
});

test('a leaning unit lights where its lean points: as far away as it hangs high at 45°', () => {
  const show = hung({ 1: { x: 0, y: 0, z: 5, lean: 45 } });
  apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: { rotation: 0 } }] });
  expect(on(show, 0, 5, 1).gives).toHaveLength(1);
  expect(on(show, 0, -5, 1).gives).toHaveLength(0);
  // Turned round it looks the other way.
  apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: { rotation: 180 } }] });
  expect(on(show, 0, -5, 1).gives).toHaveLength(1);
  expect(on(show, 0, 5, 1).gives).toHaveLength(0);
});

test('dark units that look there could, the nearest first; then heads that can be turned there', () => {
  const show = hung({ 1: { x: 0, y: 0, z: 4 }, 2: { x: 0, y: 0, z: 8 } });
  const { gives, could } = on(show, 0, 0);
  expect(gives).toEqual([]);
  const numbers = numbersOf(show, could);
  expect(numbers.slice(0, 2)).toEqual([1, 2]);
  expect(numbers).toEqual(expect.arrayContaining([101, 102]));
  // A unit that does not move and looks elsewhere never could.
  expect(numbersOf(show, on(show, 30, 30).could)).not.toContain(1);
});

test('half the level is half the light; a unit off the rig gives none', () => {
  const show = hung({ 1: { x: 0, y: 0, z: 4 } });
  const lux = (level: number): number | undefined =>
    lightsOn(show, [{ x: 0, y: 0, z: 0 }], (id, a) =>
      a === 'Dimmer' && id === idOf(show, 1) ? level : undefined,
    ).gives[0]?.lux;
  expect(lux(0.5)).toBeCloseTo((lux(1) ?? 0) / 2, 5);
  apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: { patch: [] } }] });
  expect(lux(1)).toBeUndefined();
});

test('over an area the mean counts: who lights a corner of it gives less than who lights it all', () => {
  const show = hung({ 1: { x: 0, y: 0, z: 6 }, 2: { x: 3, y: 0, z: 6 } });
  const places = [-1, 0, 1].map((x) => ({ x, y: 0, z: 0 }));
  const { gives } = lightsOn(show, places, full(show, 1, 2));
  expect(gives[0]?.fixtureId).toBe(idOf(show, 1));
  expect(gives[0]?.share ?? 0).toBeGreaterThan(0.5);
  expect(lightsOn(show, [], full(show, 1))).toEqual({ gives: [], could: [] });
});
