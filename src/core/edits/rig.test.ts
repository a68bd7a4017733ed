import fc from 'fast-check';
import { chromaticity } from '../color/mix.ts';
import { colourOf, colourParts } from '../color/unit-colour.ts';
import { stateAt } from '../cues/tracking.ts';
import { readCommand } from '../command/command.ts';
import { clashAt, occupied } from '../rig/addresses.ts';
import { absolute, formatPoints, modeOf } from '../fixtures/points.ts';
import { rigFindings, standing } from '../rig/findings.ts';
import { libraryType } from '../rig/library/index.ts';
import { powerReport } from '../rig/power.ts';
import { usesOf } from '../rig/uses.ts';
import type { MutableShow } from '../show/show.ts';
import { planReverse } from '../show/undo.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';

const patchOf = (show: MutableShow, number: number): string =>
  formatPoints(show.fixtureByNumber(number)?.patch ?? []);
const ids = (show: MutableShow, ...numbers: number[]): string[] =>
  numbers.map((n) => idOf(show, n));
const level = (
  show: MutableShow,
  at: number,
  number: number,
  attribute: string,
): number | null | undefined =>
  stateAt(show, 'main', at * 1000).get(`${idOf(show, number)}:${attribute}`)?.value.level;

describe('patching', () => {
  test('goes by absolute address too, and runs on into the next universe when asked to', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 50,
      absolute: 1025,
    });
    expect(patchOf(show, 50)).toBe('3.1');
    apply(show, 'patch-fixtures', {
      typeId: 'generic-rgbw',
      mode: 'RGBW',
      quantity: 3,
      first: 60,
      universe: 4,
      address: 505,
      overflow: true,
    });
    expect([60, 61, 62].map((n) => patchOf(show, n))).toEqual(['4.505', '4.509', '5.1']);
  });

  test('without running on, the refusal offers it', () => {
    const refusal = refused(exampleShow(), 'patch-fixtures', {
      typeId: 'generic-rgbw',
      mode: 'RGBW',
      quantity: 3,
      first: 60,
      universe: 4,
      address: 505,
    });
    expect(refusal.message).toMatch(/2 units would fit; the rest can go on in universe 5/);
    expect(
      refused(exampleShow(), 'patch-fixtures', {
        typeId: 'generic-dimmer',
        mode: '8 bit',
        quantity: 1,
        absolute: 131_073,
      }).message,
    ).toMatch(/131072/);
  });

  test('a group of what was patched comes by itself if wanted, and off the rig needs no address', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 3,
      first: 50,
      label: 'Net #',
      group: true,
    });
    expect([...show.groups.values()].at(-1)).toMatchObject({
      name: 'Net',
      fixtures: ids(show, 50, 51, 52),
    });
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 90,
      off: true,
    });
    expect(show.fixtureByNumber(90)?.patch).toEqual([]);
  });

  test('a type with two addresses gets both, and they never overlap', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-scroller',
      mode: 'Dimmer and scroller',
      quantity: 3,
      first: 50,
      universe: 6,
      address: 1,
    });
    expect([50, 51, 52].map((n) => patchOf(show, n))).toEqual([
      '6.1, b2 6.4',
      '6.2, b2 6.6',
      '6.3, b2 6.8',
    ]);
    expect(rigFindings(show).filter((f) => f.about === 'addresses')).toEqual([]);
  });

  test('units that stand free hide nobody, however many come one after the other', () => {
    const show = exampleShow();
    let first = 300;
    for (const quantity of [6, 6, 1, 12, 36, 3]) {
      apply(show, 'patch-fixtures', { typeId: 'generic-dimmer', mode: '8 bit', quantity, first });
      first += quantity;
    }
    const fresh = [...show.fixtures.values()].filter((f) => f.number >= 300).map((f) => f.position);
    const all = [...show.fixtures.values()].map((f) => f.position);
    const nearest = fresh.map((a) =>
      Math.min(...all.filter((b) => b !== a).map((b) => Math.hypot(a.x - b.x, a.y - b.y))),
    );
    expect(Math.min(...nearest)).toBeGreaterThan(0.5);
  });

  test('whatever is patched and moved, no two units ever share an address', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            number: fc.constantFrom(1, 2, 3, 11, 12, 101),
            universe: fc.integer({ min: 1, max: 3 }),
            address: fc.integer({ min: 1, max: 512 }),
          }),
          { maxLength: 12 },
        ),
        (moves) => {
          const show = exampleShow();
          for (const m of moves) {
            const read = readCommand(`${m.number} patch ${m.universe}.${m.address}`, {
              show,
              selection: [],
              listId: null,
              cueOn: () => null,
              unrecorded: 0,
              held: () => 0,
              lit: () => [],
            });
            if (read.ok && read.intent.kind === 'edit')
              apply(show, read.intent.edit, read.intent.params);
          }
          const ranges = occupied(show);
          return (
            ranges.every((r, i) => i === 0 || r.from > (ranges[i - 1]?.to ?? 0)) &&
            ranges.every((r) => clashAt(ranges, r.from, r.to) === r)
          );
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('moving, off the rig, numbers', () => {
  test('several go to consecutive addresses in their order, or all by the same step', () => {
    const show = exampleShow();
    apply(show, 'move-fixtures', { ids: ids(show, 12, 11), to: { universe: 3, address: 21 } });
    expect([12, 11].map((n) => patchOf(show, n))).toEqual(['3.21', '3.25']);
    apply(show, 'move-fixtures', { ids: ids(show, 11, 12), to: { by: 512 } });
    expect([12, 11].map((n) => patchOf(show, n))).toEqual(['4.21', '4.25']);
  });

  test('units on the move do not stand in each other’s way, others do', () => {
    const show = exampleShow();
    apply(show, 'move-fixtures', { ids: ids(show, 11, 12, 13, 14), to: { by: 4 } });
    expect(patchOf(show, 11)).toBe('1.105');
    const before = JSON.stringify([...show.fixtures.values()]);
    expect(
      refused(show, 'move-fixtures', { ids: ids(show, 11), to: { by: -100 } }).message,
    ).toMatch(/11 at 1.5 would sit on 5/);
    expect(
      refused(show, 'move-fixtures', { ids: ids(show, 11), to: { by: -200 } }).message,
    ).toMatch(/leave the 256 universes/);
    expect(JSON.stringify([...show.fixtures.values()])).toBe(before);
  });

  test('a unit that is put where it stands, or by less than its own width, does not stand in its own way', () => {
    const show = exampleShow();
    apply(show, 'move-fixtures', { ids: ids(show, 14), to: { universe: 1, address: 115 } });
    expect(patchOf(show, 14)).toBe('1.115');
    apply(show, 'move-fixtures', { ids: ids(show, 13, 14), to: { universe: 1, address: 112 } });
    expect([13, 14].map((n) => patchOf(show, n))).toEqual(['1.112', '1.116']);
    expect(
      refused(show, 'move-fixtures', { ids: ids(show, 13), to: { universe: 1, address: 114 } })
        .message,
    ).toMatch(/would sit on 14/);
  });

  test('off the rig keeps the programming and knows the way back', () => {
    const show = exampleShow();
    cue(show, 1, { 3: 70 });
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 3), set: { patch: [] } }] });
    expect(level(show, 1, 3, 'Dimmer')).toBe(0.7);
    expect(rigFindings(show).map((f) => f.text)).toContainEqual(
      expect.stringMatching(/3 FOH 3 is off the rig, and 1 cue use it/),
    );
    apply(show, 'move-fixtures', { ids: ids(show, 3), to: 'back' });
    expect(show.fixtureByNumber(3)).toMatchObject({ patch: [{ universe: 1, address: 3 }] });
    expect(show.fixtureByNumber(3)?.wasAt).toBeUndefined();
    expect(refused(show, 'move-fixtures', { ids: ids(show, 3), to: 'back' }).message).toMatch(
      /on the rig already/,
    );
  });

  test('back onto the rig where its address is taken: refused, or to the next free one', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-rgbw',
      mode: 'RGBW',
      quantity: 2,
      first: 60,
      universe: 7,
      address: 1,
    });
    apply(show, 'change-fixtures', {
      fixtures: ids(show, 60, 61).map((id) => ({ id, set: { patch: [] } })),
    });
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 70,
      universe: 7,
      address: 2,
    });
    expect(
      refused(show, 'move-fixtures', { ids: ids(show, 60, 61), to: 'back' }).message,
    ).toContain('7.1 would sit on 70');
    apply(show, 'move-fixtures', { ids: ids(show, 60, 61), to: 'back-or-next' });
    expect([patchOf(show, 60), patchOf(show, 61)]).toEqual(['7.3', '7.7']);
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 71,
      off: true,
    });
    apply(show, 'move-fixtures', { ids: ids(show, 71), to: 'back-or-next' });
    expect(show.fixtureByNumber(71)?.patch).toHaveLength(1);
  });

  test('numbers are changed among themselves; cues and groups follow', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 40, 2: 60 });
    apply(show, 'change-fixtures', {
      fixtures: [
        { id: idOf(show, 1), set: { number: 2 } },
        { id: idOf(show, 2), set: { number: 1 } },
      ],
    });
    expect([1, 2].map((n) => level(show, 1, n, 'Dimmer'))).toEqual([0.6, 0.4]);
    expect(
      refused(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: { number: 11 } }] })
        .message,
    ).toMatch(/11 exists already/);
  });

  test('multi-patch: one number at several addresses, none of them taken', () => {
    const show = exampleShow();
    apply(show, 'change-fixtures', {
      fixtures: [
        {
          id: idOf(show, 1),
          set: {
            patch: [
              { universe: 1, address: 1 },
              { universe: 2, address: 200 },
            ],
          },
        },
      ],
    });
    expect(patchOf(show, 1)).toBe('1.1, 2.200');
    expect(
      refused(show, 'change-fixtures', {
        fixtures: [
          {
            id: idOf(show, 1),
            set: {
              patch: [
                { universe: 1, address: 1 },
                { universe: 1, address: 2 },
              ],
            },
          },
        ],
      }).message,
    ).toMatch(/would sit on 2/);
  });

  test('limits are refused where there is nothing to limit', () => {
    const show = exampleShow();
    expect(
      refused(show, 'change-fixtures', {
        fixtures: [{ id: idOf(show, 1), set: { transforms: { Pan: { invert: true } } } }],
      }).message,
    ).toMatch(/1 has no Pan/);
  });
});

