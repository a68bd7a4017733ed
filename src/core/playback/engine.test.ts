import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { holds, moves } from '../testing/columns.ts';
import { cue, exampleShow, idOf, apply } from '../testing/example.ts';
import { slotKey } from '../cues/rows.ts';
import type { MutableShow } from '../show/show.ts';
import { Engine } from './engine.ts';
import type { Moves } from './list-moves.ts';
import { OPERATOR } from './winner.ts';
import { cueMoves, stateMoves } from './moves.ts';
import { compileSlots, slotIndex } from './slots.ts';

function rig(show: MutableShow = exampleShow()) {
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const engine = new Engine(slots);
  engine.tick(0);
  const slot = (fixture: number, attribute = 'Dimmer'): number =>
    index.get(slotKey(idOf(show, fixture), attribute)) ?? -1;
  const out = (fixture: number, attribute = 'Dimmer'): number =>
    engine.shared.out[slot(fixture, attribute)] ?? NaN;
  const to = (
    fixture: number,
    level: number,
    time: { up?: number; down?: number; delay?: number } = {},
    attribute = 'Dimmer',
  ): Moves =>
    moves(slot(fixture, attribute), {
      level,
      up_s: time.up ?? 0,
      down_s: time.down ?? time.up ?? 0,
      delay_s: time.delay ?? 0,
    });
  const dmx = (universe: number, address: number): number =>
    engine.shared.dmx[slots.universes.indexOf(universe) * 512 + address - 1] ?? -1;
  return { show, slots, index, engine, slot, out, to, dmx };
}

describe('fades', () => {
  test('a fade is half way at half its time, and ends exactly', () => {
    const { engine, out, to } = rig();
    engine.move('main', to(1, 1, { up: 4 }), 0);
    engine.tick(2);
    expect(out(1)).toBeCloseTo(0.5, 5);
    engine.tick(4);
    expect(out(1)).toBe(1);
    expect(engine.busy).toBe(false);
  });

  test('up applies upwards and down downwards, from where the slot is', () => {
    const { engine, out, to } = rig();
    engine.move('main', to(1, 1, { up: 2, down: 10 }), 0);
    engine.tick(2);
    engine.move('main', to(1, 0, { up: 2, down: 10 }), 2);
    engine.tick(7);
    expect(out(1)).toBeCloseTo(0.5, 5);
  });

  test('a GO in the middle of a fade starts from the level of that instant', () => {
    const { engine, out, to } = rig();
    engine.move('main', to(1, 1, { up: 10 }), 0);
    engine.tick(5);
    engine.move('main', to(1, 0, { down: 5 }), 5);
    expect(out(1)).toBeCloseTo(0.5, 5);
    engine.tick(5.001);
    expect(out(1)).toBeCloseTo(0.5, 3);
    engine.tick(10);
    expect(out(1)).toBe(0);
  });

  test('a delay comes before the fade', () => {
    const { engine, out, to } = rig();
    engine.move('main', to(1, 1, { up: 2, delay: 3 }), 0);
    engine.tick(2.9);
    expect(out(1)).toBe(0);
    engine.tick(4);
    expect(out(1)).toBeCloseTo(0.5, 5);
  });

  test('slots that only track keep doing what they do', () => {
    const { engine, out, to } = rig();
    engine.move('main', to(1, 1, { up: 10 }), 0);
    engine.tick(2);
    engine.move('main', to(2, 1, { up: 1 }), 2);
    engine.tick(5);
    expect(out(1)).toBeCloseTo(0.5, 5);
  });

  test('pause freezes, and going on goes on from there', () => {
    const { engine, out, to } = rig();
    engine.move('main', to(1, 1, { up: 10 }), 0);
    engine.tick(4);
    engine.setPaused('main', true);
    engine.tick(30);
    expect(out(1)).toBeCloseTo(0.4, 5);
    engine.setPaused('main', false);
    engine.tick(31);
    expect(out(1)).toBeCloseTo(0.5, 5);
  });

  test('a level never leaves the span between start and target, whatever is pressed when', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            level: evenly(0, 1),
            time: evenly(0, 5),
            wait: evenly(0, 3),
          }),
          { minLength: 1, maxLength: 12 },
        ),
        (steps) => {
          const { engine, out, to } = rig();
          let now = 0;
          for (const step of steps) {
            const before = out(1);
            engine.move('main', to(1, step.level, { up: step.time }), now);
            for (let k = 1; k <= 4; k++) {
              engine.tick(now + (step.wait * k) / 4);
              const low = Math.min(before, step.level) - 1e-6;
              const high = Math.max(before, step.level) + 1e-6;
              expect(out(1)).toBeGreaterThanOrEqual(low);
              expect(out(1)).toBeLessThanOrEqual(high);
            }
            now += step.wait;
          }
        },
      ),
      { numRuns: 50 },
    );
  });

  test('a follow comes once, this long after its GO, and waits in a pause', () => {
    const { engine, to } = rig();
    engine.tick(0);
    engine.move('main', to(1, 1, { up: 1 }), 0);
    engine.follow('main', 2);
    engine.tick(1);
    expect(engine.takeDue()).toEqual([]);
    engine.setPaused('main', true);
    engine.tick(9);
    expect(engine.takeDue()).toEqual([]);
    engine.setPaused('main', false);
    engine.tick(10.5);
    expect(engine.takeDue()).toEqual(['main']);
    engine.tick(20);
    expect(engine.takeDue()).toEqual([]);
  });
});

