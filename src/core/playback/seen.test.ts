/** What is seen on stage where other desks are merged: what leaves, and nothing else than what plays where nobody is. */
import fc from 'fast-check';
import { holds } from '../testing/columns';
import { exampleShow, idOf } from '../testing/example';
import { slotKey } from '../cues/rows';
import { Engine } from './engine';
import { seenLevels } from './seen';
import { compileSlots, slotIndex } from './slots';

const show = exampleShow();
const slots = compileSlots(show);
const index = slotIndex(slots);
const wired = (levels: readonly number[]) => {
  const engine = new Engine(slots);
  levels.forEach((level, slot) => engine.hold('u', holds(slot, { level }), 0));
  engine.tick(0);
  return { out: Float32Array.from(engine.shared.out), dmx: Uint8Array.from(engine.shared.dmx) };
};
const page = (dmx: Uint8Array) => (universe: number) => {
  const from = slots.universes.indexOf(universe) * 512;
  return dmx.slice(from, from + 512);
};
const Levels = fc.array(
  fc.integer({ min: 0, max: 1000 }).map((l) => l / 1000),
  { minLength: slots.keys.length, maxLength: slots.keys.length },
);

test('where nobody sends anything else, what plays is what is seen, colours under a low dimmer as well', () => {
  fc.assert(
    fc.property(Levels, (levels) => {
      const { out, dmx } = wired(levels);
      expect(seenLevels(slots, out, slots.universes, page(dmx))).toEqual(out);
    }),
    { numRuns: 40 },
  );
});

test('what another desk sends instead is what is seen: the same bytes come of it', () => {
  fc.assert(
    fc.property(Levels, Levels, (ours, theirs) => {
      const { dmx } = wired(theirs);
      const seen = seenLevels(slots, wired(ours).out, slots.universes, page(dmx));
      const again = wired([...seen]).dmx;
      // Two steps of eight bits: one of the byte, one of what is taken for the same.
      for (const i of slots.coarse)
        expect([i, Math.abs((again[i] ?? 0) - (dmx[i] ?? 0)) <= 2]).toEqual([i, true]);
    }),
    { numRuns: 40 },
  );
});

test('a universe that nobody merges into is left as it plays', () => {
  const { out } = wired(slots.keys.map(() => 0.5));
  const others = page(new Uint8Array(slots.universes.length * 512));
  expect(seenLevels(slots, out, [], others)).toEqual(out);
  const dark = seenLevels(slots, out, slots.universes, others);
  const dimmer = index.get(slotKey(idOf(show, 1), 'Dimmer')) ?? -1;
  expect([out[dimmer], dark[dimmer]]).toEqual([0.5, 0]);
});
