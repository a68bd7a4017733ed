/** Faults do what they say, or the tests that use them prove nothing. */
import { Faults, NO_FAULTS } from '../core/wires/faults';
import { faultyWay } from './faults';

const through = (faults: Partial<Faults>, random?: () => number): number[] => {
  const got: number[] = [];
  const way = faultyWay<null>(
    () => ({ ...NO_FAULTS, ...faults }),
    (packet) => got.push(packet[0] ?? -1),
    random,
  );
  for (let i = 0; i < 6; i++) way(Uint8Array.of(i), null);
  return got;
};

test('without faults everything arrives in its order', () => {
  expect(through({})).toEqual([0, 1, 2, 3, 4, 5]);
});

test('packets come late, are lost, or do not come at all', () => {
  expect(through({ reorder: true })).toEqual([1, 0, 3, 2, 5, 4]);
  let n = 0;
  expect(through({ loss: 0.5 }, () => (n++ % 2 === 0 ? 0.4 : 0.6))).toEqual([1, 3, 5]);
  expect(through({ pulled: true })).toEqual([]);
});

test('what is no fault is refused', () => {
  for (const odd of [{ loss: 2 }, { deadPort: 40_000 }, { rival: { universe: 0 } }])
    expect(Faults.safeParse(odd).success).toBe(false);
});
