/** The merge against a model written from the rules: whatever is played, held and taken away, both say the same. */
import fc from 'fast-check';
import { exampleShow, idOf } from '../testing/example.ts';
import { holds, moves } from '../testing/columns.ts';
import { slotKey } from '../cues/rows.ts';
import { Engine } from './engine.ts';
import { compileSlots, slotIndex } from './slots.ts';

const show = exampleShow();
const slots = compileSlots(show);
const index = slotIndex(slots);
const slot = (fixture: number, attribute = 'Dimmer'): number =>
  index.get(slotKey(idOf(show, fixture), attribute)) ?? -1;
/** Two intensities, a colour that is full by default, a pan that is in the middle. */
const SLOTS = [slot(1), slot(2), slot(11, 'ColorAdd_R'), slot(101, 'Pan')];
const LISTS = ['a', 'b', 'c'] as const;
const PEOPLE = ['mara', 'tam'] as const;

type Step =
  | { do: 'move'; list: number; slot: number; level: number | null }
  | { do: 'configure'; list: number; ltp: boolean; priority: number }
  | { do: 'master'; list: number; level: number }
  | { do: 'flash'; list: number; on: boolean; solo: boolean }
  | { do: 'release'; list: number }
  | { do: 'hold'; who: number; slot: number; level: number }
  | { do: 'let-go'; who: number; slot: number }
  | { do: 'grand'; level: number; blackout: boolean }
  | { do: 'inhibit'; slot: number; level: number }
  | { do: 'park'; slot: number; level: number }
  | { do: 'let-off' };

const tenths = fc.integer({ min: 0, max: 10 }).map((n) => n / 10);
const list = fc.nat(LISTS.length - 1);
const at = fc.nat(SLOTS.length - 1);
const who = fc.nat(PEOPLE.length - 1);
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      do: fc.constant('move' as const),
      list,
      slot: at,
      level: fc.option(tenths, { nil: null }),
    }),
  },
  fc.record({
    do: fc.constant('configure' as const),
    list,
    ltp: fc.boolean(),
    priority: fc.constantFrom(10, 50, 90),
  }),
  fc.record({ do: fc.constant('master' as const), list, level: tenths }),
  fc.record({ do: fc.constant('flash' as const), list, on: fc.boolean(), solo: fc.boolean() }),
  fc.record({ do: fc.constant('release' as const), list }),
  fc.record({ do: fc.constant('hold' as const), who, slot: at, level: tenths }),
  fc.record({ do: fc.constant('let-go' as const), who, slot: at }),
  fc.record({ do: fc.constant('grand' as const), level: tenths, blackout: fc.boolean() }),
  fc.record({ do: fc.constant('inhibit' as const), slot: at, level: tenths }),
  fc.record({ do: fc.constant('park' as const), slot: at, level: tenths }),
  fc.record({ do: fc.constant('let-off' as const) }),
);

interface Held {
  level: number;
  acted: number;
}

/** The rules of docs/playback.md, for steps that are made at once. */
class Model {
  private time = 0;
  private readonly lists = LISTS.map(() => ({
    ltp: false,
    priority: 50,
    master: 1,
    flash: false,
    solo: false,
    values: new Map<number, Held>(),
  }));
  private readonly people = PEOPLE.map(() => new Map<number, Held>());
  private grand = 1;
  private blackout = false;
  private readonly inhibit = new Map<number, number>();
  private parked: { slot: number; level: number } | null = null;

  do(s: Step): void {
    this.time++;
    const l = 'list' in s ? this.lists[s.list] : undefined;
    switch (s.do) {
      case 'move':
        if (s.level === null) l?.values.delete(s.slot);
        else l?.values.set(s.slot, { level: s.level, acted: this.time });
        break;
      case 'configure':
        if (l) Object.assign(l, { ltp: s.ltp, priority: s.priority });
        break;
      case 'master':
        if (l) l.master = s.level;
        break;
      case 'flash':
        if (l) Object.assign(l, { flash: s.on, solo: s.on && s.solo });
        break;
      case 'release':
        l?.values.clear();
        break;
      case 'hold':
        this.people[s.who]?.set(s.slot, { level: s.level, acted: this.time });
        break;
      case 'let-go':
        this.people[s.who]?.delete(s.slot);
        break;
      case 'grand':
        this.grand = s.level;
        this.blackout = s.blackout;
        break;
      case 'inhibit':
        this.inhibit.set(s.slot, s.level);
        break;
      case 'park':
        this.parked = { slot: s.slot, level: s.level };
        break;
      case 'let-off':
        this.parked = null;
        break;
    }
  }

  level(i: number): number {
    if (this.parked?.slot === i) return this.parked.level;
    const isIntensity = i < 2;
    const soloed = this.lists.some((l) => l.solo);
    const holding = this.lists.flatMap((l) => {
      const held = l.values.get(i);
      const own = l.flash ? 1 : l.master;
      const gain = soloed && !l.solo ? 0 : own;
      return held
        ? [
            {
              level: isIntensity ? held.level * gain : held.level,
              acted: held.acted,
              highest: isIntensity && !l.ltp,
              priority: l.priority,
            },
          ]
        : [];
    });
    const highest = holding.filter((h) => h.highest).map((h) => h.level);
    const latest = holding
      .filter((h) => !h.highest)
      .sort((a, b) => b.priority - a.priority || b.acted - a.acted)[0];
    const played =
      holding.length === 0
        ? (slots.defaults[SLOTS[i] ?? 0] ?? 0)
        : Math.max(...highest, ...(latest ? [latest.level] : []));
    const held = this.people.flatMap((p) => p.get(i) ?? []).sort((a, b) => b.acted - a.acted)[0];
    const value = held ? held.level : played;
    return isIntensity
      ? value * (this.blackout ? 0 : this.grand) * (this.inhibit.get(i) ?? 1)
      : value;
  }
}

