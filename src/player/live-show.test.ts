/** A live show on a simulated clock: the player's decisions and the engine's arithmetic together, without threads. */
import type { MutableShow } from '../core/show/show.ts';
import { cue, exampleShow, idOf } from '../core/testing/example.ts';
import type { SavedShow } from './saved-show.ts';
import { desk, iden, mara, tam, yrsa } from './simulated-desk.ts';

function threeCues(): MutableShow {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 20 }, { up_s: 0, down_s: 0 });
  cue(show, 2, { 1: 100 }, { up_s: 4, down_s: 4 });
  cue(show, 3, { 1: 0, 3: 70 }, { up_s: 2, down_s: 6 });
  return show;
}

describe('playing', () => {
  test('GO goes through the list, and says where every level comes from', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'go' });
    expect([d.level(1), d.source(1)]).toEqual([0.5, 'cue 1']);
    d.pass(0.1);
    d.say(mara, { command: 'go' });
    d.pass(2);
    expect(d.level(1)).toBeCloseTo(0.75, 1);
    expect(d.source(2)).toBe('tracks from cue 1');
    expect(d.list()).toMatchObject({ cueNumber: 2000, total_s: 4, running: true });
    expect(d.source(6)).toBe('default');
  });

  test('GO at the end, on an empty list, and back at the start are refused and change nothing', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'goto', cue: '3', time: 0 });
    expect(d.say(mara, { command: 'go' })).toMatchObject({ code: 'end' });
    expect(d.list()?.cueNumber).toBe(3000);
    const empty = desk();
    expect(empty.say(mara, { command: 'go' })).toMatchObject({
      code: 'end',
      message: expect.stringContaining('no cues yet'),
    });
    expect(empty.say(mara, { command: 'back' })).toMatchObject({ code: 'end' });
    expect(d.say(mara, { command: 'goto', cue: '2.5.5' })).toMatchObject({ code: 'invalid' });
    expect(d.say(mara, { command: 'goto', cue: '9' })).toMatchObject({ code: 'not-found' });
  });

  test('two GOs 5 ms apart by one hand are one, and say so; a hand that means it can go on soon', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'go' });
    d.pass(0.005);
    expect(d.say(mara, { command: 'go' })).toMatchObject({
      refused: true,
      code: 'twice',
      message: 'Two GOs within 80 ms are taken as one: the list went on once.',
    });
    expect(d.list()?.cueNumber).toBe(1000);
    d.pass(0.1);
    d.say(mara, { command: 'go' });
    expect(d.list()?.cueNumber).toBe(2000);
  });

  test('back goes to the full state of the cue before, in the list’s back time', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'goto', cue: '3', time: 0 });
    expect([d.level(1), d.level(3)]).toEqual([0, expect.closeTo(0.7, 5)]);
    d.say(mara, { command: 'back' });
    d.pass(1);
    expect(d.level(3)).toBeCloseTo(0.35, 1);
    d.pass(1.1);
    expect([d.level(1), d.level(2), d.level(3)]).toEqual([1, expect.closeTo(0.2, 5), 0]);
  });

  test('a follow goes by itself, and a pause holds it', () => {
    const show = threeCues();
    const first = show.cuesOf('main')[0];
    const d = desk(show);
    d.edit(mara, 'change-cue', { id: first?.id, set: { follow_s: 2 } });
    d.say(mara, { command: 'go' });
    d.pass(1);
    d.say(mara, { command: 'pause' });
    d.pass(5);
    expect(d.list()).toMatchObject({ cueNumber: 1000, paused: true });
    d.say(mara, { command: 'pause' });
    d.pass(1.2);
    expect(d.list()?.cueNumber).toBe(2000);
  });
});