describe('swapping the type', () => {
  function lit(): MutableShow {
    const show = exampleShow();
    const values = [
      ['Dimmer', 0.8],
      ['ColorAdd_R', 1],
      ['ColorAdd_G', 0.3],
      ['ColorAdd_B', 0],
      ['ColorAdd_W', 0.2],
      ['Pan', 0.75],
      ['Tilt', 0.25],
      ['Zoom', 0.5],
      ['Shutter1Strobe', 0.4],
    ] as const;
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: values.map(([attribute, l]) => ({ fixtureId: idOf(show, 101), attribute, level: l })),
    });
    return show;
  }

  test('colours go through the emitters: the same chromaticity comes out of the new unit', () => {
    const show = lit();
    const seen = (): { x: number; y: number } | undefined => {
      const fixture = show.fixtureByNumber(101);
      const type = fixture ? show.types.get(fixture.typeId) : undefined;
      const mode = fixture ? modeOf(show, fixture) : undefined;
      const part = type && mode ? colourParts(type, mode)[0] : undefined;
      return type && part
        ? chromaticity(colourOf(type, part, (a) => level(show, 1, 101, a) ?? 0))
        : undefined;
    };
    const before = seen();
    apply(show, 'swap-type', {
      ids: ids(show, 101),
      typeId: 'aldersund-skerry',
      mode: 'Direct',
      address: { universe: 3, address: 1 },
    });
    const after = seen();
    expect(after?.x).toBeCloseTo(before?.x ?? 0, 2);
    expect(after?.y).toBeCloseTo(before?.y ?? 0, 2);
    expect(level(show, 1, 101, 'Dimmer')).toBe(0.8);
    expect(patchOf(show, 101)).toBe('3.1');
  });

  test('positions go through degrees, and what lies outside is named as near as it can', () => {
    const show = lit();
    apply(show, 'swap-type', {
      ids: ids(show, 101),
      typeId: 'generic-mirror',
      mode: '16 bit',
      address: 'next',
    });
    // 135° of -270…270 is past the mirror's 90°; -67.5° of tilt past its -40°.
    expect(level(show, 1, 101, 'Pan')).toBe(1);
    expect(level(show, 1, 101, 'Tilt')).toBe(0);
    const back = lit();
    apply(back, 'swap-type', {
      ids: ids(back, 101),
      typeId: 'quillon-wash',
      mode: 'Short',
      address: 'next',
    });
    expect(level(back, 1, 101, 'Pan')).toBe(0.75);
  });

  test('what has no place is dropped by name, and undo gives all of it back', () => {
    const show = lit();
    const before = JSON.stringify(
      [...show.values.values()].sort((a, b) => a.id.localeCompare(b.id)),
    );
    const { changes, summary } = apply(show, 'swap-type', {
      ids: ids(show, 101),
      typeId: 'generic-dimmer',
      mode: '8 bit',
    });
    expect(summary).toMatch(/1 value kept, dropped: .*pan/);
    expect([...show.values.values()].map((v) => v.attribute)).toEqual(['Dimmer']);
    const reverse = planReverse(show, { rows: changes, summary }, []);
    expect(Array.isArray(reverse)).toBe(true);
    if (Array.isArray(reverse)) show.apply(reverse);
    expect(JSON.stringify([...show.values.values()].sort((a, b) => a.id.localeCompare(b.id)))).toBe(
      before,
    );
  });

  test('a dimmer-only unit becomes a colour unit by its virtual intensity', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 55 });
    apply(show, 'swap-type', {
      ids: ids(show, 1),
      typeId: 'aldersund-tern',
      mode: 'RGBW',
      address: 'next',
    });
    expect(level(show, 1, 1, 'Dimmer')).toBe(0.55);
  });

  test('a whole unit’s colour goes to every cell of a strip, and back into one', () => {
    const show = exampleShow();
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [
        ['ColorAdd_R', 1],
        ['ColorAdd_G', 0],
        ['ColorAdd_B', 0],
        ['ColorAdd_W', 0],
      ].map(([attribute, l]) => ({ fixtureId: idOf(show, 11), attribute, level: l })),
    });
    apply(show, 'swap-type', {
      ids: ids(show, 11),
      typeId: 'generic-strip',
      mode: '4 cells RGB',
      address: 'next',
    });
    expect([1, 2, 3, 4].map((n) => level(show, 1, 11, `ColorAdd_R@${n}`))).toEqual([1, 1, 1, 1]);
    apply(show, 'swap-type', {
      ids: ids(show, 11),
      typeId: 'generic-rgb',
      mode: 'RGB',
      address: 'keep',
    });
    expect(level(show, 1, 11, 'ColorAdd_R')).toBeCloseTo(1);
    expect(level(show, 1, 11, 'ColorAdd_B')).toBeCloseTo(0);
  });

  test('nothing in common is refused until it is meant; a place that does not fit is refused', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 55 });
    expect(
      refused(show, 'swap-type', {
        ids: ids(show, 1),
        typeId: 'generic-haze',
        mode: '2 channel',
        address: 'next',
      }),
    ).toMatchObject({
      code: 'nothing-common',
      message: expect.stringMatching(/all of 1 recorded value would be lost/),
    });
    apply(show, 'swap-type', {
      ids: ids(show, 1),
      typeId: 'generic-haze',
      mode: '2 channel',
      address: 'next',
      loseAll: true,
    });
    expect(show.values.size).toBe(0);
    expect(
      refused(exampleShow(), 'swap-type', {
        ids: ids(show, 2),
        typeId: 'generic-haze',
        mode: '2 channel',
        address: 'keep',
      }).code,
    ).toBe('not-found');
    const other = exampleShow();
    expect(
      refused(other, 'swap-type', {
        ids: ids(other, 2),
        typeId: 'generic-dimmer',
        mode: '16 bit',
        address: 'keep',
      }).message,
    ).toMatch(/would sit on 3.*next free address/);
  });

  test('limits and own slots stay where the new type has them', () => {
    const show = exampleShow();
    apply(show, 'change-fixtures', {
      fixtures: [
        {
          id: idOf(show, 101),
          set: { transforms: { Pan: { invert: true }, ColorAdd_R: { max: 0.5 } } },
        },
      ],
    });
    const { summary } = apply(show, 'swap-type', {
      ids: ids(show, 101),
      typeId: 'generic-spot-cmy',
      mode: 'Basic',
      address: 'next',
    });
    expect(show.fixtureByNumber(101)?.transforms).toEqual({ Pan: { invert: true } });
    expect(summary).toMatch(/limits of red/);
  });
});

