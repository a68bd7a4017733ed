/** Parts of the rig that another desk plays, address by address. */
import { apply, exampleShow, idOf } from '../testing/example';
import { AS_ROUTE, worthOnWire } from './worth';

const part = (numbers: readonly number[], priority?: number) => {
  const show = exampleShow();
  apply(show, 'set-part', {
    set: {
      name: 'Front',
      userId: 'rook',
      userName: 'Rook',
      fixtures: numbers.map((n) => idOf(show, n)),
      lists: [],
      ...(priority === undefined ? {} : { priority }),
    },
  });
  return show;
};

test('a part that is given to a person alone changes nothing on the wire', () => {
  expect(worthOnWire(part([1, 2])).size).toBe(0);
});

test('addresses of a part are worth what it says, all others what their route says', () => {
  const show = part([2], 0);
  const [point] = show.fixtures.get(idOf(show, 2))?.patch ?? [];
  if (!point) throw new Error('not patched');
  const worth = worthOnWire(show);
  expect([...worth.keys()]).toEqual([point.universe]);
  const each = [...(worth.get(point.universe) ?? [])];
  expect(each.length).toBe(512);
  expect(each[point.address - 1]).toBe(0);
  const others = each.filter((p) => p !== 0);
  expect(new Set(others)).toEqual(new Set([AS_ROUTE]));
  expect(others.length).toBeGreaterThan(500);
});

test('a priority is 0 to 200', () => {
  expect(() => part([1], 201)).toThrow();
});