describe('roles and the board', () => {
  test('a viewer plays and sets nothing', () => {
    const d = desk(threeCues());
    for (const command of [
      { command: 'go' },
      { command: 'clear' },
      { command: 'master', level: 0 },
      { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1 },
    ] as const) {
      expect(
        d.say(iden, { ...command, ...('fixtures' in command ? { fixtures: [1] } : {}) } as never),
      ).toMatchObject({ code: 'forbidden' });
    }
    expect(d.level(1)).toBe(0);
  });

  test('who plays first has the board; others may go on programming, and play only when it is given, taken by an owner, or free', () => {
    const d = desk(threeCues());
    d.here.add('mara').add('tam').add('yrsa');
    d.say(mara, { command: 'go' });
    expect(d.say(tam, { command: 'go' })).toMatchObject({
      code: 'board',
      message: 'Mara Kell is on the board. Ask for it.',
    });
    expect(
      d.say(tam, { command: 'set', fixtures: [6], attribute: 'Dimmer', level: 1 }),
    ).toMatchObject({ ok: true });
    expect(d.say(tam, { command: 'board', do: 'take' })).toMatchObject({ code: 'board' });
    expect(d.say(yrsa, { command: 'board', do: 'take' })).toMatchObject({ ok: true });
    expect(d.say(mara, { command: 'go' })).toMatchObject({
      code: 'board',
      message: expect.stringContaining('Yrsa Oddny'),
    });
    expect(d.say(yrsa, { command: 'go' })).toMatchObject({ ok: true });
  });
});

describe('recording', () => {
  const hold = (d: ReturnType<typeof desk>, fixture: number, level: number): unknown =>
    d.say(mara, { command: 'set', fixtures: [fixture], attribute: 'Dimmer', level });
  const record = (d: ReturnType<typeof desk>, number: number): void =>
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number,
      up_s: 5,
      values: d.live
        .held('mara')
        .values.map(({ fixtureId, attribute, level }) => ({ fixtureId, attribute, level })),
    });

  test('into the next cue: the list stands in it, the programmer is free, the stage does not change', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'goto', cue: '1', time: 0 });
    hold(d, 5, 0.8);
    expect(d.source(5)).toBe('programmer of Mara Kell');
    record(d, 1500);
    expect(d.level(5)).toBeCloseTo(0.8, 5);
    expect(d.live.held('mara').values).toEqual([]);
    expect([d.list()?.cueNumber, d.source(5)]).toEqual([1500, 'cue 1.5']);
    d.pass(1);
    expect(d.level(5)).toBeCloseTo(0.8, 5);
  });

  test('into a cue elsewhere: the values stay held, marked as recorded, and the stage does not change', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'goto', cue: '1', time: 0 });
    hold(d, 5, 0.8);
    record(d, 9000);
    expect(d.list()?.cueNumber).toBe(1000);
    expect(d.level(5)).toBeCloseTo(0.8, 5);
    expect(d.live.held('mara').values).toMatchObject([{ recorded: true }]);
  });

  test('an edit that tracks into the cue on stage shows at once; a running fade ends at the new value', () => {
    const show = threeCues();
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '1', time: 0 });
    d.say(mara, { command: 'go' });
    d.pass(2);
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [{ fixtureId: idOf(show, 2), attribute: 'Dimmer', level: 0.9 }],
    });
    expect(d.level(2)).toBeCloseTo(0.9, 5);
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number: 2000,
      values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.6 }],
    });
    d.pass(3);
    expect(d.level(1)).toBeCloseTo(0.6, 5);
  });

  test('the cue on stage deleted: levels stay, and GO goes on from its place', () => {
    const show = threeCues();
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '2', time: 0 });
    d.edit(mara, 'delete-cue', { id: show.cuesOf('main')[1]?.id });
    expect(d.list()).toMatchObject({ cueId: null, cueNumber: 2000 });
    d.say(mara, { command: 'go' });
    expect(d.list()?.cueNumber).toBe(3000);
  });

  test('a deleted fixture leaves programmers and selections; others keep theirs', () => {
    const d = desk(threeCues());
    hold(d, 5, 0.8);
    hold(d, 6, 0.4);
    d.say(mara, { command: 'select', fixtures: [idOf(d.show, 5), idOf(d.show, 6)] });
    d.edit(mara, 'delete-fixtures', { ids: [idOf(d.show, 5)] });
    expect(d.live.held('mara')).toMatchObject({
      values: [{ level: 0.4 }],
      selection: [idOf(d.show, 6)],
    });
    expect(d.level(6)).toBeCloseTo(0.4, 5);
  });
});