describe('copying programming', () => {
  test('the others do what the one does, in every cue and group, and stop what they did', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 80, 2: 10 });
    cue(show, 2, { 1: 30 });
    cue(show, 3, { 2: 99 });
    apply(show, 'record-group', { name: 'Bow', fixtures: ids(show, 1) });
    apply(show, 'copy-programming', { from: idOf(show, 1), to: ids(show, 2, 3) });
    for (const n of [2, 3])
      expect([1, 2, 3].map((c) => level(show, c, n, 'Dimmer'))).toEqual([0.8, 0.3, 0.3]);
    expect([...show.groups.values()][0]?.fixtures).toEqual(ids(show, 1, 2, 3));
    expect(
      refused(show, 'copy-programming', { from: idOf(show, 1), to: ids(show, 2, 3) }).message,
    ).toMatch(/already do what 1 does/);
  });

  test('new units are patched and do what the one does in one step; undone in one', () => {
    const show = exampleShow();
    cue(show, 1, { 2: 70 });
    const group = [...show.groups.values()].find((g) => g.fixtures.includes(idOf(show, 2)));
    const { changes } = apply(show, 'copy-programming', {
      from: idOf(show, 2),
      fresh: { quantity: 2, first: 80, universe: 8, address: 10 },
    });
    expect([80, 81].map((n) => [patchOf(show, n), level(show, 1, n, 'Dimmer')])).toEqual([
      ['8.10', 0.7],
      ['8.11', 0.7],
    ]);
    if (group)
      expect(show.groups.get(group.id)?.fixtures).toEqual(
        expect.arrayContaining(ids(show, 80, 81)),
      );
    show.apply(
      [...changes].reverse().map((c) => ({ ...c, before: c.after, after: c.before })) as never,
    );
    expect(show.fixtureByNumber(80)).toBeUndefined();
    expect(level(show, 1, 81, 'Dimmer')).toBeUndefined();
    expect(
      refused(show, 'copy-programming', { from: idOf(show, 2), fresh: { quantity: 0 } }).message,
    ).toBe('Make at least one unit.');
    expect(
      refused(show, 'copy-programming', { from: idOf(show, 2), fresh: { quantity: 1, first: 2 } })
        .message,
    ).toContain('exists already');
  });

  test('own times go along, and what the other unit cannot do is named', () => {
    const show = exampleShow();
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [
        { fixtureId: idOf(show, 101), attribute: 'Dimmer', level: 1, fade_s: 9 },
        { fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.2 },
      ],
    });
    const { summary } = apply(show, 'copy-programming', {
      from: idOf(show, 101),
      to: ids(show, 4),
    });
    expect(summary).toMatch(/not possible there: pan/);
    expect([...show.values.values()].find((v) => v.fixtureId === idOf(show, 4))).toMatchObject({
      attribute: 'Dimmer',
      level: 1,
      fade_s: 9,
    });
  });
});

