/** Bytes back to levels: what is on the wire is what would put it there again. */
import fc from 'fast-check';
import { holds } from '../testing/columns';
import { apply, exampleShow, idOf } from '../testing/example';
import { slotKey } from '../cues/rows';
import { Engine } from './engine';
import { compileSlots, slotIndex } from './slots';
import { readWire } from './unwire';

test('whatever units are at, their bytes read back are levels that give the same bytes', () => {
  const show = exampleShow();
  apply(show, 'change-fixtures', {
    fixtures: [{ id: idOf(show, 1), set: { transforms: { Dimmer: { min: 0.1, max: 0.8 } } } }],
  });
  const slots = compileSlots(show);
  const bytesOf = (levels: ReadonlyMap<number, number>): Uint8Array => {
    const engine = new Engine(slots);
    for (const [slot, level] of levels) engine.hold('u', holds(slot, { level }), 0);
    engine.tick(0);
    return Uint8Array.from(engine.shared.dmx);
  };
  const pageOf = (dmx: Uint8Array, universe: number): Uint8Array => {
    const from = slots.universes.indexOf(universe) * 512;
    return dmx.slice(from, from + 512);
  };
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 1000 }), {
        minLength: slots.keys.length,
        maxLength: slots.keys.length,
      }),
      (levels) => {
        const dmx = bytesOf(new Map(levels.map((l, i) => [i, l / 1000])));
        const read = new Map(
          slots.universes.flatMap((u) => [...readWire(slots, u, pageOf(dmx, u))]),
        );
        const again = bytesOf(read);
        // One step of eight bits where a virtual dimmer and its colour share a byte.
        for (let i = 0; i < dmx.length; i++)
          expect([i, Math.abs((again[i] ?? 0) - (dmx[i] ?? 0)) <= 1]).toEqual([i, true]);
      },
    ),
    { numRuns: 60 },
  );
});

test('a virtual dimmer is as bright as the brightest of what it scales; dark it has no colour', () => {
  const show = exampleShow();
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const fixture = show.fixtures.get(idOf(show, 11));
  const [point] = fixture?.patch ?? [];
  if (!point) throw new Error('not patched');
  const bytes = new Uint8Array(512);
  bytes.set([128, 64, 0], point.address - 1);
  const read = readWire(slots, point.universe, bytes);
  const level = (attribute: string): number | undefined =>
    read.get(index.get(slotKey(idOf(show, 11), attribute)) ?? -1);
  expect(level('Dimmer')).toBeCloseTo(128 / 255);
  expect([level('ColorAdd_R'), level('ColorAdd_G'), level('ColorAdd_B')]).toEqual([
    1,
    expect.closeTo(0.5),
    0,
  ]);
  const dark = readWire(slots, point.universe, new Uint8Array(512));
  expect(dark.get(index.get(slotKey(idOf(show, 11), 'Dimmer')) ?? -1)).toBe(0);
  expect(dark.has(index.get(slotKey(idOf(show, 11), 'ColorAdd_R')) ?? -1)).toBe(false);
});

test('a universe that has no bytes of ours gives nothing', () => {
  expect(readWire(compileSlots(exampleShow()), 99, new Uint8Array(512)).size).toBe(0);
});
