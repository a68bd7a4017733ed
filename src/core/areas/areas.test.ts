/** Areas: what lies in one, and drawing them. */
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { apply, exampleShow, refused } from '../testing/example.ts';
import { isWithin, placesIn } from './within.ts';

const SQUARE = [
  { x: -2, y: 1 },
  { x: 2, y: 1 },
  { x: 2, y: 5 },
  { x: -2, y: 5 },
];
/** An L: the square without its upper right quarter. */
const BENT = [
  { x: 0, y: 0 },
  { x: 4, y: 0 },
  { x: 4, y: 2 },
  { x: 2, y: 2 },
  { x: 2, y: 4 },
  { x: 0, y: 4 },
];

test('a place is in a square where both of its coordinates are', () =>
  fc.assert(
    fc.property(evenly(-4, 4), evenly(-1, 7), (x, y) => {
      fc.pre(Math.abs(Math.abs(x) - 2) > 1e-6 && Math.abs(y - 1) > 1e-6 && Math.abs(y - 5) > 1e-6);
      expect(isWithin(SQUARE, { x, y })).toBe(Math.abs(x) < 2 && y > 1 && y < 5);
    }),
  ));

test('places of a bent area are all in it, and none in the corner that it leaves out', () => {
  const places = placesIn(BENT);
  expect(places.length).toBeGreaterThan(10);
  expect(places.every((p) => isWithin(BENT, p))).toBe(true);
  expect(places.some((p) => p.x > 2 && p.y > 2)).toBe(false);
  // Three corners in a line have a middle all the same.
  expect(
    placesIn([
      { x: 0, y: 0 },
      { x: 2, y: 0 },
      { x: 4, y: 0 },
    ]),
  ).toEqual([{ x: 2, y: 0, z: 0 }]);
});

test('an area is drawn, drawn anew, named once, and deleted', () => {
  const show = exampleShow();
  const set = { name: 'Deck', corners: SQUARE };
  expect(apply(show, 'set-area', { set }).summary).toBe('Drew area “Deck”');
  const id = [...show.areas.keys()][0] ?? '';
  expect(refused(show, 'set-area', { set: { ...set, name: 'deck' } })).toMatchObject({
    code: 'clash',
    fields: { name: 'This name is taken.' },
  });
  expect(
    refused(show, 'set-area', { set: { name: 'Line', corners: SQUARE.slice(0, 2) } }).code,
  ).toBe('invalid');
  apply(show, 'set-area', { id, set: { name: 'Deck, centre', corners: BENT } });
  expect([...show.areas.values()]).toEqual([
    { id, number: 1, name: 'Deck, centre', corners: BENT },
  ]);
  apply(show, 'delete-area', { id });
  expect(show.areas.size).toBe(0);
  expect(refused(show, 'set-area', { id, set }).code).toBe('not-found');
});