describe('types of the show', () => {
  const own = (() => {
    const { id, ...rest } = structuredClone(libraryType('generic-rgb')) as NonNullable<
      ReturnType<typeof libraryType>
    >;
    void id;
    return { ...rest, maker: 'Aldersund', name: 'Sandpiper' };
  })();

  test('a type is made, patched, changed under its fixtures, and not taken away from them', () => {
    const show = exampleShow();
    apply(show, 'set-type', { type: own });
    const type = [...show.types.values()].find((t) => t.name === 'Sandpiper');
    apply(show, 'patch-fixtures', {
      typeId: type?.id,
      mode: 'RGB',
      quantity: 2,
      first: 50,
      universe: 5,
      address: 1,
    });
    expect(refused(show, 'delete-type', { id: type?.id }).message).toMatch(
      /Fixture 50–51 are of this type/,
    );
    // One more channel: 51 at 5.4 is in the way of 50.
    const wider = {
      ...own,
      modes: own.modes.map((m) => (m.name === 'RGB' ? { ...m, footprint: 4 } : m)),
    };
    expect(refused(show, 'set-type', { id: type?.id, type: wider }).message).toMatch(
      /would sit on 5[01]/,
    );
    expect(
      refused(show, 'set-type', { id: type?.id, type: { ...own, modes: own.modes.slice(1) } })
        .message,
    ).toMatch(/uses mode “RGB”/);
    apply(show, 'set-type', { id: type?.id, type: { ...own, watts: 200 } });
    expect(show.types.get(type?.id ?? '')?.watts).toBe(200);
    expect(refused(show, 'set-type', { type: own }).message).toMatch(
      /There is a Aldersund Sandpiper|There is an? Aldersund Sandpiper/,
    );
  });

  test('a type with something wrong is refused with every place named', () => {
    const broken = {
      ...own,
      modes: [
        {
          name: 'One',
          footprint: 2,
          channels: [
            { attribute: 'ColorAdd_R', offset: [1], default: 0, physicalFrom: 0, physicalTo: 1 },
            { attribute: 'ColorAdd_G', offset: [1], default: 0, physicalFrom: 0, physicalTo: 1 },
          ],
        },
      ],
    };
    const refusal = refused(exampleShow(), 'set-type', { type: broken });
    expect(refusal.message).toMatch(/both use channel 1/);
    expect(Object.keys(refusal.fields ?? {})).toEqual(['modes.0.channels.1.offset']);
  });
});