describe('merge', () => {
  test('intensity of two lists: the highest; other attributes: the latest', () => {
    const { engine, out, to } = rig();
    engine.move('a', to(101, 0.8), 0);
    engine.move('b', to(101, 0.3), 0);
    engine.move('a', to(101, 0.9, {}, 'Pan'), 1);
    engine.move('b', to(101, 0.1, {}, 'Pan'), 2);
    engine.tick(3);
    expect(out(101)).toBeCloseTo(0.8, 5);
    expect(out(101, 'Pan')).toBeCloseTo(0.1, 5);
  });

  test('an operator wins over playback, between operators the latest touch, and letting go fades back', () => {
    const { engine, slot, out, to } = rig();
    engine.move('main', to(1, 0.2), 0);
    engine.hold('mara', holds(slot(1), { level: 0.9 }), 1);
    engine.tick(1);
    expect(out(1)).toBeCloseTo(0.9, 5);
    engine.hold('tam', holds(slot(1), { level: 0.4 }), 2);
    engine.tick(2);
    expect(out(1)).toBeCloseTo(0.4, 5);
    expect(engine.shared.winner[slot(1)]).toBe(OPERATOR + 1);
    engine.letGo('tam', [slot(1)], 0, 3);
    engine.tick(3);
    expect(out(1)).toBeCloseTo(0.9, 5);
    engine.letGo('mara', [slot(1)], 2, 4);
    engine.tick(5);
    expect(out(1)).toBeCloseTo(0.55, 4);
    engine.tick(6);
    expect(out(1)).toBeCloseTo(0.2, 5);
    expect(engine.shared.winner[slot(1)]).toBe(0);
  });

  test('a held value fades from what is on stage', () => {
    const { engine, slot, out, to } = rig();
    engine.move('main', to(1, 0.5), 0);
    engine.tick(1);
    engine.hold('mara', holds(slot(1), { level: 1, fade_s: 4 }), 1);
    engine.tick(3);
    expect(out(1)).toBeCloseTo(0.75, 5);
  });

  test('grand master and blackout scale intensity alone, and leave house lights', () => {
    const show = exampleShow();
    apply(show, 'change-fixtures', {
      fixtures: [{ id: idOf(show, 2), set: { noGrandMaster: true } }],
    });
    const { engine, out, to } = rig(show);
    for (const n of [1, 2]) engine.move('main', to(n, 0.8), 0);
    engine.move('main', to(101, 0.7, {}, 'Pan'), 0);
    engine.setMaster(0.5, false);
    engine.tick(1);
    expect([out(1), out(2), out(101, 'Pan')]).toEqual([
      expect.closeTo(0.4, 5),
      expect.closeTo(0.8, 5),
      expect.closeTo(0.7, 5),
    ]);
    engine.setMaster(0.5, true);
    engine.tick(2);
    expect([out(1), out(2)]).toEqual([0, expect.closeTo(0.8, 5)]);
  });

  test('letting go of a slot takes it out of the list', () => {
    const { engine, out, to, slot } = rig();
    engine.move('main', to(1, 0.8), 0);
    engine.move('main', to(1, NaN, { down: 2 }), 1);
    engine.tick(2);
    expect(out(1)).toBeCloseTo(0.4, 4);
    engine.tick(3);
    expect(out(1)).toBe(0);
    expect(engine.shared.winner[slot(1)]).toBe(-1);
  });
});

