import { aimUnit } from '../aim/unit.ts';
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { chromaticity, hueSaturation, kelvin } from '../color/mix.ts';
import { colourOf, colourParts } from '../color/unit-colour.ts';
import { consequences } from '../cues/consequences.ts';
import { stateAt } from '../cues/tracking.ts';
import { modeOf } from '../fixtures/points.ts';
import { packShow, unpackShow } from '../formats/pack.ts';
import type { MutableShow } from '../show/show.ts';
import { transformed } from '../rig/transform.ts';
import { referenceCounts } from '../looks/uses.ts';
import { fadersWith } from '../faders/holding.ts';
import { rigFindings } from '../rig/findings.ts';
import { apply, cue, exampleShow, idOf, refused, sheet } from '../testing/example.ts';
import { levelOf } from '../looks/value.ts';
import { paletteUses } from './edits.ts';
import { reachOf } from './resolve.ts';

const palette = (show: MutableShow, number: number) => {
  const found = [...show.palettes.values()].find((p) => p.number === number);
  if (!found) throw new Error(`no palette ${number}`);
  return found;
};
const reach = (show: MutableShow, number: number, fixture: number): Record<string, number> => {
  const row = show.fixtureByNumber(fixture);
  return row ? Object.fromEntries(reachOf(show, palette(show, number), row)) : {};
};
const record = (
  show: MutableShow,
  family: string,
  values: [number, string, number][],
  more: Record<string, unknown> = {},
) =>
  apply(show, 'record-palette', {
    family,
    values: values.map(([n, attribute, level]) => ({ fixtureId: idOf(show, n), attribute, level })),
    ...more,
  });
/** A cue in which units follow a palette. */
function follow(show: MutableShow, cue: number, number: number, ...fixtures: number[]): void {
  const values = fixtures.flatMap((n) =>
    Object.entries(reach(show, number, n)).map(([attribute, level]) => ({
      fixtureId: idOf(show, n),
      attribute,
      level,
      palette: palette(show, number).id,
    })),
  );
  apply(show, 'record-cue', { listId: 'main', number: cue * 1000, values });
}
const shows = (
  show: MutableShow,
  cue: number,
  fixture: number,
  attribute: string,
): number | null => {
  const tracked = stateAt(show, 'main', cue * 1000).get(`${idOf(show, fixture)}:${attribute}`);
  return tracked ? levelOf(show, tracked.value) : null;
};

