import { consequences } from '../cues/consequences.ts';
import { trackedAt } from '../cues/tracking.ts';
import { membersOf } from '../groups/members.ts';
import { slotKey } from '../cues/rows.ts';
import type { LookRow } from './rows.ts';
import type { MutableShow } from '../show/show.ts';
import { planReverse } from '../show/undo.ts';
import { isRefusal } from '../refusal.ts';
import { packShow, unpackShow } from '../formats/pack.ts';
import { apply, exampleShow, idOf, refused } from '../testing/example.ts';
import { lookSlots } from './resolve.ts';
import { effectOf, levelOf } from './value.ts';

const look = (show: MutableShow, number: number): LookRow => {
  const found = [...show.looks.values()].find((l) => l.number === number);
  if (!found) throw new Error(`no look ${number}`);
  return found;
};
const group = (show: MutableShow, name: string): string =>
  [...show.groups.values()].find((g) => g.name === name)?.id ?? '';
const level = (show: MutableShow, fixture: number, value: number, attribute = 'Dimmer') => ({
  kind: 'level',
  fixtureId: idOf(show, fixture),
  attribute,
  level: value,
});
const says = (
  show: MutableShow,
  number: number,
  fixture: number,
  attribute = 'Dimmer',
): number | undefined =>
  lookSlots(show, look(show, number).id).get(slotKey(idOf(show, fixture), attribute))?.level;
/** Records what a look says into a cue, following it. */
function follow(show: MutableShow, cue: number, number: number): void {
  const values = [...lookSlots(show, look(show, number).id).values()].map((s) => ({
    fixtureId: s.fixtureId,
    attribute: s.attribute,
    level: s.level ?? 0,
    look: look(show, number).id,
  }));
  apply(show, 'record-cue', { listId: 'main', number: cue * 1000, values });
}
const inCue = (
  show: MutableShow,
  cue: number,
  fixture: number,
  attribute = 'Dimmer',
): number | null => {
  const tracked = trackedAt(show, 'main', cue * 1000, slotKey(idOf(show, fixture), attribute));
  return tracked ? levelOf(show, tracked.value) : null;
};
const cueId = (show: MutableShow, cue: number): string =>
  show.cuesOf('main').find((c) => c.number === cue * 1000)?.id ?? '';

function house() {
  const show = exampleShow();
  apply(show, 'record-palette', { family: 'intensity', number: 1, any: { level: 0.4 } });
  apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1), idOf(show, 2)] });
  const palette = [...show.palettes.values()][0]?.id ?? '';
  apply(show, 'record-look', {
    name: 'Base',
    items: [{ kind: 'palette', palette, members: [group(show, 'Front')] }, level(show, 2, 0.9)],
  });
  apply(show, 'record-look', {
    name: 'Storm',
    items: [{ kind: 'look', look: look(show, 1).id }, level(show, 3, 0.2)],
  });
  return { show, palette };
}