test('what plays is saved at once on GO, and another player goes on in the middle of it', async () => {
  const d = desk(threeCues());
  d.say(mara, { command: 'go' });
  d.pass(0.1);
  d.say(mara, { command: 'go' });
  expect(d.urgencies).toContain('now');
  d.say(mara, { command: 'set', fixtures: [6], attribute: 'Dimmer', level: 0.33 });
  d.say(mara, { command: 'master', level: 0.9 });
  d.pass(1);
  const before = [1, 2, 6].map((n) => d.level(n));
  const saved = JSON.parse(JSON.stringify(await d.live.saved())) as SavedShow;
  const other = desk(d.show, saved);
  expect([1, 2, 6].map((n) => other.level(n))).toEqual(before.map((l) => expect.closeTo(l, 4)));
  expect(other.list()).toMatchObject({ cueNumber: 2000, total_s: 4 });
  expect(other.live.held('mara').values).toMatchObject([{ level: 0.33, recorded: false }]);
  d.pass(1);
  other.pass(1);
  expect(other.level(1)).toBeCloseTo(d.level(1), 3);
});

test('values for attributes that a fixture lacks are left out with a word; unknown fixtures change nothing', () => {
  const d = desk();
  expect(
    d.say(mara, { command: 'set', fixtures: [1, 101], attribute: 'Pan', level: 0.3 }),
  ).toMatchObject({ ok: true, message: expect.stringContaining('1 left out: no pan') });
  expect(
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Pan', level: 0.3 }),
  ).toMatchObject({ code: 'not-found' });
  expect(
    d.say(mara, { command: 'set', fixtures: [1, 999], attribute: 'Dimmer', level: 1 }),
  ).toMatchObject({ code: 'not-found' });
  expect(d.level(1)).toBe(0);
});

describe('palettes on stage', () => {
  const values = (show: MutableShow, level: number) =>
    [1, 2].map((n) => ({ fixtureId: idOf(show, n), attribute: 'Dimmer', level }));

  test('applied, they are held; recorded, the cue follows them; updated, stage and programmer go along', () => {
    const d = desk();
    d.edit(mara, 'record-palette', {
      family: 'intensity',
      name: 'Low',
      values: values(d.show, 0.3),
    });
    const id = [...d.show.palettes.keys()][0] ?? '';
    d.say(mara, { command: 'palette', palette: id, fixtures: [1, 2, 5] });
    expect([1, 2, 5].map((n) => d.level(n))).toEqual([1, 1, 1].map(() => expect.closeTo(0.3)));
    expect(d.live.held('mara').values.every((v) => v.palette === id)).toBe(true);
    const held = d.live.held('mara').values.map(({ fixtureId, attribute, level, palette }) => ({
      fixtureId,
      attribute,
      level,
      palette,
    }));
    d.edit(mara, 'record-cue', { listId: 'main', number: 1000, values: held });
    d.pass(0.1);
    expect(d.source(1)).toBe('cue 1, palette 1 Low');
    d.say(tam, { command: 'palette', palette: id, fixtures: [3] });
    d.edit(mara, 'record-palette', { id, family: 'intensity', values: values(d.show, 0.8) });
    d.pass(0.1);
    expect([1, 5, 3].map((n) => d.level(n))).toEqual([1, 1, 1].map(() => expect.closeTo(0.8)));
    expect(d.level(4)).toBe(0);
  });

  test('units that it says nothing for are named, and nothing is set when it reaches none', () => {
    const d = desk();
    d.edit(mara, 'record-palette', {
      family: 'colour',
      name: 'Dusk',
      any: { colour: { x: 0.25, y: 0.2 } },
    });
    const id = [...d.show.palettes.keys()][0] ?? '';
    expect(d.say(mara, { command: 'palette', palette: id, fixtures: [1, 11] })).toMatchObject({
      ok: true,
      message: 'Palette 1 does not reach 1.',
    });
    expect(d.say(mara, { command: 'palette', palette: id, fixtures: [1] })).toMatchObject({
      refused: true,
      message: expect.stringMatching(/says nothing for 1/),
    });
    expect(d.say(iden, { command: 'palette', palette: id, fixtures: [11] })).toMatchObject({
      refused: true,
      code: 'forbidden',
    });
  });

  test('values that a palette was recorded from follow it from then on', () => {
    const d = desk();
    d.say(mara, { command: 'set', fixtures: [1, 2], attribute: 'Dimmer', level: 0.5 });
    d.edit(mara, 'record-palette', { family: 'intensity', values: values(d.show, 0.5) });
    expect(d.live.held('mara').values.every((v) => v.palette !== undefined)).toBe(true);
  });

  test('a deleted palette leaves what is held as it is', () => {
    const d = desk();
    d.edit(mara, 'record-palette', { family: 'intensity', values: values(d.show, 0.5) });
    const id = [...d.show.palettes.keys()][0] ?? '';
    d.say(mara, { command: 'palette', palette: id, fixtures: [1] });
    d.edit(mara, 'delete-palette', { id });
    d.pass(0.1);
    expect(d.level(1)).toBeCloseTo(0.5);
    expect(d.live.held('mara').values[0]?.palette).toBeUndefined();
  });
});