describe('power', () => {
  function wired(): MutableShow {
    const show = exampleShow();
    apply(show, 'set-circuit', { set: { name: 'D1', phase: 1, breaker_A: 10 } });
    const circuitId = [...show.circuits.values()][0]?.id;
    apply(show, 'change-fixtures', {
      fixtures: ids(show, 1, 2, 3, 4).map((id) => ({ id, set: { circuitId } })),
    });
    return show;
  }

  test('a circuit is counted at full and in its worst cue, with what is tracked', () => {
    const show = wired();
    cue(show, 1, { 1: 100 });
    cue(show, 2, { 2: 100 });
    cue(show, 3, { 1: 0, 3: 50 });
    const load = powerReport(show).loads[0];
    expect(load?.full_W).toBe(3000);
    // Cue 2: 1 tracks at full, 2 comes up.
    expect(load?.worst_W).toBe(1500);
    expect(load?.worstCue?.number).toBe(2000);
    expect(load?.capacity_W).toBe(2300);
    expect(load?.safe_W).toBeCloseTo(1840);
  });

  test('voltage and share change the limit; 400 V is three-phase', () => {
    const show = wired();
    apply(show, 'set-power', { voltage_V: 120, safety: 0.5 });
    expect(powerReport(show).loads[0]?.safe_W).toBe(600);
    apply(show, 'set-power', { voltage_V: 400, safety: 0.8 });
    expect(powerReport(show).loads[0]?.capacity_W).toBeCloseTo(6928.2, 1);
  });

  test('a limit on intensity is a limit on watts, preheat draws when dark, multi-patch draws twice, off the rig draws nothing', () => {
    const show = wired();
    const set = (fields: Record<string, unknown>): void =>
      void apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: fields }] });
    set({ transforms: { Dimmer: { min: 0.1, max: 0.5 } } });
    expect(powerReport(show).loads[0]?.full_W).toBe(2250 + 375);
    expect(powerReport(show).loads[0]?.worst_W).toBe(75);
    set({
      patch: [
        { universe: 1, address: 1 },
        { universe: 1, address: 90 },
      ],
    });
    expect(powerReport(show).loads[0]?.full_W).toBe(2250 + 750);
    set({ patch: [] });
    expect(powerReport(show).loads[0]?.full_W).toBe(2250);
  });

  test('a unit with another lamp draws its own watts, and the type’s again', () => {
    const show = exampleShow();
    const draws = (): number => powerReport(show).full_W;
    const before = draws();
    const type = show.types.get(show.fixtureByNumber(2)?.typeId ?? '');
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 2), set: { watts: 1200 } }] });
    expect(draws()).toBeCloseTo(before - (type?.watts ?? 0) + 1200, 5);
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 2), set: { watts: null } }] });
    expect(draws()).toBeCloseTo(before, 5);
    expect(
      refused(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 2), set: { watts: -1 } }] })
        .message,
    ).toBe('A unit draws no less than nothing.');
  });

  test('overloads are found: graver when a cue does it than when only everything at full would', () => {
    const show = wired();
    expect(
      rigFindings(show).find((f) => f.about === 'power' && f.text.includes('D1')),
    ).toMatchObject({ grave: false, text: expect.stringMatching(/with everything at full/) });
    cue(show, 1, { 1: 100, 2: 100, 3: 60 });
    expect(rigFindings(show).find((f) => f.text.includes('D1'))).toMatchObject({
      grave: false,
      text: expect.stringMatching(/in cue 1, over the safe/),
    });
    cue(show, 2, { 3: 100, 4: 100 });
    expect(rigFindings(show)[0]).toMatchObject({
      grave: true,
      text: expect.stringMatching(/in cue 2, over its 10 A breaker/),
    });
  });

  test('a deleted circuit lets its fixtures go', () => {
    const show = wired();
    apply(show, 'delete-circuit', { id: [...show.circuits.values()][0]?.id });
    expect(show.fixtureByNumber(1)?.circuitId).toBeUndefined();
  });
});