describe('a look', () => {
  test('says palettes, levels and other looks in their order; what comes later wins', () => {
    const { show } = house();
    expect([1, 2, 3].map((n) => says(show, 2, n))).toEqual([0.4, 0.9, 0.2]);
  });

  test('in a cue by reference, a tweak of the look, of the look in it, of the palette in that reaches the cue; the consequences name it', () => {
    const { show, palette } = house();
    follow(show, 1, 2);
    const { changes } = apply(show, 'record-palette', {
      id: palette,
      family: 'intensity',
      any: { level: 0.7 },
    });
    expect(inCue(show, 1, 1)).toBe(0.7);
    show.apply(changes.map((c) => ({ ...c, before: c.after, after: c.before }) as never));
    expect(consequences(show, changes).map((c) => [c.number, c.slots])).toEqual([[1000, 1]]);
    apply(show, 'record-look', { id: look(show, 1).id, items: [level(show, 2, 0.1)] });
    expect(inCue(show, 1, 2)).toBe(0.1);
  });

  test('that takes in a fixture takes it into the cues that use it, and out of them again', () => {
    const { show } = house();
    follow(show, 1, 2);
    expect(inCue(show, 1, 4)).toBeNull();
    apply(show, 'record-look', { id: look(show, 2).id, items: [level(show, 4, 0.5)] });
    expect(inCue(show, 1, 4)).toBe(0.5);
    apply(show, 'record-look', {
      id: look(show, 2).id,
      how: 'replace',
      items: [level(show, 4, 0.6)],
    });
    expect([inCue(show, 1, 4), inCue(show, 1, 3)]).toEqual([0.6, null]);
  });

  test('grows with a group in it, cues and all, and one undo takes all of it back', () => {
    const { show } = house();
    follow(show, 1, 2);
    const { changes, summary } = apply(show, 'change-group', {
      id: group(show, 'Front'),
      set: { fixtures: [1, 2, 5].map((n) => idOf(show, n)) },
    });
    expect(inCue(show, 1, 5)).toBe(0.4);
    expect(summary).toMatch(/1 cue/);
    const back = planReverse(show, { rows: changes, summary }, []);
    if (isRefusal(back)) throw new Error(back.message);
    show.apply(back);
    expect(inCue(show, 1, 5)).toBeNull();
  });

  test('never holds itself, however far round', () => {
    const { show } = house();
    const [base, storm] = [look(show, 1), look(show, 2)];
    expect(
      refused(show, 'record-look', { id: base.id, items: [{ kind: 'look', look: storm.id }] }),
    ).toMatchObject({ code: 'loop', message: expect.stringContaining('through look 2 “Storm”') });
    expect(
      refused(show, 'record-look', { id: base.id, items: [{ kind: 'look', look: base.id }] }).code,
    ).toBe('loop');
  });

  test('is flattened into values for one cue, or freed of other looks; nothing looks different', () => {
    const { show, palette } = house();
    follow(show, 1, 2);
    const flat = apply(show, 'flatten-look', { id: look(show, 2).id, cueId: cueId(show, 1) });
    expect([1, 2, 3].map((n) => inCue(show, 1, n))).toEqual([0.4, 0.9, 0.2]);
    expect(flat.changes.every((c) => c.table === 'values' && c.after?.look === undefined)).toBe(
      true,
    );
    // The palette in it is still followed.
    apply(show, 'record-palette', { id: palette, family: 'intensity', any: { level: 0.3 } });
    expect(inCue(show, 1, 1)).toBe(0.3);
    apply(show, 'flatten-look', { id: look(show, 2).id });
    expect(look(show, 2).items.some((i) => i.kind === 'look')).toBe(false);
    expect([1, 2, 3].map((n) => says(show, 2, n))).toEqual([0.3, 0.9, 0.2]);
  });

  test('is broken away for one use: that cue has its own, the others go on together', () => {
    const { show } = house();
    follow(show, 1, 2);
    follow(show, 3, 2);
    apply(show, 'record-cue', {
      listId: 'main',
      number: 2000,
      values: [{ fixtureId: idOf(show, 3), attribute: 'Dimmer', level: 1 }],
    });
    follow(show, 3, 2);
    apply(show, 'own-look', { id: look(show, 2).id, cueId: cueId(show, 1) });
    apply(show, 'record-look', { id: look(show, 2).id, items: [level(show, 3, 0.8)] });
    expect([inCue(show, 1, 3), inCue(show, 3, 3)]).toEqual([0.2, 0.8]);
  });

  test('deleted, cues and looks keep what it said, or lose it on purpose', () => {
    const { show } = house();
    follow(show, 1, 2);
    const before = consequences(show, apply(show, 'delete-look', { id: look(show, 1).id }).changes);
    expect(before).toEqual([]);
    expect([1, 2, 3].map((n) => says(show, 2, n))).toEqual([0.4, 0.9, 0.2]);
    apply(show, 'delete-look', { id: look(show, 2).id, uses: 'remove' });
    expect(inCue(show, 1, 1)).toBeNull();
  });

  test('recorded from what is held keeps palettes, looks and effects as they are, for the group that they are on', () => {
    const { show, palette } = house();
    apply(show, 'add-standard-effects', {});
    const wave = [...show.effects.values()].find((e) => e.name === 'Wave');
    const held = [1, 2].map((n, i) => ({
      fixtureId: idOf(show, n),
      attribute: 'Dimmer',
      level: 0.4,
      palette,
      effect: { id: wave?.id ?? '', phase: i / 2, group: group(show, 'Front') },
    }));
    apply(show, 'record-look', { number: 5, name: 'Waves', values: held });
    expect(look(show, 5).items).toEqual([
      { kind: 'palette', palette, members: [group(show, 'Front')] },
      { kind: 'effect', effect: wave?.id, members: [group(show, 'Front')] },
    ]);
    expect(lookSlots(show, look(show, 5).id).get(slotKey(idOf(show, 2), 'Dimmer'))).toMatchObject({
      level: 0.4,
      effect: { phase: 0.5 },
    });
  });

  test('goes along when a unit’s type is swapped, and when its programming is copied', () => {
    const { show } = house();
    apply(show, 'record-look', {
      number: 9,
      name: 'Blue',
      items: [
        level(show, 11, 1, 'ColorAdd_B'),
        level(show, 11, 0, 'ColorAdd_R'),
        level(show, 11, 0, 'ColorAdd_G'),
        level(show, 11, 0, 'ColorAdd_W'),
        level(show, 11, 0.5),
      ],
    });
    follow(show, 1, 9);
    apply(show, 'swap-type', {
      ids: [idOf(show, 11)],
      typeId: 'aldersund-skerry',
      mode: 'Direct',
      address: 'next',
    });
    expect(says(show, 9, 11, 'ColorAdd_B')).toBeGreaterThan(0.5);
    expect([...show.values.values()].every((v) => v.look === look(show, 9).id)).toBe(true);
    apply(show, 'copy-programming', { from: idOf(show, 11), to: [idOf(show, 12)] });
    expect(says(show, 9, 12, 'ColorAdd_B')).toBeGreaterThan(0.5);
    expect(inCue(show, 1, 12)).toBe(0.5);
    apply(show, 'delete-fixtures', { ids: [idOf(show, 11)] });
    expect(
      look(show, 9).items.every((i) => i.kind !== 'level' || i.fixtureId === idOf(show, 12)),
    ).toBe(true);
  });
});

