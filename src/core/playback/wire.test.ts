/** From levels to bytes: transforms, ranges, cells, breaks, multi-patch, and what lies over it all. */
import { holds } from '../testing/columns.ts';
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { rawOf } from '../rig/channel.ts';
import { transformed } from '../rig/transform.ts';
import { slotKey } from '../cues/rows.ts';
import type { Transform } from '../fixtures/rows.ts';
import type { MutableShow } from '../show/show.ts';
import { apply, exampleShow, idOf } from '../testing/example.ts';
import { Engine } from './engine.ts';
import { COMMANDED, PARKED } from './winner.ts';
import { compileSlots, slotIndex, universesOf } from './slots.ts';

const NOTHING = {
  slots: new Uint32Array(0),
  levels: new Float32Array(0),
  kinds: new Int16Array(0),
  raw: new Uint32Array(0),
  bytes: new Uint8Array(0),
};

function wire(show: MutableShow) {
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const engine = new Engine(slots);
  const slot = (fixture: number, attribute = 'Dimmer'): number =>
    index.get(slotKey(idOf(show, fixture), attribute)) ?? -1;
  const dmx = (universe: number, address: number): number =>
    engine.shared.dmx[slots.universes.indexOf(universe) * 512 + address - 1] ?? -1;
  const hold = (fixture: number, attribute: string, level: number): void => {
    engine.hold('u', holds(slot(fixture, attribute), { level }), 0);
    engine.tick(0);
  };
  engine.tick(0);
  return { slots, engine, slot, dmx, hold };
}
const set = (show: MutableShow, number: number, fields: Record<string, unknown>): void =>
  void apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, number), set: fields }] });