describe('to DMX', () => {
  test('8 and 16 bit, coarse then fine', () => {
    const { engine, to, dmx } = rig();
    engine.move('main', to(1, 0.5), 0);
    engine.move('main', to(101, 0.25, {}, 'Pan'), 0);
    engine.tick(1);
    expect(dmx(1, 1)).toBe(128);
    const word = Math.round(0.25 * 65535);
    expect([dmx(2, 1), dmx(2, 2)]).toEqual([word >> 8, word & 255]);
  });

  test('virtual intensity scales the emitters at the end: blackout reaches them, hue does not move', () => {
    const { engine, to, dmx } = rig();
    engine.move('main', to(11, 1, {}, 'ColorAdd_R'), 0);
    engine.move('main', to(11, 0.5, {}, 'ColorAdd_G'), 0);
    engine.move('main', to(11, 0, {}, 'ColorAdd_B'), 0);
    engine.tick(1);
    expect([101, 102, 103].map((a) => dmx(1, a))).toEqual([0, 0, 0]);
    engine.move('main', to(11, 0.5), 1);
    engine.tick(2);
    expect([101, 102, 103].map((a) => dmx(1, a))).toEqual([128, 64, 0]);
    engine.setMaster(1, true);
    engine.tick(3);
    expect([101, 102, 103, 104].map((a) => dmx(1, a))).toEqual([0, 0, 0, 0]);
  });

  test('multi-patch writes the same to each address; off the rig writes nothing', () => {
    const show = exampleShow();
    apply(show, 'change-fixtures', {
      fixtures: [
        {
          id: idOf(show, 1),
          set: {
            patch: [
              { universe: 1, address: 1 },
              { universe: 2, address: 400 },
            ],
          },
        },
        { id: idOf(show, 2), set: { patch: [] } },
      ],
    });
    const { engine, to, dmx } = rig(show);
    engine.move('main', to(1, 1), 0);
    engine.move('main', to(2, 1), 0);
    engine.tick(1);
    expect([dmx(1, 1), dmx(2, 400), dmx(1, 2)]).toEqual([255, 255, 0]);
  });

  test('only pages that changed are marked for sending', () => {
    const { engine, to } = rig();
    engine.dirtyPages.fill(0);
    engine.move('main', to(1, 1), 0);
    engine.tick(1);
    expect([...engine.dirtyPages]).toEqual([1, 0]);
    engine.dirtyPages.fill(0);
    expect(engine.tick(2)).toBe(false);
    expect([...engine.dirtyPages]).toEqual([0, 0]);
  });
});

describe('cues as moves', () => {
  test('own time wins over family time, family time over the cue’s', () => {
    const show = exampleShow();
    const id = cue(show, 1, { 1: 100, 2: 100 }, { up_s: 5, down_s: 7 });
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [
        { fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 1, fade_s: 2 },
        { fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.2 },
      ],
    });
    apply(show, 'change-cue', { id, set: { family_s: { position: 9 } } });
    const { slots, index, slot } = rig(show);
    const row = show.cues.get(id);
    if (!row) throw new Error('no cue');
    const found = cueMoves(show, { index, family: slots.family, find: () => -1 }, row);
    const of = (s: number): [number, number] => {
      const i = found.slot.indexOf(s);
      return [found.up[i] ?? -1, found.down[i] ?? -1];
    };
    expect(of(slot(1))).toEqual([2, 2]);
    expect(of(slot(2))).toEqual([5, 7]);
    expect(of(slot(101, 'Pan'))).toEqual([9, 9]);
  });

  test('go to a cue shows its full tracked state, whatever was on before', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 40 });
    cue(show, 2, { 2: 60 });
    cue(show, 3, { 3: 80 });
    const { slots, index, engine, out } = rig(show);
    const go = (n: number): void => {
      const row = show.cuesOf('main').find((c) => c.number === n);
      engine.move(
        'main',
        stateMoves(show, { index, family: slots.family, find: () => -1 }, 'main', row, 0),
        1,
      );
      engine.tick(1);
    };
    go(3000);
    expect([1, 2, 3].map((n) => out(n))).toEqual([0.4, 0.6, 0.8].map((v) => expect.closeTo(v, 5)));
    go(2000);
    expect([1, 2, 3].map((n) => out(n))).toEqual([0.4, 0.6, 0].map((v) => expect.closeTo(v, 5)));
  });
});

describe('keeping and giving back', () => {
  test('a restored engine goes on in the middle of its fades, held values and master included', () => {
    const { show, engine, slot, to } = rig();
    engine.move('main', to(1, 1, { up: 10 }), 0);
    engine.hold('mara', holds(slot(2), { level: 0.6, fade_s: 4 }), 0);
    engine.hold('mara', holds(slot(3), { level: 0.3 }), 0);
    engine.setMaster(0.9, false);
    engine.tick(2);
    engine.letGo('mara', [slot(3)], 8, 2);
    engine.tick(3);
    const before = Float32Array.from(engine.shared.out);
    const other = new Engine(compileSlots(show));
    other.restore(JSON.parse(JSON.stringify(engine.save())) as ReturnType<Engine['save']>, 500);
    other.tick(500);
    other.shared.out.forEach((level, i) => expect(level).toBeCloseTo(before[i] ?? NaN, 4));
    engine.tick(5);
    other.tick(502);
    other.shared.out.forEach((level, i) =>
      expect(level).toBeCloseTo(engine.shared.out[i] ?? NaN, 4),
    );
  });

  test('a changed patch keeps what plays for the fixtures that are still there', () => {
    const { show, engine, to, slot } = rig();
    engine.move('main', to(1, 1, { up: 10 }), 0);
    engine.hold('mara', holds(slot(6), { level: 0.6 }), 0);
    engine.tick(5);
    const saved = engine.save();
    apply(show, 'delete-fixtures', { ids: [idOf(show, 2)] });
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 200,
      universe: 7,
      address: 9,
    });
    const after = rig(show);
    after.engine.restore(saved, 5);
    after.engine.tick(5);
    expect(after.out(1)).toBeCloseTo(0.5, 5);
    expect(after.out(6)).toBeCloseTo(0.6, 5);
    expect(after.out(200)).toBe(0);
  });
});
