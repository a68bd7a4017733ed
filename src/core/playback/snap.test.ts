/** What cannot fade is never swept: a wheel is in one slot or in the other, whoever moves it and however. */
import fc from 'fast-check';
import { apply, exampleShow, idOf } from '../testing/example.ts';
import { holds, moves } from '../testing/columns.ts';
import { slotKey } from '../cues/rows.ts';
import type { Channel } from '../types/rows.ts';
import { Engine } from './engine.ts';
import { compileSlots, slotIndex } from './slots.ts';

const FRAME_S = 1 / 44;
function rig(snap: 'start' | 'end') {
  const show = exampleShow();
  apply(show, 'patch-fixtures', {
    typeId: 'generic-spot-cmy',
    mode: 'Basic',
    quantity: 1,
    first: 301,
    universe: 3,
    address: 1,
  });
  const fixture = show.fixtureByNumber(301);
  const type = show.types.get(fixture?.typeId ?? '');
  if (!type) throw new Error('not patched');
  const channels = (of: readonly Channel[]): Channel[] =>
    of.map((c) =>
      c.attribute.startsWith('Gobo1') && c.snap ? { ...c, snap: snap === 'end' ? 'end' : true } : c,
    );
  show.apply([
    {
      table: 'types',
      id: type.id,
      before: type,
      after: { ...type, modes: type.modes.map((m) => ({ ...m, channels: channels(m.channels) })) },
    },
  ]);
  const slots = compileSlots(show);
  const slot = slotIndex(slots).get(slotKey(idOf(show, 301), 'Gobo1')) ?? -1;
  const engine = new Engine(slots);
  engine.tick(0);
  return { engine, slot, rest: slots.defaults[slot] ?? 0 };
}

const seconds = fc.constantFrom(0.5, 2);
const value = fc.constantFrom(0.25, 0.75);
const step = fc.oneof(
  fc.record({
    do: fc.constant('go' as const),
    list: fc.constantFrom('a', 'b'),
    level: value,
    time: seconds,
  }),
  fc.record({
    do: fc.constant('release' as const),
    list: fc.constantFrom('a', 'b'),
    time: seconds,
  }),
  fc.record({ do: fc.constant('set' as const), level: value, time: seconds }),
  fc.record({ do: fc.constant('let-go' as const), time: seconds }),
  fc.record({ do: fc.constant('blind' as const), on: fc.boolean() }),
  fc.record({
    do: fc.constant('master' as const),
    list: fc.constantFrom('a', 'b'),
    level: fc.constantFrom(0, 0.5, 1),
    time: seconds,
  }),
);

test.each(['start', 'end'] as const)(
  'a wheel that goes at the %s is at rest or in a slot that somebody chose, in every frame',
  (snap) => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ step, wait: fc.constantFrom(0, 0.3, 1, 3) }), {
          minLength: 1,
          maxLength: 12,
        }),
        (script) => {
          const { engine, slot, rest } = rig(snap);
          let now = 0;
          for (const { step: s, wait } of script) {
            if (s.do === 'go')
              engine.move(s.list, moves(slot, { level: s.level, up_s: s.time }), now);
            if (s.do === 'release') engine.release(s.list, s.time, now);
            if (s.do === 'set')
              engine.hold('mara', holds(slot, { level: s.level, fade_s: s.time }), now);
            if (s.do === 'let-go') engine.letGo('mara', [slot], s.time, now);
            if (s.do === 'blind') engine.setBlind('mara', s.on);
            if (s.do === 'master') engine.setListMaster(s.list, s.level, s.time, now);
            for (const end = now + wait + FRAME_S; now < end; now += FRAME_S) {
              engine.tick(now);
              const level = engine.shared.out[slot] ?? NaN;
              if (![rest, 0.25, 0.75].some((v) => Math.abs(v - level) < 1e-5))
                throw new Error(`${s.do}: the wheel is at ${level}`);
            }
          }
        },
      ),
      { numRuns: 150 },
    );
  },
);

test.each([
  ['start', 0.1, 0.75],
  ['end', 1.9, 0.25],
  ['end', 2.1, 0.75],
] as const)('set in 2 s, one that goes at the %s is at %d s in its slot', (snap, at, expected) => {
  const { engine, slot } = rig(snap);
  engine.hold('mara', holds(slot, { level: 0.25 }), 0);
  engine.tick(0);
  engine.hold('mara', holds(slot, { level: 0.75, fade_s: 2 }), 0);
  engine.tick(at);
  expect(engine.shared.out[slot]).toBeCloseTo(expected, 5);
});

test.each([
  ['start', 0.1, true],
  ['end', 1.9, false],
  ['end', 2.1, true],
] as const)(
  'let go of in 2 s, by hand or by a list, one that goes at the %s is at %d s gone: %s',
  (snap, at, isGone) => {
    for (const who of ['mara', 'list'] as const) {
      const { engine, slot, rest } = rig(snap);
      if (who === 'mara') engine.hold('mara', holds(slot, { level: 0.75 }), 0);
      else engine.move('a', moves(slot, { level: 0.75 }), 0);
      engine.tick(0);
      engine.tick(3);
      if (who === 'mara') engine.letGo('mara', [slot], 2, 3);
      else engine.release('a', 2, 3);
      engine.tick(3 + at);
      expect(engine.shared.out[slot]).toBeCloseTo(isGone ? rest : 0.75, 5);
    }
  },
);