describe('recording', () => {
  test('only its own family is taken, for the fixtures that are held', () => {
    const show = exampleShow();
    record(
      show,
      'intensity',
      [
        [1, 'Dimmer', 0.4],
        [101, 'Pan', 0.2],
      ],
      { name: 'Low' },
    );
    expect(palette(show, 1)).toMatchObject({
      name: 'Low',
      family: 'intensity',
      fixtures: { [idOf(show, 1)]: { Dimmer: 0.4 } },
    });
    expect(Object.keys(palette(show, 1).fixtures)).toEqual([idOf(show, 1)]);
    expect(
      refused(show, 'record-palette', {
        family: 'beam',
        values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 1 }],
      }).message,
    ).toMatch(/Nothing of beam is held/);
  });

  test('units that agree make it serve any other unit too; those that do not, do not', () => {
    const show = exampleShow();
    record(show, 'intensity', [
      [1, 'Dimmer', 0.4],
      [2, 'Dimmer', 0.4],
    ]);
    record(show, 'intensity', [
      [1, 'Dimmer', 0.4],
      [2, 'Dimmer', 0.9],
    ]);
    expect(reach(show, 1, 101)).toEqual({ Dimmer: 0.4 });
    expect(reach(show, 2, 101)).toEqual({});
    expect(reach(show, 2, 2)).toEqual({ Dimmer: 0.9 });
  });

  test('a colour of one unit becomes the same colour on unlike ones', () => {
    const show = exampleShow();
    record(show, 'colour', [
      [11, 'ColorAdd_R', 1],
      [11, 'ColorAdd_G', 0.25],
      [11, 'ColorAdd_B', 0],
      [11, 'ColorAdd_W', 0.1],
    ]);
    const seen = [11, 101].map((n) => {
      const fixture = show.fixtureByNumber(n);
      const type = fixture ? show.types.get(fixture.typeId) : undefined;
      const mode = fixture ? modeOf(show, fixture) : undefined;
      const part = type && mode ? colourParts(type, mode)[0] : undefined;
      const levels = reach(show, 1, n);
      return type && part ? chromaticity(colourOf(type, part, (a) => levels[a] ?? 0)) : undefined;
    });
    expect(seen[1]?.x).toBeCloseTo(seen[0]?.x ?? 0, 3);
    expect(seen[1]?.y).toBeCloseTo(seen[0]?.y ?? 0, 3);
    expect(reach(show, 1, 1)).toEqual({});
  });

  test('its own entry wins over its type, its type over what holds for any', () => {
    const show = exampleShow();
    apply(show, 'record-palette', { family: 'intensity', any: { level: 0.2 } });
    const row = palette(show, 1);
    show.apply([
      {
        table: 'palettes',
        id: row.id,
        before: row,
        after: {
          ...row,
          types: { 'generic-dimmer': { Dimmer: 0.5 } },
          fixtures: { [idOf(show, 2)]: { Dimmer: 0.8 } },
        },
      },
    ]);
    expect([1, 2, 101].map((n) => reach(show, 1, n).Dimmer)).toEqual([0.5, 0.8, 0.2]);
  });

  test('a stage point is aimed at from where each head hangs, and goes along when one is moved', () => {
    const show = exampleShow();
    apply(show, 'record-palette', { family: 'position', any: { point: { x: 0, y: 4, z: 1.6 } } });
    const [a, b] = [reach(show, 1, 101), reach(show, 1, 102)];
    expect(a.Pan).not.toBeCloseTo(b.Pan ?? 0, 2);
    apply(show, 'change-fixtures', {
      fixtures: [{ id: idOf(show, 101), set: { position: { x: 0, y: -3, z: 7 } } }],
    });
    expect(reach(show, 1, 101).Tilt).not.toBeCloseTo(a.Tilt ?? 0, 2);
    expect(reach(show, 1, 1)).toEqual({});
  });
});

test('limits are reckoned with when a head is aimed, and what lies past them is not reached', () => {
  const show = exampleShow();
  apply(show, 'record-palette', { family: 'position', any: { point: { x: 0, y: 4, z: 1.6 } } });
  const free = reach(show, 1, 101);
  const limit = (min: number, max: number): void =>
    void apply(show, 'change-fixtures', {
      fixtures: [{ id: idOf(show, 101), set: { transforms: { Tilt: { min, max } } } }],
    });
  limit(0.2, 0.8);
  // The level goes through the limits to the same angle.
  expect(transformed({ min: 0.2, max: 0.8 }, reach(show, 1, 101).Tilt ?? -1)).toBeCloseTo(
    free.Tilt ?? -2,
    5,
  );
  limit(0.95, 1);
  expect(reach(show, 1, 101)).toEqual({});
});