describe('transforms', () => {
  test('preheat stays on the wire at zero and in a blackout; the limit is the most there is', () => {
    const show = exampleShow();
    set(show, 1, { transforms: { Dimmer: { min: 0.1, max: 0.6 } } });
    const { engine, dmx, hold } = wire(show);
    expect(dmx(1, 1)).toBe(Math.round(0.1 * 255));
    hold(1, 'Dimmer', 1);
    expect(dmx(1, 1)).toBe(Math.round(0.6 * 255));
    engine.setMaster(1, true);
    engine.tick(1);
    expect(dmx(1, 1)).toBe(Math.round(0.1 * 255));
  });

  test('inverted 16 bit pan, and pan and tilt that take each other’s values', () => {
    const show = exampleShow();
    set(show, 101, { transforms: { Pan: { invert: true } } });
    const a = wire(show);
    a.hold(101, 'Pan', 0);
    expect([a.dmx(2, 1), a.dmx(2, 2)]).toEqual([255, 255]);
    set(show, 101, { transforms: {}, swapPanTilt: true });
    const b = wire(show);
    b.hold(101, 'Pan', 1);
    b.hold(101, 'Tilt', 0);
    expect([b.dmx(2, 1), b.dmx(2, 3)]).toEqual([0, 255]);
  });

  test('a limit on a virtual intensity bends the intensity, not the colour', () => {
    const show = exampleShow();
    set(show, 11, { transforms: { Dimmer: { max: 0.5 } } });
    const { dmx, hold } = wire(show);
    hold(11, 'ColorAdd_G', 0.4);
    hold(11, 'Dimmer', 1);
    expect([dmx(1, 101), dmx(1, 102)]).toEqual([Math.round(0.5 * 255), Math.round(0.2 * 255)]);
  });

  test('every transform comes out of the clock as the plan shows it, to half a step of 8 bit', () => {
    const level = evenly(0, 1);
    const shape: fc.Arbitrary<Transform> = fc.record(
      {
        invert: fc.boolean(),
        min: level,
        max: level,
        offset: evenly(-1, 1),
        curve: fc.oneof(
          fc.constantFrom('square' as const, 's' as const),
          fc.array(level, { minLength: 2, maxLength: 9 }),
        ),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(shape, level, (t, l) => {
        const show = exampleShow();
        set(show, 1, { transforms: { Dimmer: t } });
        const { dmx, hold } = wire(show);
        hold(1, 'Dimmer', l);
        return Math.abs(dmx(1, 1) - transformed(t, Math.fround(l)) * 255) <= 0.75;
      }),
      { numRuns: 60 },
    );
  });
});

describe('channels', () => {
  test('a level goes into the range of the functions', () => {
    const show = exampleShow();
    apply(show, 'swap-type', {
      ids: [idOf(show, 1)],
      typeId: 'generic-relay-switch',
      mode: '1 channel',
      address: 'keep',
    });
    const type = show.types.get('generic-relay-switch');
    const channel = type?.modes[0]?.channels[0];
    const { dmx, hold } = wire(show);
    hold(1, 'Dimmer', 0.6);
    expect(dmx(1, 1)).toBe(channel && rawOf(channel, 0.6));
  });

  test('24 bit goes out coarse, fine, ultra fine', () => {
    const show = exampleShow();
    const mode = {
      name: 'A',
      footprint: 3,
      channels: [
        { attribute: 'Dimmer', offset: [1, 2, 3], default: 0, physicalFrom: 0, physicalTo: 1 },
      ],
    };
    apply(show, 'set-type', {
      type: {
        maker: 'Quillon',
        name: 'Fine',
        shape: 'wash',
        watts: 1,
        emitters: {},
        modes: [mode],
      },
    });
    const type = [...show.types.values()].find((t) => t.name === 'Fine');
    apply(show, 'patch-fixtures', {
      typeId: type?.id,
      mode: 'A',
      quantity: 1,
      first: 60,
      universe: 9,
      address: 1,
    });
    const { dmx, hold } = wire(show);
    hold(60, 'Dimmer', 0.5);
    expect((dmx(9, 1) << 16) | (dmx(9, 2) << 8) | dmx(9, 3)).toBe(Math.round(0.5 * 16_777_215));
  });

  test('every cell of a strip follows the intensity of the whole, each with its own colour', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-strip',
      mode: '4 cells RGB',
      quantity: 1,
      first: 60,
      universe: 9,
      address: 1,
    });
    const { dmx, hold } = wire(show);
    hold(60, 'ColorAdd_R@2', 0.5);
    expect(dmx(9, 4)).toBe(0);
    hold(60, 'Dimmer', 0.5);
    expect([dmx(9, 1), dmx(9, 4), dmx(9, 7)]).toEqual([128, 64, 128]);
  });

  test('a unit with two addresses and one with multi-patch write where they are', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-scroller',
      mode: 'Dimmer and scroller',
      quantity: 1,
      first: 60,
      universe: 9,
      address: 1,
    });
    set(show, 60, {
      patch: [
        { universe: 9, address: 1 },
        { universe: 9, address: 100, break: 2 },
      ],
    });
    set(show, 2, {
      patch: [
        { universe: 1, address: 2 },
        { universe: 2, address: 400 },
      ],
    });
    const { dmx, hold } = wire(show);
    hold(60, 'Color1', 1);
    hold(60, 'Dimmer', 1);
    hold(2, 'Dimmer', 1);
    expect([dmx(9, 1), dmx(9, 2), dmx(9, 100)]).toEqual([255, 0, 255]);
    expect([dmx(1, 2), dmx(2, 400)]).toEqual([255, 255]);
  });
});

describe('what lies over it all', () => {
  test('a parked slot stays, whatever is played, mastered or blacked out, and says so', () => {
    const { engine, slot, dmx, hold } = wire(exampleShow());
    engine.override({
      ...NOTHING,
      slots: Uint32Array.of(slot(1)),
      levels: Float32Array.of(0.5),
      kinds: Int16Array.of(PARKED),
    });
    hold(1, 'Dimmer', 1);
    engine.setMaster(0, true);
    engine.tick(1);
    expect(dmx(1, 1)).toBe(128);
    expect(engine.shared.winner[slot(1)]).toBe(PARKED);
    engine.setMaster(1, false);
    engine.override(NOTHING);
    engine.tick(2);
    expect(dmx(1, 1)).toBe(255);
  });

  test('a forced byte is last of all; let off, the channel gets its own value back, an empty address nothing', () => {
    const { engine, dmx, hold } = wire(exampleShow());
    hold(1, 'Dimmer', 1);
    engine.override({ ...NOTHING, raw: Uint32Array.of(0, 300), bytes: Uint8Array.of(7, 99) });
    hold(2, 'Dimmer', 1);
    hold(1, 'Dimmer', 0.5);
    expect([dmx(1, 1), dmx(1, 301), dmx(1, 2)]).toEqual([7, 99, 255]);
    engine.override(NOTHING);
    engine.tick(3);
    expect([dmx(1, 1), dmx(1, 301)]).toEqual([128, 0]);
  });

  test('a control macro holds its channel over a programmer', () => {
    const { engine, slot, dmx, hold } = wire(exampleShow());
    hold(1, 'Dimmer', 0.2);
    engine.override({
      ...NOTHING,
      slots: Uint32Array.of(slot(1)),
      levels: Float32Array.of(1),
      kinds: Int16Array.of(COMMANDED),
    });
    engine.tick(1);
    expect(dmx(1, 1)).toBe(255);
  });
});

