import { type Overrides } from '../core/playback/fixed-slots.ts';
import { COMMANDED, FOCUS, HIGHLIT, PARKED } from '../core/playback/winner.ts';
import { compileSlots, slotIndex } from '../core/playback/slots.ts';
import { isRefusal } from '../core/refusal.ts';
import { apply, exampleShow, idOf } from '../core/testing/example.ts';
import { Overlays, type Focused, type Parked } from './overlays.ts';

const MARA = { userId: 'm', name: 'Mara Kell' };
const TAM = { userId: 't', name: 'Tam Brevik' };

function house(saved: { parked: Parked[]; focus: Focused[] } = { parked: [], focus: [] }) {
  const show = exampleShow();
  apply(show, 'swap-type', {
    ids: [idOf(show, 101), idOf(show, 102)],
    typeId: 'generic-wash',
    mode: '16 bit control',
    address: 'next',
  });
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  let told: Overrides | undefined;
  const tellings = { count: 0 };
  const overlays = new Overlays(
    {
      show,
      slots: () => slots,
      levelNow: () => 0.4,
      slotOf: (key) => index.get(key),
      tell: (o) => void ((told = o), tellings.count++),
      changed: () => undefined,
    },
    saved,
  );
  const slot = (number: number, attribute: string): number =>
    index.get(`${idOf(show, number)}:${attribute}`) ?? -1;
  const at = (number: number, attribute: string): { level: number; kind: number } | undefined => {
    const i = told ? [...told.slots].indexOf(slot(number, attribute)) : -1;
    return i < 0 ? undefined : { level: told?.levels[i] ?? -1, kind: told?.kinds[i] ?? 0 };
  };
  return {
    show,
    slots,
    overlays,
    at,
    tellings,
    kinds: () => [...(told?.kinds ?? [])],
    raw: () => [...(told?.raw ?? [])].map((p, i) => [p, told?.bytes[i]]),
  };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

describe('park', () => {
  test('a fixture stays where it is, or at a level, until it is let off; others may let it off', () => {
    const { overlays, at } = house();
    overlays.park(MARA, [1], undefined, undefined, true);
    expect(at(1, 'Dimmer')).toEqual({ level: expect.closeTo(0.4), kind: PARKED });
    overlays.park(MARA, [2], 'Dimmer', 1, true);
    expect(at(2, 'Dimmer')?.level).toBe(1);
    overlays.park(TAM, [1, 2], undefined, undefined, false);
    expect([at(1, 'Dimmer'), at(2, 'Dimmer')]).toEqual([undefined, undefined]);
  });

  test('who parked it can be told, and it is kept for the next process', () => {
    const { overlays, show } = house();
    overlays.park(MARA, [1], 'Dimmer', 0.7, true);
    expect(overlays.sourceOfSlot(`${idOf(show, 1)}:Dimmer`, PARKED)).toBe('parked by Mara Kell');
    expect(overlays.saved().parked).toEqual([
      { fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.7, by: 'Mara Kell' },
    ]);
  });

  test('what does not exist is refused', () => {
    const { overlays } = house();
    expect(isRefusal(overlays.park(MARA, [999], undefined, undefined, true))).toBe(true);
    expect(isRefusal(overlays.park(MARA, [1], 'Pan', undefined, true))).toBe(true);
  });
});

describe('address check', () => {
  test('a byte is forced and let off; leaving lets off all of one’s own, and nobody else’s', () => {
    const { overlays, raw } = house();
    overlays.check(MARA, 1, 7, 255);
    overlays.check(TAM, 1, 8, 128);
    expect(raw()).toEqual([
      [6, 255],
      [7, 128],
    ]);
    overlays.endChecks(MARA.userId);
    expect(raw()).toEqual([[7, 128]]);
    overlays.check(TAM, 1, 8, null);
    expect(raw()).toEqual([]);
  });

  test('another one’s check is not taken over, and a universe without output is refused', () => {
    const { overlays } = house();
    overlays.check(MARA, 1, 7, 255);
    expect(overlays.check(TAM, 1, 7, 0)).toMatchObject({
      refused: true,
      message: 'Mara Kell is checking 1.7.',
    });
    expect(overlays.check(TAM, 200, 1, 1)).toMatchObject({
      refused: true,
      message: expect.stringMatching(/neither patched nor sent/),
    });
    expect(overlays.saved().parked).toEqual([]);
  });
});

describe('control macros', () => {
  test('units follow each other, each for its time, with progress, and then they are free', () => {
    const { overlays, at } = house();
    expect(overlays.macro(MARA, [101, 102], 'Reset', 2, 1)).toMatchObject({ ok: true });
    expect(at(101, 'Control1')).toMatchObject({ kind: COMMANDED });
    expect(at(102, 'Control1')).toBeUndefined();
    jest.advanceTimersByTime(2000);
    expect(at(102, 'Control1')).toBeDefined();
    expect(overlays.state('m').macros).toMatchObject([
      { name: 'Reset', by: 'Mara Kell', done: 0, total: 2 },
    ]);
    jest.advanceTimersByTime(3000);
    expect(at(101, 'Control1')).toBeUndefined();
    expect(overlays.state('m').macros).toMatchObject([{ done: 1 }]);
    jest.advanceTimersByTime(2000);
    expect(overlays.state('m').macros).toEqual([]);
  });

  test('several at a time, and stopped in the middle', () => {
    const { overlays, at } = house();
    overlays.macro(MARA, [101, 102], 'Lamp on', 1, 2);
    expect([at(101, 'Control1'), at(102, 'Control1')].every(Boolean)).toBe(true);
    expect(overlays.cancelMacro(1)).toMatchObject({
      ok: true,
      message: 'Lamp on stopped: 0 of 2 done',
    });
    expect([at(101, 'Control1'), at(102, 'Control1')]).toEqual([undefined, undefined]);
    jest.runAllTimers();
    expect(overlays.state('m').macros).toEqual([]);
  });

  test('steps come one after the other, each on its own channels, and what one held the next lets go of', () => {
    const { show, overlays, at } = house();
    const type = show.types.get('generic-wash');
    if (!type) throw new Error('no type');
    const Calibrate = {
      name: 'Calibrate',
      attribute: 'Control1',
      value: 80,
      hold_s: 1,
      also: [{ attribute: 'Dimmer', value: 0 }],
      then: [
        { values: [], hold_s: 0.5 },
        { values: [{ attribute: 'Control1', value: 255 }], hold_s: 2 },
      ],
    };
    const after = { ...type, macros: [...(type.macros ?? []), Calibrate] };
    show.apply([{ table: 'types', id: type.id, before: type, after }]);
    overlays.macro(MARA, [101], 'Calibrate', 0, 1);
    const first = at(101, 'Control1')?.level;
    expect(at(101, 'Dimmer')).toMatchObject({ level: 0, kind: COMMANDED });
    jest.advanceTimersByTime(1200);
    expect([at(101, 'Control1'), at(101, 'Dimmer')]).toEqual([undefined, undefined]);
    jest.advanceTimersByTime(400);
    expect(at(101, 'Control1')?.level).toBeGreaterThan(first ?? 1);
    expect(overlays.state('m').macros).toMatchObject([{ done: 0, total: 1 }]);
    jest.advanceTimersByTime(2000);
    expect(overlays.state('m').macros).toEqual([]);
  });

  test('units without the macro are left out and counted; none at all is refused', () => {
    const { overlays } = house();
    expect(overlays.macro(MARA, [1, 101], 'Reset', 0, 1)).toMatchObject({
      message: expect.stringMatching(/1 without it left out/),
    });
    expect(overlays.macro(MARA, [1], 'Reset', 0, 1)).toMatchObject({ refused: true });
  });
});

const message = (answer: ReturnType<Overlays['park']>): string | undefined =>
  'message' in answer ? answer.message : undefined;

describe('held for focus', () => {
  const NOW = new Date('2026-11-24T15:02:00Z');

  test('lights stay at a level for whoever is on the ladder, until they are let off, one or all', () => {
    const { overlays, at, show } = house();
    expect(message(overlays.focus(MARA, [1, 2], 0.8, true, NOW))).toBe('Held 2 fixtures for focus');
    expect([at(1, 'Dimmer'), at(2, 'Dimmer')]).toEqual([
      { level: expect.closeTo(0.8), kind: FOCUS },
      { level: expect.closeTo(0.8), kind: FOCUS },
    ]);
    expect(overlays.saved().focus[0]).toEqual({
      fixtureId: idOf(show, 1),
      level: 0.8,
      by: 'Mara Kell',
      since: '2026-11-24T15:02:00.000Z',
    });
    expect(overlays.sourceOfSlot(`${idOf(show, 1)}:Dimmer`, FOCUS)).toBe(
      'held for focus by Mara Kell',
    );
    expect(message(overlays.focus(TAM, [1], 0, false, NOW))).toBe('Let off 1 fixture');
    expect([at(1, 'Dimmer'), at(2, 'Dimmer')?.kind]).toEqual([undefined, FOCUS]);
    expect(message(overlays.focus(TAM, undefined, 0, false, NOW))).toBe('Let off 1 fixture');
    expect(at(2, 'Dimmer')).toBeUndefined();
    expect(message(overlays.focus(TAM, undefined, 0, false, NOW))).toBe(
      'Nothing was held for focus',
    );
  });

  test('nothing is told where nothing was held; a number that is not there holds none of them', () => {
    const { overlays, at, tellings } = house();
    overlays.focus(MARA, undefined, 0, false, NOW);
    expect(tellings.count).toBe(0);
    expect(message(overlays.focus(MARA, [1, 999], 0.8, true, NOW))).toBe(
      'There is no fixture 999. Nothing was held.',
    );
    expect(at(1, 'Dimmer')).toBeUndefined();
    expect(overlays.focus(MARA, undefined, 0.8, true, NOW)).toMatchObject({ code: 'invalid' });
    expect(overlays.any).toBe(false);
  });
});

describe('highlight', () => {
  test('each operator’s own, over what plays, until it is none', () => {
    const { overlays, at, show, tellings } = house();
    const key = (number: number): string => `${idOf(show, number)}:Dimmer`;
    overlays.highlight('m', 'Mara Kell', [{ key: key(1), level: 1 }]);
    overlays.highlight('t', 'Tam Brevik', [{ key: key(2), level: 0.5 }]);
    expect([at(1, 'Dimmer'), at(2, 'Dimmer')]).toEqual([
      { level: 1, kind: HIGHLIT },
      { level: 0.5, kind: HIGHLIT },
    ]);
    expect(overlays.sourceOfSlot(key(2), HIGHLIT)).toBe('highlight by Tam Brevik');
    overlays.highlight('m', 'Mara Kell', []);
    expect([at(1, 'Dimmer'), at(2, 'Dimmer')?.kind]).toEqual([undefined, HIGHLIT]);
    const before = tellings.count;
    overlays.highlight('m', 'Mara Kell', []);
    expect(tellings.count).toBe(before);
  });

  test('what is held for focus lies over it, and what is parked over both', () => {
    const { overlays, show, kinds } = house();
    overlays.highlight('m', 'Mara Kell', [{ key: `${idOf(show, 1)}:Dimmer`, level: 1 }]);
    overlays.park(MARA, [1], 'Dimmer', 0.2, true);
    overlays.focus(MARA, [1], 0.8, true, new Date());
    // Of several on one slot the last that is told stands.
    expect(kinds()).toEqual([HIGHLIT, FOCUS, PARKED]);
  });
});

describe('what is seen of it', () => {
  test('checks say by whom, and which are one’s own; macros how far they are', () => {
    const { overlays } = house();
    overlays.check(MARA, 1, 20, 200);
    const [mine, theirs] = [overlays.state('m'), overlays.state('t')].map((s) => s.checks);
    expect(mine).toEqual([{ universe: 1, address: 20, value: 200, by: 'Mara Kell', mine: true }]);
    expect(theirs?.map((c) => c.mine)).toEqual([false]);
    expect(overlays.sourceOfByte(1, 20)).toBe('address check by Mara Kell');
    expect(overlays.sourceOfByte(1, 21)).toBeUndefined();
  });

  test('an address without a universe is none; without either, one’s checks are off', () => {
    const { overlays, raw } = house();
    overlays.check(MARA, 1, 20, 200);
    expect(overlays.check(MARA, 1, undefined, 200)).toMatchObject({ code: 'invalid' });
    expect(overlays.check(MARA, undefined, 20, 200)).toMatchObject({ code: 'invalid' });
    expect(raw()).toHaveLength(1);
    expect(message(overlays.check(MARA, undefined, undefined, null))).toBe(
      'Address checks are off',
    );
    expect(raw()).toEqual([]);
  });

  test('a byte of the second universe is a page further', () => {
    const { overlays, raw, slots } = house();
    const second = slots.universes[1] ?? -1;
    overlays.check(MARA, second, 3, 90);
    expect(raw()).toEqual([[512 + 2, 90]]);
  });
});

test('what is gone from the rig is neither parked nor held for focus any more; what stays, stays', () => {
  const { overlays, show, at } = house();
  overlays.park(MARA, [1, 2], 'Dimmer', 0.7, true);
  overlays.focus(MARA, [3, 4], 0.8, true, new Date());
  apply(show, 'delete-fixtures', { ids: [idOf(show, 4)] });
  overlays.rigChanged();
  expect(overlays.saved().focus.map((f) => f.fixtureId)).toEqual([idOf(show, 3)]);
  expect([at(1, 'Dimmer')?.kind, at(3, 'Dimmer')?.kind, at(4, 'Dimmer')]).toEqual([
    PARKED,
    FOCUS,
    undefined,
  ]);
  const { overlays: next } = house({
    parked: [
      ...overlays.saved().parked,
      { fixtureId: 'gone', attribute: 'Dimmer', level: 1, by: 'Mara Kell' },
    ],
    focus: [],
  });
  next.rigChanged();
  expect(next.saved().parked.some((p) => p.fixtureId === 'gone')).toBe(false);
});

test('whether anything lies over what plays, of whichever kind', () => {
  const lies: ((o: Overlays) => unknown)[] = [
    (o) => o.park(MARA, [1], undefined, 1, true),
    (o) => o.focus(MARA, [1], 1, true, new Date()),
    (o) => o.check(MARA, 1, 1, 1),
    (o) => o.highlight('m', 'Mara Kell', [{ key: 'a:Dimmer', level: 1 }]),
  ];
  for (const lay of lies) {
    const { overlays } = house();
    expect(overlays.any).toBe(false);
    lay(overlays);
    expect(overlays.any).toBe(true);
  }
});