describe('following', () => {
  test('an updated palette changes every use, and the consequences say which before it is written', () => {
    const show = exampleShow();
    record(show, 'intensity', [
      [1, 'Dimmer', 0.4],
      [2, 'Dimmer', 0.4],
    ]);
    follow(show, 1, 1, 1, 2);
    follow(show, 3, 1, 2);
    const { changes } = record(
      show,
      'intensity',
      [
        [1, 'Dimmer', 0.9],
        [2, 'Dimmer', 0.9],
      ],
      { id: palette(show, 1).id },
    );
    expect(shows(show, 1, 1, 'Dimmer')).toBe(0.9);
    show.apply(changes.map((c) => ({ ...c, before: c.after, after: c.before }) as never));
    expect(consequences(show, changes).map((c) => [c.number, c.slots])).toEqual([
      [1000, 2],
      [3000, 2],
    ]);
    expect(shows(show, 1, 1, 'Dimmer')).toBe(0.4);
  });

  test('deleted, what followed it keeps the level that it had: no cue looks different', () => {
    const show = exampleShow();
    record(show, 'intensity', [[1, 'Dimmer', 0.4]]);
    follow(show, 1, 1, 1, 3);
    record(show, 'intensity', [[1, 'Dimmer', 0.7]], { id: palette(show, 1).id, how: 'replace' });
    expect(
      consequences(show, apply(show, 'delete-palette', { id: palette(show, 1).id }).changes),
    ).toEqual([]);
    expect([shows(show, 1, 1, 'Dimmer'), shows(show, 1, 3, 'Dimmer')]).toEqual([0.7, 0.7]);
    expect([...show.values.values()].every((v) => v.palette === undefined)).toBe(true);
  });

  test('whatever a palette says, its fixtures show that and nothing else', () => {
    fc.assert(
      fc.property(evenly(0, 1), evenly(0, 1), (first, then) => {
        const show = exampleShow();
        record(show, 'intensity', [[1, 'Dimmer', first]]);
        follow(show, 1, 1, 1, 4);
        record(show, 'intensity', [[1, 'Dimmer', then]], {
          id: palette(show, 1).id,
          how: 'replace',
        });
        return (
          shows(show, 1, 1, 'Dimmer') === then &&
          shows(show, 1, 4, 'Dimmer') === then &&
          shows(show, 1, 2, 'Dimmer') === null
        );
      }),
      { numRuns: 40 },
    );
  });

  test('it travels to a browser with the rest of the show', () => {
    const show = exampleShow();
    record(show, 'intensity', [[1, 'Dimmer', 0.4]]);
    follow(show, 1, 1, 1);
    const there = unpackShow(JSON.parse(JSON.stringify(packShow(show))));
    expect([...there.values.values()]).toEqual([...show.values.values()]);
    expect([...there.palettes.values()]).toEqual([...show.palettes.values()]);
  });

  test('a palette that is gone cannot be recorded into a cue', () => {
    const show = exampleShow();
    expect(
      refused(show, 'record-cue', {
        listId: 'main',
        number: 1000,
        values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 1, palette: 'gone' }],
      }).message,
    ).toMatch(/palette in the programmer has been deleted/);
  });
});

describe('palettes and the rig', () => {
  test('a swapped unit goes on following its palettes, in the new type’s attributes', () => {
    const show = exampleShow();
    apply(show, 'record-palette', {
      family: 'colour',
      name: 'Dusk',
      any: { colour: hueSaturation(262, 0.4) },
    });
    follow(show, 1, 1, 11);
    const { summary } = apply(show, 'swap-type', {
      ids: [idOf(show, 11)],
      typeId: 'aldersund-skerry',
      mode: 'Direct',
      address: 'next',
    });
    expect(summary).not.toMatch(/dropped/);
    const values = [...show.values.values()];
    expect(values.map((v) => v.attribute).sort()).toEqual([
      'ColorAdd_B',
      'ColorAdd_C',
      'ColorAdd_GY',
      'ColorAdd_R',
      'ColorAdd_RY',
    ]);
    expect(new Set(values.map((v) => v.palette))).toEqual(new Set([palette(show, 1).id]));
    apply(show, 'record-palette', {
      id: palette(show, 1).id,
      family: 'colour',
      any: { colour: kelvin(3000) },
    });
    expect(shows(show, 1, 11, 'ColorAdd_RY')).toBeCloseTo(reach(show, 1, 11).ColorAdd_RY ?? -1, 5);
  });

  test('a palette’s own entry of a swapped unit is said in the new attributes', () => {
    const show = exampleShow();
    record(show, 'position', [
      [101, 'Pan', 0.75],
      [101, 'Tilt', 0.5],
      [102, 'Pan', 0.1],
      [102, 'Tilt', 0.5],
    ]);
    apply(show, 'swap-type', {
      ids: [idOf(show, 101)],
      typeId: 'generic-mirror',
      mode: '16 bit',
      address: 'next',
    });
    // 135° is past the mirror’s 90°.
    expect(palette(show, 1).fixtures[idOf(show, 101)]).toEqual({ Pan: 1, Tilt: 0.5 });
    expect(palette(show, 1).fixtures[idOf(show, 102)]).toEqual({ Pan: 0.1, Tilt: 0.5 });
  });

  test('copied programming follows the same palettes, and the palettes learn the others', () => {
    const show = exampleShow();
    record(show, 'position', [
      [101, 'Pan', 0.75],
      [101, 'Tilt', 0.25],
    ]);
    follow(show, 1, 1, 101);
    apply(show, 'copy-programming', { from: idOf(show, 101), to: [idOf(show, 102)] });
    expect(reach(show, 1, 102)).toEqual({ Pan: 0.75, Tilt: 0.25 });
    expect(shows(show, 1, 102, 'Pan')).toBe(0.75);
    expect([...show.values.values()].every((v) => v.palette === palette(show, 1).id)).toBe(true);
  });

  test('a deleted fixture leaves the palettes that knew it', () => {
    const show = exampleShow();
    record(show, 'intensity', [
      [1, 'Dimmer', 0.4],
      [2, 'Dimmer', 0.5],
    ]);
    apply(show, 'delete-fixtures', { ids: [idOf(show, 1)] });
    expect(Object.keys(palette(show, 1).fixtures)).toEqual([idOf(show, 2)]);
  });

  test('patching makes the standard palettes of what the units can do, once', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-wash',
      mode: '8 bit',
      quantity: 2,
      first: 50,
      palettes: true,
    });
    expect(new Set([...show.palettes.values()].map((p) => p.family))).toEqual(
      new Set(['intensity', 'colour', 'position']),
    );
    const count = show.palettes.size;
    expect(Object.keys(reach(show, 3, 50)).length).toBeGreaterThan(0);
    apply(show, 'patch-fixtures', {
      typeId: 'generic-wash',
      mode: '8 bit',
      quantity: 1,
      first: 60,
      palettes: true,
    });
    expect(show.palettes.size).toBe(count);
    expect(new Set([...show.palettes.values()].map((p) => p.number)).size).toBe(count);
  });
});