test('a universe that is only sent has bytes too', () => {
  const show = exampleShow();
  apply(show, 'set-route', {
    set: {
      universe: 40,
      protocol: 'sacn',
      destination: 'multicast',
      wire: 40,
      priority: 100,
      on: true,
    },
  });
  expect(universesOf(show)).toEqual([1, 2, 40]);
  apply(show, 'set-route', {
    id: [...show.routes.values()].find((r) => r.universe === 40)?.id,
    set: {
      universe: 40,
      protocol: 'sacn',
      destination: 'multicast',
      wire: 40,
      priority: 100,
      on: false,
    },
  });
  expect(universesOf(show)).toEqual([1, 2]);
});

describe('what another desk sends for a universe', () => {
  const theirs = (first: number, second = 0): Uint8Array => Uint8Array.of(first, second);

  test('is merged address by address: the higher counts, and ours goes on beneath it', () => {
    const { engine, dmx, hold } = wire(exampleShow());
    hold(1, 'Dimmer', 0.5);
    engine.input(1, 'desk', theirs(200, 10));
    engine.tick(0.1);
    expect([dmx(1, 1), dmx(1, 2)]).toEqual([200, 10]);
    hold(1, 'Dimmer', 1);
    expect(dmx(1, 1)).toBe(255);
    hold(1, 'Dimmer', 0);
    expect(dmx(1, 1)).toBe(200);
    engine.input(1, 'desk', null);
    engine.tick(0.2);
    expect([dmx(1, 1), dmx(1, 2)]).toEqual([0, 0]);
    hold(1, 'Dimmer', 0.5);
    expect(dmx(1, 1)).toBe(128);
  });

  test('of several desks the highest, and a byte that is forced lies over all of them', () => {
    const { engine, dmx, hold } = wire(exampleShow());
    hold(1, 'Dimmer', 0.2);
    engine.input(1, 'one', theirs(100));
    engine.input(1, 'two', theirs(180));
    engine.override({ ...NOTHING, raw: Uint32Array.of(0), bytes: Uint8Array.of(7) });
    engine.tick(0.1);
    expect(dmx(1, 1)).toBe(7);
    engine.input(1, 'two', null);
    engine.tick(0.2);
    expect(dmx(1, 1)).toBe(7);
    engine.override(NOTHING);
    engine.tick(0.3);
    expect(dmx(1, 1)).toBe(100);
  });

  test('followed, theirs is sent and ours is not, until it is let off', () => {
    const { engine, dmx, hold } = wire(exampleShow());
    hold(1, 'Dimmer', 1);
    engine.input(1, 'desk', theirs(40), true);
    engine.tick(0.1);
    expect([dmx(1, 1), dmx(1, 2)]).toEqual([40, 0]);
    hold(2, 'Dimmer', 1);
    expect(dmx(1, 2)).toBe(0);
    engine.input(1, 'desk', null);
    engine.tick(0.2);
    expect([dmx(1, 1), dmx(1, 2)]).toEqual([255, 255]);
  });

  test('whatever comes and goes on both sides, what is sent is the higher of both', () => {
    const Step = fc.oneof(
      fc.record({ own: fc.integer({ min: 0, max: 255 }) }),
      fc.record({
        by: fc.constantFrom('one', 'two'),
        theirs: fc.option(fc.integer({ min: 0, max: 255 }), { nil: null }),
      }),
    );
    fc.assert(
      fc.property(fc.array(Step, { maxLength: 25 }), (steps) => {
        const { engine, dmx, hold } = wire(exampleShow());
        const now = { own: 0, in: new Map<string, number>() };
        steps.forEach((s, i) => {
          if ('own' in s) {
            hold(1, 'Dimmer', s.own / 255);
            now.own = s.own;
          } else {
            engine.input(1, s.by, s.theirs === null ? null : theirs(s.theirs));
            if (s.theirs === null) now.in.delete(s.by);
            else now.in.set(s.by, s.theirs);
          }
          engine.tick(i);
          expect(dmx(1, 1)).toBe(Math.max(now.own, ...now.in.values(), 0));
        });
      }),
      { numRuns: 200 },
    );
  });
});