describe('findings', () => {
  test('heads that move while lit, and fades that are too short for the way', () => {
    const show = exampleShow();
    const pan = (number: number, dimmer: number, at: number, up_s: number): void =>
      void apply(show, 'record-cue', {
        listId: 'main',
        number,
        up_s,
        down_s: up_s,
        values: [
          { fixtureId: idOf(show, 101), attribute: 'Dimmer', level: dimmer },
          { fixtureId: idOf(show, 101), attribute: 'Pan', level: at },
        ],
      });
    pan(1000, 1, 0, 3);
    pan(2000, 0.8, 1, 1);
    const texts = rigFindings(show).map((f) => f.text);
    expect(texts).toContain('101 moves while lit in cue 2.');
    // 540° at 210°/s take 2.6 s.
    expect(texts).toContain('101 needs 2.6 s for the way in cue 2; its fade is 1 s.');
  });

  test('universes that are patched and not sent, groups without anybody', () => {
    const show = exampleShow();
    for (const route of [...show.routes.values()].filter((r) => r.universe === 2))
      apply(show, 'delete-route', { id: route.id });
    expect(rigFindings(show)[0]).toMatchObject({
      grave: true,
      text: 'Universe 2 is patched, but sent nowhere.',
    });
    apply(show, 'record-group', { name: 'Stern', fixtures: ids(show, 6) });
    apply(show, 'delete-fixtures', { ids: ids(show, 6) });
    expect(rigFindings(show).map((f) => f.text)).toContain('Group 1 “Stern” is empty.');
  });

  test('a finding that is meant is put aside with a word, and taken up again', () => {
    const show = exampleShow();
    apply(show, 'record-group', { number: 40, name: 'Empty', fixtures: [idOf(show, 2)] });
    apply(show, 'delete-fixtures', { ids: [idOf(show, 2)] });
    const [finding] = rigFindings(show);
    if (!finding) throw new Error('there is a group without anybody');
    expect(standing(show, rigFindings(show))).toContainEqual(finding);
    expect(refused(show, 'put-aside', { key: finding.key, word: ' ' }).message).toBe(
      'Say in a word why it is meant.',
    );
    apply(show, 'put-aside', { key: finding.key, word: 'filled on tour', text: finding.text });
    expect(standing(show, rigFindings(show)).map((f) => f.key)).not.toContain(finding.key);
    expect(show.settings.get('show')?.aside?.[finding.key]).toMatchObject({
      word: 'filled on tour',
    });
    apply(show, 'put-aside', { key: finding.key, word: null });
    expect(standing(show, rigFindings(show))).toContainEqual(finding);
    expect(show.settings.get('show')).not.toHaveProperty('aside');
  });

  test('a rig without oddities has no findings', () =>
    expect(rigFindings(exampleShow())).toEqual([]));
});