describe('for whom a palette is kept', () => {
  test('for a type: units of it that come later have it, and one entry of a unit’s own no longer hides it', () => {
    const show = exampleShow();
    apply(show, 'record-palette', {
      family: 'intensity',
      number: 1,
      values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.2 }],
    });
    const row = [...show.palettes.values()][0];
    apply(show, 'record-palette', {
      id: row?.id,
      family: 'intensity',
      scope: 'types',
      values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.6 }],
    });
    expect([1, 6].map((n) => reach(show, 1, n).Dimmer)).toEqual([0.6, 0.6]);
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 40,
    });
    expect(reach(show, 1, 40).Dimmer).toBe(0.6);
    expect(
      refused(show, 'record-palette', {
        family: 'intensity',
        scope: 'types',
        values: [
          [1, 0.1],
          [2, 0.9],
        ].map(([n, level]) => ({ fixtureId: idOf(show, n ?? 0), attribute: 'Dimmer', level })),
      }).message,
    ).toMatch(/Units of one type differ/);
  });

  test('for any unit a position is the point where the beams meet, solved again wherever a head hangs', () => {
    const show = exampleShow();
    const point = { x: 0.4, y: 4.2, z: 1.5 };
    const values = [101, 102].flatMap((n) => {
      const fixture = show.fixtureByNumber(n);
      const mode = fixture ? modeOf(show, fixture) : undefined;
      const type = show.types.get(fixture?.typeId ?? '');
      const turn = fixture && mode && type ? aimUnit({ fixture, mode, type }, point) : undefined;
      return turn && fixture
        ? [
            { fixtureId: fixture.id, attribute: 'Pan', level: turn.Pan },
            { fixtureId: fixture.id, attribute: 'Tilt', level: turn.Tilt },
          ]
        : [];
    });
    apply(show, 'record-palette', { family: 'position', scope: 'any', name: 'Bow', values });
    const row = [...show.palettes.values()][0];
    expect(row?.any?.point?.x).toBeCloseTo(point.x, 1);
    expect(row?.any?.point?.z).toBeCloseTo(point.z, 1);
    expect(row?.fixtures).toEqual({});
    const apart = [
      ...values.slice(0, 2),
      { fixtureId: idOf(show, 102), attribute: 'Pan', level: 0.1 },
      { fixtureId: idOf(show, 102), attribute: 'Tilt', level: 0.9 },
    ];
    expect(
      refused(show, 'record-palette', { family: 'position', scope: 'any', values: apart }).message,
    ).toMatch(/do not meet in one point/);
  });

  test('a white point is solved for each unit’s emitters', () => {
    const show = exampleShow();
    apply(show, 'record-palette', { family: 'colour', name: 'House white', any: { kelvin: 3200 } });
    const fixture = show.fixtureByNumber(11);
    const type = fixture ? show.types.get(fixture.typeId) : undefined;
    const mode = fixture ? modeOf(show, fixture) : undefined;
    const part = type && mode ? colourParts(type, mode)[0] : undefined;
    const levels = reach(show, 1, 11);
    const at = type && part ? chromaticity(colourOf(type, part, (a) => levels[a] ?? 0)) : undefined;
    expect(at?.x).toBeCloseTo(kelvin(3200).x, 3);
  });

  test('other families come along only when that is asked for', () => {
    const show = exampleShow();
    const values = [
      { fixtureId: idOf(show, 101), attribute: 'Dimmer', level: 1 },
      { fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.3 },
    ];
    apply(show, 'record-palette', { family: 'position', values });
    expect(reach(show, 1, 101)).toEqual({ Pan: 0.3 });
    apply(show, 'record-palette', { family: 'position', values, allFamilies: true });
    expect(reach(show, 2, 101)).toEqual({ Dimmer: 1, Pan: 0.3 });
  });

  test('deleted with its uses taken out, cues show what tracked before', () => {
    const show = exampleShow();
    record(show, 'intensity', [[1, 'Dimmer', 0.4]]);
    cue(show, 1, { 1: 80 });
    follow(show, 2, 1, 1);
    apply(show, 'delete-palette', { id: palette(show, 1).id, uses: 'remove' });
    expect(shows(show, 2, 1, 'Dimmer')).toBe(0.8);
  });
});

