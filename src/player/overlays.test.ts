import { type Overrides } from '../core/playback/fixed-slots.ts';
import { COMMANDED, PARKED } from '../core/playback/winner.ts';
import { compileSlots, slotIndex } from '../core/playback/slots.ts';
import { isRefusal } from '../core/refusal.ts';
import { apply, exampleShow, idOf } from '../core/testing/example.ts';
import { Overlays } from './overlays.ts';

const MARA = { userId: 'm', name: 'Mara Kell' };
const TAM = { userId: 't', name: 'Tam Brevik' };

function house() {
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
  const overlays = new Overlays(
    {
      show,
      slots: () => slots,
      levelNow: () => 0.4,
      slotOf: (key) => index.get(key),
      tell: (o) => (told = o),
      changed: () => undefined,
    },
    { parked: [], focus: [] },
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