function drive(
  engine: Engine,
  s: Step,
  inhibit: Float32Array,
  configs: Map<string, { id: string; ltp: boolean; priority: number }>,
): void {
  const target = 'slot' in s ? (SLOTS[s.slot] ?? 0) : 0;
  const id = 'list' in s ? (LISTS[s.list] ?? 'a') : 'a';
  switch (s.do) {
    case 'move':
      return engine.move(id, moves(target, { level: s.level ?? NaN }), 1);
    case 'configure':
      configs.set(id, { id, ltp: s.ltp, priority: s.priority });
      return engine.configure([...configs.values()]);
    case 'master':
      return engine.setListMaster(id, s.level, 0, 1);
    case 'flash':
      return engine.setFlash(id, s.on, s.solo, 1);
    case 'release':
      return engine.release(id, 0, 1);
    case 'hold':
      return engine.hold(PEOPLE[s.who] ?? '', holds(target, { level: s.level }), 1);
    case 'let-go':
      return engine.letGo(PEOPLE[s.who] ?? '', [target], 0, 1);
    case 'grand':
      return engine.setMaster(s.level, s.blackout);
    case 'inhibit':
      inhibit[target] = s.slot < 2 ? s.level : 1;
      return engine.setInhibit(inhibit);
    case 'park':
      return engine.override({
        slots: Uint32Array.of(target),
        levels: Float32Array.of(s.level),
        kinds: Int16Array.of(-2),
        raw: new Uint32Array(0),
        bytes: new Uint8Array(0),
      });
    case 'let-off':
      return engine.override({
        slots: new Uint32Array(0),
        levels: new Float32Array(0),
        kinds: new Int16Array(0),
        raw: new Uint32Array(0),
        bytes: new Uint8Array(0),
      });
  }
}

test('the engine merges as the rules say, after every step', () => {
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 40 }), (steps) => {
      const engine = new Engine(slots);
      const model = new Model();
      const inhibit = new Float32Array(slots.keys.length).fill(1);
      const configs = new Map<string, { id: string; ltp: boolean; priority: number }>();
      engine.tick(1);
      for (const s of steps) {
        drive(engine, s, inhibit, configs);
        model.do(s);
        engine.tick(1);
        SLOTS.forEach((n, i) => expect(engine.shared.out[n]).toBeCloseTo(model.level(i), 5));
      }
    }),
    { numRuns: 400 },
  );
});

test('what is kept and given back goes on as it would have', () => {
  fc.assert(
    fc.property(
      fc.array(step, { minLength: 1, maxLength: 20 }),
      fc.array(step, { maxLength: 10 }),
      (before, after) => {
        const configs = new Map<string, { id: string; ltp: boolean; priority: number }>();
        const inhibit = new Float32Array(slots.keys.length).fill(1);
        const steady = (s: Step): boolean =>
          s.do !== 'flash' && s.do !== 'park' && s.do !== 'let-off';
        const one = new Engine(slots);
        for (const s of before.filter(steady)) drive(one, s, inhibit, configs);
        one.tick(1);
        const other = new Engine(slots);
        other.configure([...configs.values()]);
        other.restore(JSON.parse(JSON.stringify(one.save())) as never, 1);
        other.setInhibit(inhibit);
        for (const engine of [one, other]) {
          for (const s of after.filter(steady)) drive(engine, s, inhibit, configs);
          engine.tick(2);
        }
        SLOTS.forEach((n) => expect(other.shared.out[n]).toBeCloseTo(one.shared.out[n] ?? 0, 5));
      },
    ),
    { numRuns: 150 },
  );
});

test.each<[what: string, position: number, expected: number]>([
  ['at its start', 0, 0.2],
  ['in its delay', 0.1, 0.2],
  ['half way through the fade', 0.6, 0.5],
  ['at its end', 1, 0.8],
])('a fade of 4 s after a delay of 1 s, led by hand to %s', (_what, position, expected) => {
  const engine = new Engine(slots);
  engine.move('a', moves(SLOTS[0] ?? 0, { level: 0.2 }), 1);
  engine.move('a', moves(SLOTS[0] ?? 0, { level: 0.8, up_s: 4, delay_s: 1 }), 1);
  for (const p of [0.9, 0.3, 1, position]) {
    engine.lead('a', p);
    engine.tick(2);
  }
  expect(engine.shared.out[SLOTS[0] ?? 0]).toBeCloseTo(expected, 5);
});

test.each([
  ['linear', 0.25, 0.25],
  ['smooth', 0.25, 0.15625],
  ['ease-in', 0.25, 0.0625],
  ['ease-out', 0.25, 0.4375],
] as const)('a %s fade is at its share of the way', (name, share, way) => {
  const engine = new Engine(slots);
  engine.move(
    'a',
    moves(SLOTS[0] ?? 0, {
      level: 1,
      up_s: 8,
      curve: ['linear', 'smooth', 'ease-in', 'ease-out'].indexOf(name),
    }),
    0,
  );
  engine.tick(share * 8);
  expect(engine.shared.out[SLOTS[0] ?? 0]).toBeCloseTo(way, 5);
});
