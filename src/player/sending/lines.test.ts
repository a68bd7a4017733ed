/** What is meant for lights and reaches none. */
import { nowhereOf, type Line } from './lines.ts';

const line = (universe: number, leaves: boolean, isForLights = true): Line => ({
  protocol: 'sacn',
  page: 0,
  name: '',
  wire: universe,
  universe,
  isForLights,
  packet: new Uint8Array(0),
  each: null,
  eachSent_ms: 0,
  targets: leaves ? [0] : [],
  count: {
    routeId: 'r',
    packets: 0,
    errors: 0,
    problem: leaves ? null : `No way for ${universe}.`,
  },
  fade: null,
});

test('a universe that leaves by one of its lines leaves; the simulated node is no light', () => {
  expect(nowhereOf([])).toBeNull();
  expect(nowhereOf([line(1, true, false)])).toBeNull();
  expect(nowhereOf([line(1, false), line(1, true)])).toBeNull();
  expect(nowhereOf([line(3, false), line(1, true), line(2, false), line(2, true, false)])).toEqual({
    universes: [2, 3],
    of: 3,
    why: 'No way for 3.',
  });
});