test('before a deletion, every cue and group that refers to the fixture is named', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 10, 2: 20 });
  cue(show, 2.5, { 1: 30 }, { name: 'Bell' });
  apply(show, 'record-group', { name: 'Bow', fixtures: ids(show, 1) });
  expect(usesOf(show, ids(show, 1))).toMatchObject({
    cues: [
      { label: '1', values: 1 },
      { label: '2.5 Bell', values: 1 },
    ],
    groups: [{ label: '1 Bow' }],
  });
});

test('universes have names, and lose them', () => {
  const show = exampleShow();
  apply(show, 'name-universe', { number: 2, name: 'Heads' });
  expect(show.universes.get('u2')?.name).toBe('Heads');
  apply(show, 'name-universe', { number: 2, name: '' });
  expect(show.universes.size).toBe(0);
  expect(refused(show, 'name-universe', { number: 257, name: 'x' }).message).toMatch(/256/);
});

test('2,000 units go in one edit, over universes', () => {
  const show = exampleShow();
  apply(show, 'patch-fixtures', {
    typeId: 'generic-rgbw',
    mode: 'RGBW',
    quantity: 2000,
    first: 1001,
    universe: 20,
    address: 1,
    overflow: true,
  });
  expect(show.fixtures.size).toBe(2012);
  expect(absolute(show.fixtureByNumber(3000)?.patch[0] ?? { universe: 0, address: 0 })).toBe(
    absolute({ universe: 20, address: 1 }) + 1999 * 4,
  );
});