describe('who uses a palette', () => {
  const house = (): MutableShow => {
    const show = exampleShow();
    cue(show, 1, { 1: 50 });
    record(show, 'position', [[101, 'Tilt', 0.8]], { name: 'Roof' });
    return show;
  };
  const counted = (show: MutableShow): string[] =>
    Object.entries(referenceCounts(show)).flatMap(([where, of]) =>
      of.has(palette(show, 1).id) ? [`${of.get(palette(show, 1).id)} ${where}`] : [],
    );
  const idle = (show: MutableShow): boolean =>
    rigFindings(show).some((f) => f.key === 'idle-palettes' && f.text.includes('Roof'));
  const labels = (show: MutableShow): string[] =>
    paletteUses(show, palette(show, 1).id).map((u) => u.label);

  test('nobody does: it is told, and it goes', () => {
    const show = house();
    expect([idle(show), labels(show), counted(show)]).toEqual([true, [], []]);
    apply(show, 'delete-palette', { id: palette(show, 1).id });
    expect(show.palettes.size).toBe(0);
  });

  test('a step of an effect does', () => {
    const show = house();
    const step = { level: 0.1, share: 1, palette: palette(show, 1).id };
    apply(show, 'set-effect', {
      set: {
        name: 'Rise',
        tracks: [
          {
            attribute: 'Tilt',
            wave: 'steps',
            mode: 'absolute',
            size: 1,
            base: 0,
            width: 1,
            offset: 0,
            steps: [step, { level: 0.3, share: 1 }, step],
          },
        ],
        speed: { round_s: 3 },
        direction: 'forward',
        spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
      },
    });
    expect([idle(show), counted(show)]).toEqual([false, ['1 effects']]);
    expect(paletteUses(show, palette(show, 1).id)).toEqual([
      { label: expect.stringMatching(/^effect \d+ Rise$/), values: 2 },
    ]);
  });

  test('a fader does, which has to hold something else before it goes', () => {
    const show = house();
    const { id } = palette(show, 1);
    apply(show, 'set-fader', {
      set: { name: 'Up', holds: { kind: 'palette', id }, mode: 'proportional', flash: 'full' },
    });
    expect([idle(show), counted(show)]).toEqual([false, ['1 faders']]);
    const [fader] = show.faders.values();
    expect(fadersWith(show, 'palette', id)).toEqual([`fader ${fader?.number} Up`]);
    expect(fadersWith(show, 'look', id)).toEqual([]);
    expect(refused(show, 'delete-palette', { id }).message).toContain('uses it now');
  });

  test('a tile of a sheet does', () => {
    const show = house();
    sheet(show, 'Sunday', [
      { kind: 'tile', of: 'palette', id: palette(show, 1).id, press: 'play' },
    ]);
    expect(idle(show)).toBe(false);
  });
});