describe('effects in cues', () => {
  function running() {
    const { show } = house();
    apply(show, 'add-standard-effects', {});
    const effect = [...show.effects.values()].find((e) => e.name === 'Wave')?.id ?? '';
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [1, 2].map((n, i) => ({
        fixtureId: idOf(show, n),
        attribute: 'Dimmer',
        level: 0.5,
        effect: { id: effect, phase: i / 2, group: group(show, 'Front') },
      })),
    });
    return { show, effect };
  }
  const use = (show: MutableShow, fixture: number) => {
    const value = show.valuesOf(cueId(show, 1)).get(slotKey(idOf(show, fixture), 'Dimmer'));
    return value ? effectOf(show, value) : undefined;
  };

  test('a fixture that joins the group joins the effect, and all find their new places', () => {
    const { show, effect } = running();
    apply(show, 'change-group', {
      id: group(show, 'Front'),
      set: { fixtures: [1, 2, 3, 4].map((n) => idOf(show, n)) },
    });
    expect([1, 2, 3, 4].map((n) => use(show, n)?.phase)).toEqual([0, 0.25, 0.5, 0.75]);
    apply(show, 'change-group', { id: group(show, 'Front'), set: { fixtures: [idOf(show, 4)] } });
    expect([1, 4].map((n) => use(show, n))).toEqual([
      undefined,
      { id: effect, phase: 0, at: 0, of: 1, group: group(show, 'Front') },
    ]);
    expect(inCue(show, 1, 1)).toBe(0.5);
  });

  test('another speed or size is a consequence for the cues that run it; deleted, the levels stay', () => {
    const { show, effect } = running();
    const row = show.effects.get(effect);
    if (!row) throw new Error('no effect');
    const { id, ...set } = row;
    const { changes } = apply(show, 'set-effect', { id, set: { ...set, speed: { hz: 3 } } });
    show.apply(changes.map((c) => ({ ...c, before: c.after, after: c.before }) as never));
    expect(consequences(show, changes).map((c) => c.number)).toEqual([1000]);
    apply(show, 'delete-effect', { id });
    expect([use(show, 1), inCue(show, 1, 1)]).toEqual([undefined, 0.5]);
  });

  test('travel to a browser whole', () => {
    const { show } = running();
    const there = unpackShow(JSON.parse(JSON.stringify(packShow(show))));
    expect([...there.values.values()]).toEqual([...show.values.values()]);
    expect([...there.effects.values()]).toEqual([...show.effects.values()]);
  });
});

describe('groups', () => {
  test('hold other groups in their order, each fixture once', () => {
    const { show } = house();
    apply(show, 'record-group', {
      name: 'More',
      fixtures: [idOf(show, 6), group(show, 'Front'), idOf(show, 2)],
    });
    const more = show.groups.get(group(show, 'More'));
    expect(more && membersOf(show, more).map((id) => show.fixtures.get(id)?.number)).toEqual([
      6, 1, 2,
    ]);
  });

  test('never hold themselves', () => {
    const { show } = house();
    apply(show, 'record-group', { name: 'More', fixtures: [group(show, 'Front')] });
    expect(
      refused(show, 'change-group', {
        id: group(show, 'Front'),
        set: { fixtures: [group(show, 'More')] },
      }),
    ).toMatchObject({ code: 'loop', message: expect.stringContaining('through group 2 “More”') });
  });

  test('deleted, what holds them keeps their members', () => {
    const { show } = house();
    apply(show, 'record-group', { name: 'More', fixtures: [idOf(show, 6), group(show, 'Front')] });
    const { summary } = apply(show, 'delete-group', { id: group(show, 'Front') });
    expect(summary).toMatch(/group 2 More, look 1 Base keep its members/);
    expect(show.groups.get(group(show, 'More'))?.fixtures).toEqual(
      [6, 1, 2].map((n) => idOf(show, n)),
    );
    expect([1, 2].map((n) => says(show, 1, n))).toEqual([0.4, 0.9]);
  });

  test('a palette for a group serves who joins it', () => {
    const { show } = house();
    apply(show, 'record-palette', {
      number: 7,
      family: 'beam',
      scope: 'group',
      group: group(show, 'Front'),
      allFamilies: true,
      values: [1, 2].map((n) => ({ fixtureId: idOf(show, n), attribute: 'Dimmer', level: 0.33 })),
    });
    const palette = [...show.palettes.values()].find((p) => p.number === 7);
    expect(palette?.groups).toEqual({ [group(show, 'Front')]: { Dimmer: 0.33 } });
    apply(show, 'record-look', {
      number: 8,
      items: [{ kind: 'palette', palette: palette?.id, members: [idOf(show, 5)] }],
    });
    expect(says(show, 8, 5)).toBeUndefined();
    apply(show, 'change-group', {
      id: group(show, 'Front'),
      set: { fixtures: [1, 5].map((n) => idOf(show, n)) },
    });
    expect(says(show, 8, 5)).toBe(0.33);
  });
});