/** A desk with a strip of four cells as unit 60, in universe 9. */
function withStrip(): ReturnType<typeof desk> {
  const d = desk();
  d.edit(mara, 'patch-fixtures', {
    typeId: 'generic-strip',
    mode: '4 cells RGB',
    quantity: 1,
    first: 60,
    universe: 9,
    address: 1,
  });
  return d;
}

describe('the rig changes under what plays', () => {
  test('a label or a place on the plan leaves slots and levels alone; an address does not move a level', () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'go' });
    d.pass(4);
    const version = d.live.version;
    d.edit(mara, 'change-fixtures', {
      fixtures: [{ id: idOf(d.show, 1), set: { label: 'Bow', hang: 'Bar 2' } }],
    });
    expect(d.live.version).toBe(version);
    const before = d.level(1);
    d.edit(mara, 'move-fixtures', { ids: [idOf(d.show, 1)], to: { universe: 3, address: 9 } });
    d.pass(0.1);
    expect(d.live.version).toBe(version + 1);
    expect(d.level(1)).toBe(before);
    expect(d.live.bytesOf(3)?.[8]).toBe(Math.round(before * 255));
  });

  test('a universe that is only routed has bytes, and where they come from is told by address', () => {
    const d = desk(threeCues());
    d.edit(mara, 'set-route', {
      set: {
        universe: 40,
        protocol: 'sacn',
        destination: 'multicast',
        wire: 40,
        priority: 100,
        on: true,
      },
    });
    expect(d.say(mara, { command: 'check', universe: 40, address: 5, value: 99 })).toMatchObject({
      ok: true,
    });
    d.pass(0.1);
    expect(d.live.bytesOf(40)?.[4]).toBe(99);
    expect(d.live.sourcesOf(40)).toEqual([{ from: 5, to: 5, text: 'address check by Mara Kell' }]);
    d.live.personLeft('mara');
    d.pass(0.1);
    expect(d.live.bytesOf(40)?.[4]).toBe(0);
  });

  test('a byte that two things make says both, and one thing once', () => {
    const d = withStrip();
    d.edit(mara, 'set-route', {
      set: {
        universe: 9,
        protocol: 'sacn',
        destination: 'multicast',
        wire: 9,
        priority: 100,
        on: true,
      },
    });
    d.say(mara, { command: 'set', fixtures: [60], attribute: 'Dimmer', level: 0.5 });
    d.pass(0.1);
    const texts = (): string[] => d.live.sourcesOf(9).map((s) => `${s.from}–${s.to} ${s.text}`);
    expect(texts()).toEqual(['1–12 default, intensity from programmer of Mara Kell']);
    d.say(mara, { command: 'set', fixtures: [60], attribute: 'ColorAdd_R@2', level: 1 });
    d.pass(0.1);
    expect(texts()).toEqual([
      '1–3 default, intensity from programmer of Mara Kell',
      '4–4 programmer of Mara Kell',
      '5–12 default, intensity from programmer of Mara Kell',
    ]);
  });

  test('what is parked stays parked through a change of patch and a restart', async () => {
    const d = desk(threeCues());
    d.say(mara, { command: 'park', fixtures: [1], level: 0.6, on: true });
    d.edit(mara, 'move-fixtures', { ids: [idOf(d.show, 2)], to: { universe: 3, address: 9 } });
    d.say(mara, { command: 'go' });
    d.pass(5);
    expect(d.level(1)).toBeCloseTo(0.6);
    const again = desk(d.show, JSON.parse(JSON.stringify(await d.live.saved())) as SavedShow);
    again.pass(0.1);
    expect(again.level(1)).toBeCloseTo(0.6);
    expect(again.source(1)).toBe('parked by Mara Kell');
  });

  test('what is held of a unit is said in its new type’s attributes when it is swapped, and stays unrecorded', () => {
    const d = desk();
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Dimmer', level: 0.7 });
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Pan', level: 0.75 });
    for (const [attribute, level] of [
      ['ColorAdd_R', 1],
      ['ColorAdd_G', 0],
      ['ColorAdd_B', 0],
      ['ColorAdd_W', 0],
    ] as const)
      d.say(mara, { command: 'set', fixtures: [101], attribute, level });
    d.edit({ ...tam, role: 'programmer' }, 'swap-type', {
      ids: [idOf(d.show, 101)],
      typeId: 'generic-strip',
      mode: '4 cells RGB',
      address: 'next',
    });
    d.pass(0.1);
    expect(d.level(101)).toBeCloseTo(0.7);
    expect(d.level(101, 'ColorAdd_R@3')).toBeCloseTo(1);
    expect(
      d.live.held('mara').values.every((v) => !v.recorded && !v.attribute.startsWith('Pan')),
    ).toBe(true);
  });

  test('an attribute of the whole unit sets every cell that has it', () => {
    const d = withStrip();
    d.say(mara, { command: 'set', fixtures: [60], attribute: 'ColorAdd_G', level: 0.25 });
    expect([1, 2, 3, 4].map((n) => d.level(60, `ColorAdd_G@${n}`))).toEqual(
      [1, 1, 1, 1].map(() => 0.25),
    );
  });
});

test('kept while somebody presses GO, the list and what plays are of one moment: after a restart no cue is left out', async () => {
  const show = exampleShow();
  cue(show, 1, { 1: 100 }, { up_s: 0, down_s: 0 });
  cue(show, 2, { 2: 100 }, { up_s: 1, down_s: 1 });
  const d = desk(show);
  d.say(mara, { command: 'go' });
  d.pass(1);
  // The clock has answered already when GO comes, and the answer is still under way.
  const kept = d.live.saved();
  d.say(mara, { command: 'go' });
  const other = desk(show, JSON.parse(JSON.stringify(await kept)) as SavedShow);
  other.pass(1.2);
  expect([other.list()?.cueNumber, other.level(2)]).toEqual([2000, 1]);
  // Nor does anything stay that was released.
  const later = d.live.saved();
  d.say(mara, { command: 'release', time: 0 });
  const empty = desk(show, JSON.parse(JSON.stringify(await later)) as SavedShow);
  empty.pass(0.1);
  expect([empty.list()?.cueNumber ?? null, empty.level(1), empty.level(2)]).toEqual([null, 0, 0]);
});
