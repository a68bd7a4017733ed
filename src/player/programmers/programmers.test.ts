/** What operators do with their hands: set, spread, aim, follow, look, take, let go, and see nothing of each other's by accident. */
import { heldBy, programmerOf, otherProgrammers } from './seen.ts';
import { lookSlots } from '../../core/looks/resolve.ts';
import { recordedValue } from '../../core/live/held.ts';
import { apply, cue, exampleShow, idOf, refused } from '../../core/testing/example.ts';
import { desk, iden, mara, tam } from '../simulated-desk.ts';

type Desk = ReturnType<typeof desk>;
const select = (d: Desk, ...numbers: number[]): void =>
  void d.say(mara, { command: 'select', fixtures: numbers.map((n) => idOf(d.show, n)) });
const held = (d: Desk, fixture: number, attribute = 'Dimmer') =>
  heldBy(d.live.programmers, 'mara').get(`${idOf(d.show, fixture)}:${attribute}`);
const effectId = (d: Desk, name: string): string =>
  [...d.show.effects.values()].find((e) => e.name === name)?.id ?? '';
const STILL = { what: 'value', pivot: 'middle', curve: 'even', mirrored: false } as const;

describe('setting', () => {
  test('one value in degrees is the same angle on units with other ranges; without fixtures it is for the selection', () => {
    const d = desk();
    apply(d.show, 'patch-fixtures', {
      typeId: 'generic-mirror',
      mode: '16 bit',
      quantity: 1,
      first: 120,
    });
    const e = desk(d.show);
    select(e, 101, 120);
    e.say(mara, { command: 'set', attribute: 'Pan', physical: 45 });
    expect(e.level(101, 'Pan')).toBeCloseTo((45 + 270) / 540, 4);
    expect(e.level(120, 'Pan')).toBeCloseTo((45 + 90) / 180, 4);
    expect(e.say(tam, { command: 'set', attribute: 'Pan', physical: 45 })).toMatchObject({
      code: 'nothing',
    });
    expect(e.say(mara, { command: 'set', attribute: 'Pan' })).toMatchObject({ code: 'invalid' });
  });

  test('more, less and times go from where each is, and stop at the ends', () => {
    const d = desk();
    d.say(mara, {
      command: 'set-many',
      values: [
        [1, 0.2],
        [2, 0.5],
        [3, 0.95],
      ].map(([n, level]) => ({
        fixtureId: idOf(d.show, n ?? 0),
        attribute: 'Dimmer',
        level: level ?? 0,
      })),
    });
    d.say(mara, { command: 'nudge', fixtures: [1, 2, 3], attribute: 'Dimmer', add: 10 });
    expect([1, 2, 3].map((n) => d.level(n))).toEqual(
      [0.3, 0.6, 1].map((v) => expect.closeTo(v, 5)),
    );
    d.say(mara, { command: 'nudge', fixtures: [1, 2, 3], attribute: 'Dimmer', times: 0.5 });
    expect([1, 2, 3].map((n) => d.level(n))).toEqual(
      [0.15, 0.3, 0.5].map((v) => expect.closeTo(v, 5)),
    );
  });

  test('a fan of values and of times; over one fixture it is refused', () => {
    const d = desk();
    d.say(mara, {
      command: 'fan',
      fixtures: [1, 2, 3, 4],
      attribute: 'Dimmer',
      ...STILL,
      stops: [20, 80],
    });
    expect([1, 2, 3, 4].map((n) => d.level(n))).toEqual(
      [0.2, 0.4, 0.6, 0.8].map((v) => expect.closeTo(v, 5)),
    );
    d.say(mara, {
      command: 'fan',
      fixtures: [1, 2, 3, 4],
      attribute: 'Dimmer',
      ...STILL,
      what: 'delay',
      stops: [0, 3],
    });
    expect([1, 2, 3, 4].map((n) => held(d, n)?.delay_s)).toEqual([0, 1, 2, 3]);
    d.say(mara, {
      command: 'fan',
      fixtures: [1, 2, 3],
      attribute: 'Dimmer',
      ...STILL,
      by: 10,
      pivot: 'first',
    });
    expect([1, 2, 3].map((n) => d.level(n))).toEqual(
      [0.2, 0.45, 0.7].map((v) => expect.closeTo(v, 5)),
    );
    expect(
      d.say(mara, {
        command: 'fan',
        fixtures: [1],
        attribute: 'Dimmer',
        ...STILL,
        stops: [0, 100],
      }),
    ).toMatchObject({ code: 'invalid', message: expect.stringContaining('at least two') });
  });

  test('times are given to what is held, without moving it', () => {
    const d = desk();
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.7 });
    d.say(mara, { command: 'times', fixtures: [1], fade_s: 4, delay_s: 1 });
    expect([d.level(1), held(d, 1)]).toEqual([
      expect.closeTo(0.7, 5),
      expect.objectContaining({ fade_s: 4, delay_s: 1 }),
    ]);
    expect(d.say(mara, { command: 'times', fixtures: [2], fade_s: 1 })).toMatchObject({
      code: 'nothing',
    });
  });

  test('from one colour to another each unit has its own share of the way, those of one kind as well', () => {
    const d = desk();
    const [warm, cool] = [
      { x: 0.45, y: 0.41 },
      { x: 0.25, y: 0.25 },
    ];
    const blueOf = (unit: number): number => d.level(unit, 'ColorAdd_B');
    d.say(mara, { command: 'colour', fixtures: [11], ...warm });
    d.say(mara, { command: 'colour', fixtures: [14], ...cool });
    const ends = [blueOf(11), blueOf(14)];
    d.say(mara, { command: 'colour', fixtures: [11, 12, 13, 14], ...warm, to: cool });
    const blues = [11, 12, 13, 14].map(blueOf);
    expect([blues[0], blues[3]]).toEqual(ends);
    expect(new Set(blues.map((v) => v.toFixed(3))).size).toBe(4);
    expect(blues).toEqual([...blues].sort((a, b) => a - b));
    // One unit alone has the first of them.
    d.say(mara, { command: 'colour', fixtures: [13], ...warm, to: cool });
    expect(blueOf(13)).toBe(ends[0]);
  });

  test('a colour outside a unit’s gamut is set as near as it can, and said with its ΔE', () => {
    const d = desk();
    expect(d.say(mara, { command: 'colour', fixtures: [11, 101], x: 0.08, y: 0.85 })).toMatchObject(
      {
        ok: true,
        message: expect.stringMatching(
          /^11, 101 cannot make this colour; the nearest is ΔE \d+ off\.$/,
        ),
      },
    );
    expect(d.level(11, 'ColorAdd_G')).toBeGreaterThan(0.9);
    expect(d.say(mara, { command: 'colour', fixtures: [1], kelvin: 3200 })).toMatchObject({
      code: 'not-found',
    });
    expect(d.say(mara, { command: 'colour', fixtures: [11], x: 0.8, y: 0.8 })).toMatchObject({
      code: 'invalid',
    });
  });
});

describe('aiming', () => {
  test('heads look at the point with the least travel; along a line they share it out', () => {
    const d = desk();
    d.say(mara, {
      command: 'aim',
      fixtures: [101, 102],
      points: [{ x: 0, y: 4, z: 0 }],
      flip: false,
    });
    const [a, b] = [d.level(101, 'Pan'), d.level(102, 'Pan')];
    expect(a).not.toBeCloseTo(b, 2);
    d.say(mara, {
      command: 'aim',
      fixtures: [101, 102],
      points: [{ x: 0, y: 4, z: 0 }],
      flip: true,
    });
    expect(Math.abs(d.level(101, 'Pan') - a) * 540).toBeCloseTo(180, 0);
    d.say(mara, { command: 'flip', fixtures: [101, 102] });
    expect(d.level(101, 'Pan')).toBeCloseTo(a, 4);
    d.say(mara, {
      command: 'aim',
      fixtures: [101, 102],
      points: [
        { x: -3, y: 1.6, z: 0 },
        { x: 3, y: 1.6, z: 0 },
      ],
      flip: false,
    });
    expect([101, 102].map((n) => d.level(n, 'Tilt'))).toEqual(
      [0.5, 0.5].map((v) => expect.closeTo(v, 1)),
    );
  });

  test('who cannot look there stays, and is named; nobody at all is a refusal', () => {
    const d = desk();
    apply(d.show, 'change-fixtures', {
      fixtures: [
        { id: idOf(d.show, 102), set: { transforms: { Tilt: { min: 0.48, max: 0.52 } } } },
      ],
    });
    const e = desk(d.show);
    const before = e.level(102, 'Pan');
    expect(
      e.say(mara, {
        command: 'aim',
        fixtures: [101, 102],
        points: [{ x: 0, y: 7, z: 0 }],
        flip: false,
      }),
    ).toMatchObject({ ok: true, message: '102 cannot look there, and stays where it is.' });
    expect(e.level(102, 'Pan')).toBe(before);
    expect(
      e.say(mara, { command: 'aim', fixtures: [102], points: [{ x: 0, y: 7, z: 0 }], flip: false }),
    ).toMatchObject({ code: 'no-reach' });
    expect(
      e.say(mara, { command: 'aim', fixtures: [1], points: [{ x: 0, y: 7, z: 0 }], flip: false }),
    ).toMatchObject({ code: 'not-found' });
  });
});

describe('looks and effects in the hand', () => {
  test('a look is held by reference, follows its changes, and is recorded as one', () => {
    const d = desk();
    d.edit(mara, 'record-look', {
      number: 1,
      name: 'Low',
      items: [1, 2].map((n) => ({
        kind: 'level',
        fixtureId: idOf(d.show, n),
        attribute: 'Dimmer',
        level: 0.3,
      })),
    });
    const id = [...d.show.looks.keys()][0] ?? '';
    d.say(mara, { command: 'look', look: id });
    expect([d.level(1), d.source(1)]).toEqual([
      expect.closeTo(0.3, 5),
      'programmer of Mara Kell, look 1 Low',
    ]);
    d.edit(mara, 'record-look', {
      id,
      items: [{ kind: 'level', fixtureId: idOf(d.show, 1), attribute: 'Dimmer', level: 0.6 }],
    });
    expect(d.level(1)).toBeCloseTo(0.6, 5);
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [...heldBy(d.live.programmers, 'mara').values()].map(
        ({ fixtureId, attribute, level, look }) => ({ fixtureId, attribute, level, look }),
      ),
    });
    expect([d.source(1), d.level(1)]).toEqual(['cue 1, look 1 Low', expect.closeTo(0.6, 5)]);
    d.edit(mara, 'delete-look', { id });
    expect([d.source(1), d.level(1)]).toEqual(['cue 1', expect.closeTo(0.6, 5)]);
  });

  test('an effect runs over the selection in its order, keeps to the group that it is on, and stops in a time', () => {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    d.edit(mara, 'record-group', {
      name: 'Front',
      fixtures: [4, 3, 2, 1].map((n) => idOf(d.show, n)),
    });
    select(d, 4, 3, 2, 1);
    d.say(mara, { command: 'effect', effect: effectId(d, 'Wave'), on: true });
    expect([4, 3, 2, 1].map((n) => held(d, n)?.effect)).toEqual(
      [0, 0.25, 0.5, 0.75].map((phase, at) => ({
        id: effectId(d, 'Wave'),
        phase,
        at,
        of: 4,
        group: [...d.show.groups.keys()][0],
      })),
    );
    d.pass(1);
    expect(new Set([1, 2, 3, 4].map((n) => d.level(n).toFixed(2))).size).toBeGreaterThan(2);
    expect(d.source(1)).toMatch(/effect \d Wave$/);
    d.say(mara, { command: 'effect', effect: effectId(d, 'Wave'), on: false, fade_s: 0.5 });
    d.pass(1);
    expect([1, 2, 3, 4].map((n) => d.level(n))).toEqual([0, 0, 0, 0]);
    expect(heldBy(d.live.programmers, 'mara').size).toBe(0);
    expect(
      d.say(mara, { command: 'effect', effect: effectId(d, 'Wave'), on: false }),
    ).toMatchObject({ code: 'nothing' });
  });

  test('a level set by hand goes under a relative effect, and ends one that makes the level itself', () => {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    for (const [n, name] of [
      [1, 'Breathe'],
      [2, 'Wave'],
    ] as const)
      d.say(mara, { command: 'effect', fixtures: [n], effect: effectId(d, name), on: true });
    d.say(mara, { command: 'set', fixtures: [1, 2], attribute: 'Dimmer', level: 0.5 });
    expect([held(d, 1)?.effect?.id, held(d, 2)?.effect]).toEqual([
      effectId(d, 'Breathe'),
      undefined,
    ]);
    expect(
      d.say(mara, { command: 'effect', fixtures: [1], effect: effectId(d, 'Circle'), on: true }),
    ).toMatchObject({ code: 'not-found' });
  });

  test('the shared tempo drives effects that count in beats, and is the board’s', () => {
    const d = desk();
    d.here.add('tam');
    d.say(tam, { command: 'board', do: 'take' });
    expect(d.say(mara, { command: 'tempo', bpm: 90 })).toMatchObject({ code: 'board' });
    d.say(tam, { command: 'tempo', bpm: 90 });
    expect(d.live.playback().tempo_bpm).toBe(90);
  });
});

describe('what is held', () => {
  function playing(): Desk {
    const show = exampleShow();
    apply(show, 'record-palette', {
      family: 'intensity',
      number: 1,
      name: 'Glow',
      any: { level: 0.4 },
    });
    const palette = [...show.palettes.keys()][0] ?? '';
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      up_s: 0,
      values: [
        { fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.4, palette },
        { fixtureId: idOf(show, 2), attribute: 'Dimmer', level: 0.9 },
      ],
    });
    cue(show, 2, { 3: 50 }, { up_s: 0 });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    return d;
  }

  test('what is lit is taken as it stands, with the palette that it follows', () => {
    const d = playing();
    d.say(mara, { command: 'take', what: 'lit', whole: false });
    expect(
      [...heldBy(d.live.programmers, 'mara').values()].map((v) => [
        d.show.fixtures.get(v.fixtureId)?.number,
        v.level,
        v.palette,
      ]),
    ).toEqual([
      [1, 0.4, [...d.show.palettes.keys()][0]],
      [2, expect.closeTo(0.9, 5), undefined],
    ]);
    expect(d.say(tam, { command: 'take', what: 'lit', whole: false, fixtures: [5] })).toMatchObject(
      { code: 'nothing' },
    );
  });

  test('a cue is taken: what it sets, or all that it shows', () => {
    const d = playing();
    d.say(mara, { command: 'take', what: 'cue', cue: '2', whole: false });
    expect(heldBy(d.live.programmers, 'mara').size).toBe(1);
    d.say(mara, { command: 'take', what: 'cue', cue: '2', whole: true });
    expect(heldBy(d.live.programmers, 'mara').size).toBe(3);
    expect(d.say(mara, { command: 'take', what: 'cue', cue: '7', whole: false })).toMatchObject({
      code: 'not-found',
    });
  });

  test('a cue that is taken and put back as it was changes nothing, its own times and palettes included', () => {
    const d = playing();
    const cell = { cueId: d.show.cuesOf('main')[0]?.id, fixtureId: idOf(d.show, 2) };
    d.edit(mara, 'set-values', {
      cells: [{ ...cell, attribute: 'Dimmer', times: { fade_s: 7, delay_s: 1.5 } }],
    });
    d.say(mara, { command: 'take', what: 'cue', cue: '1', whole: false });
    const held = [...heldBy(d.live.programmers, 'mara').values()].map(recordedValue);
    expect(held).toHaveLength(2);
    const put = { listId: 'main', number: 1000, values: held };
    for (const how of ['merge', 'over'])
      expect(refused(d.show, 'record-cue', { ...put, how }).code).toBe('nothing');
    // In another cue it is a change like any other.
    apply(d.show, 'record-cue', { ...put, number: 500 });
    // Changed meanwhile, only what was changed is written.
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.2 });
    const now = [...heldBy(d.live.programmers, 'mara').values()].map(recordedValue);
    const { changes } = apply(d.show, 'record-cue', { ...put, values: now });
    expect(changes.filter((c) => c.table === 'values')).toHaveLength(1);
  });

  test('one family is kept, one attribute let go; what was cleared comes back step by step, each once', () => {
    const d = desk();
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Dimmer', level: 1 });
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Pan', level: 0.2 });
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Tilt', level: 0.3 });
    d.say(mara, { command: 'keep', families: ['position'] });
    expect([...heldBy(d.live.programmers, 'mara').values()].map((v) => v.attribute)).toEqual([
      'Pan',
      'Tilt',
    ]);
    d.say(mara, { command: 'letgo', fixtures: [101], attributes: ['Pan'], fade_s: 0 });
    expect([...heldBy(d.live.programmers, 'mara').values()].map((v) => v.attribute)).toEqual([
      'Tilt',
    ]);
    d.say(mara, { command: 'clear' });
    expect(heldBy(d.live.programmers, 'mara').size).toBe(0);
    d.say(mara, { command: 'bring-back' });
    expect([held(d, 101, 'Tilt')?.level, d.level(101, 'Tilt')]).toEqual([
      0.3,
      expect.closeTo(0.3, 5),
    ]);
    d.say(mara, { command: 'bring-back' });
    d.say(mara, { command: 'bring-back' });
    expect([held(d, 101, 'Pan')?.level, held(d, 101, 'Dimmer')?.level]).toEqual([0.2, 1]);
    expect(d.say(mara, { command: 'bring-back' })).toMatchObject({ code: 'nothing' });
  });

  test('what the hands have set since stays when the rest is brought back', () => {
    const d = desk();
    d.say(mara, { command: 'set', fixtures: [1, 2, 3], attribute: 'Dimmer', level: 0.9 });
    d.say(mara, { command: 'clear' });
    d.say(mara, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 0.4 });
    expect(d.say(mara, { command: 'bring-back' })).toMatchObject({
      ok: true,
      message: '2 values brought back; 1 stays as you hold it now',
    });
    expect([1, 2, 3].map((n) => d.level(n))).toEqual(
      [0.9, 0.4, 0.9].map((v) => expect.closeTo(v, 5)),
    );
  });

  test('home lights the unit and brings the rest to its defaults; a family alone goes to its own', () => {
    const d = desk();
    for (const [attribute, level] of [
      ['Dimmer', 0.2],
      ['Pan', 0.1],
      ['ColorAdd_R', 0],
    ] as const)
      d.say(mara, { command: 'set', fixtures: [101], attribute, level });
    d.say(mara, { command: 'home', fixtures: [101] });
    expect([d.level(101), d.level(101, 'Pan'), d.level(101, 'ColorAdd_R')]).toEqual([1, 0.5, 1]);
    d.say(mara, { command: 'home', fixtures: [101], families: ['intensity'] });
    expect(d.level(101)).toBe(0);
  });
});

describe('one by one, and blind', () => {
  test('stepping goes round the selection both ways, and back to all of it', () => {
    const d = desk();
    select(d, 3, 1, 2);
    const now = (): (number | undefined)[] =>
      programmerOf(d.live.programmers, 'mara').selection.map(
        (id) => d.show.fixtures.get(id)?.number,
      );
    const steps = ([1, 1, 1, 1, -1, -1, 0] as const).map((by) => {
      d.say(mara, { command: 'step', by });
      return now().join();
    });
    expect(steps).toEqual(['3', '1', '2', '3', '2', '1', '3,1,2']);
    expect(d.say(iden, { command: 'step', by: 1 })).toMatchObject({ code: 'nothing' });
  });

  test('highlight shows which one it is, over playback and under park, and ends with the last screen', () => {
    const d = desk();
    select(d, 1, 2);
    d.say(mara, { command: 'highlight', on: true });
    expect([d.level(1), d.level(2), d.source(1)]).toEqual([1, 1, 'highlight by Mara Kell']);
    d.say(mara, { command: 'step', by: 1 });
    expect([d.level(1), d.level(2)]).toEqual([1, 0]);
    d.say(tam, { command: 'park', fixtures: [1], attribute: 'Dimmer', level: 0.2, on: true });
    expect(d.level(1)).toBeCloseTo(0.2, 5);
    d.say(tam, { command: 'park', fixtures: [1], on: false });
    // A key goes the other way each time, however soon it is pressed again.
    d.say(mara, { command: 'highlight' });
    expect(d.level(1)).toBe(0);
    d.say(mara, { command: 'highlight' });
    expect(d.level(1)).toBe(1);
    d.live.personLeft('mara');
    d.pass(0.1);
    expect(d.level(1)).toBe(0);
  });

  test('in highlight each attribute shows what its type says; else light is full, open and white, and the rest stays', () => {
    const show = exampleShow();
    const fixture = show.fixtures.get(idOf(show, 101));
    const type = show.types.get(fixture?.typeId ?? '');
    if (!fixture || !type) throw new Error('no wash');
    const says: Record<string, number> = { Pan: 0.25, Zoom: 0.9 };
    const after = {
      ...type,
      modes: type.modes.map((m) => ({
        ...m,
        channels: m.channels.map((c) => {
          const highlight = says[c.attribute];
          return highlight === undefined ? c : { ...c, highlight };
        }),
      })),
    };
    show.apply([{ table: 'types', id: type.id, before: type, after }]);
    const d = desk(show);
    const mode = after.modes.find((m) => m.name === fixture.mode);
    const whiteOf = (attribute: string): number | undefined =>
      mode?.channels.find((c) => c.attribute === attribute)?.default;
    d.say(mara, { command: 'select', fixtures: [fixture.id] });
    d.say(mara, { command: 'set', attribute: 'Tilt', level: 0.8 });
    d.say(mara, { command: 'set', attribute: 'ColorAdd_B', level: 0.1 });
    d.say(mara, { command: 'highlight', on: true });
    expect([d.level(101), d.level(101, 'Pan'), d.level(101, 'Zoom')]).toEqual([
      1,
      expect.closeTo(0.25, 4),
      expect.closeTo(0.9, 4),
    ]);
    expect(d.level(101, 'ColorAdd_B')).toBeCloseTo(whiteOf('ColorAdd_B') ?? -1, 4);
    expect(d.level(101, 'Tilt')).toBeCloseTo(0.8, 4);
  });

  test('times of what is held: of these families or attributes alone, and none where nothing of them is held', () => {
    const d = desk();
    d.say(mara, { command: 'select', fixtures: [idOf(d.show, 11)] });
    d.say(mara, { command: 'set', attribute: 'Dimmer', level: 1 });
    d.say(mara, { command: 'set', attribute: 'ColorAdd_R', level: 1 });
    expect(d.say(mara, { command: 'times', fade_s: 4, families: ['colour'] })).toMatchObject({
      ok: true,
    });
    d.say(mara, { command: 'times', delay_s: 2, attributes: ['Dimmer'] });
    const times = (attribute: string) => {
      const v = held(d, 11, attribute);
      return [v?.fade_s, v?.delay_s];
    };
    const [colour, dimmer] = [times('ColorAdd_R'), times('Dimmer')];
    expect([colour[0], dimmer[1]]).toEqual([4, 2]);
    // What was not said stays as it was.
    expect([colour[1] === 2, dimmer[0] === 4]).toEqual([false, false]);
    expect(d.say(mara, { command: 'times', fade_s: 4, families: ['beam'] })).toMatchObject({
      code: 'nothing',
    });
    expect(
      d.say(mara, {
        command: 'times',
        fade_s: 1,
        families: ['intensity'],
        attributes: ['ColorAdd_R'],
      }),
    ).toMatchObject({ code: 'nothing' });
  });

  test('a fan of times goes over those of whom the attribute is held; one alone is none, nor one without stops', () => {
    const d = desk();
    select(d, 1, 2, 3);
    d.say(mara, { command: 'set', attribute: 'Dimmer', level: 1 });
    select(d, 1, 2, 3, 4);
    const fan = { command: 'fan', attribute: 'Dimmer', ...STILL, what: 'delay' } as const;
    expect(d.say(mara, { ...fan, stops: [0, 4] })).toMatchObject({ ok: true });
    expect([1, 2, 3, 4].map((n) => held(d, n)?.delay_s)).toEqual([0, 2, 4, undefined]);
    d.say(mara, { ...fan, what: 'fade', stops: [3, 1] });
    expect([1, 2, 3].map((n) => [held(d, n)?.fade_s, held(d, n)?.delay_s])).toEqual([
      [3, 0],
      [2, 2],
      [1, 4],
    ]);
    expect(d.say(mara, fan)).toMatchObject({ code: 'invalid' });
    select(d, 1, 4);
    expect(d.say(mara, { ...fan, stops: [0, 4] })).toMatchObject({ code: 'invalid' });
    expect(held(d, 1)?.delay_s).toBe(0);
  });

  test('blind, a cue is written without anything happening on stage', () => {
    const d = desk();
    d.say(mara, { command: 'blind', on: true });
    d.pass(1);
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1 });
    d.pass(1);
    expect([d.level(1), held(d, 1)?.level]).toEqual([0, 1]);
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [{ fixtureId: idOf(d.show, 1), attribute: 'Dimmer', level: 1 }],
    });
    d.pass(1);
    expect([d.level(1), d.list()?.cueNumber, held(d, 1)?.recorded]).toEqual([0, null, true]);
    expect(otherProgrammers(d.live.programmers, 'tam')).toEqual([
      expect.objectContaining({ userId: 'mara', values: 1, unrecorded: 0, blind: true }),
    ]);
  });

  test('it all comes back in the next process: values with what they follow, blind, what was cleared', async () => {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    d.say(mara, { command: 'effect', fixtures: [1], effect: effectId(d, 'Breathe'), on: true });
    d.say(mara, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 0.8 });
    d.say(mara, { command: 'letgo', fixtures: [2], fade_s: 0 });
    d.say(mara, { command: 'blind', on: true });
    d.pass(1);
    const again = desk(d.show, JSON.parse(JSON.stringify(await d.live.saved())));
    expect(programmerOf(again.live.programmers, 'mara')).toMatchObject({ blind: true, cleared: 1 });
    expect(held(again, 1)?.effect?.id).toBe(effectId(d, 'Breathe'));
    again.say(mara, { command: 'blind', on: false });
    again.pass(3);
    expect(again.level(1)).not.toBe(0);
  });
});

test('recorded from the hand into a look, the values follow it from then on', () => {
  const d = desk();
  d.say(mara, { command: 'set', fixtures: [1, 2], attribute: 'Dimmer', level: 0.7 });
  d.edit(mara, 'record-look', {
    number: 3,
    name: 'Kept',
    values: [1, 2].map((n) => ({ fixtureId: idOf(d.show, n), attribute: 'Dimmer', level: 0.7 })),
  });
  const id = [...d.show.looks.keys()][0] ?? '';
  expect([...lookSlots(d.show, id).keys()].length).toBe(2);
  expect(held(d, 1)?.look).toBe(id);
});

describe('like another unit', () => {
  test('what it holds comes onto the others, in their own range, with the palette that it follows', () => {
    const d = desk();
    d.edit(mara, 'record-palette', {
      family: 'position',
      name: 'Rail',
      values: [101, 102].map((n, i) => ({
        fixtureId: idOf(d.show, n),
        attribute: 'Pan',
        level: 0.3 + i / 10,
      })),
    });
    const palette = [...d.show.palettes.values()].at(-1)?.id ?? '';
    d.say(mara, { command: 'palette', palette, fixtures: [101] });
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Dimmer', level: 0.7 });
    d.say(mara, { command: 'like', fixtures: [101, 102, 1], from: 101 });
    expect(held(d, 102, 'Pan')).toMatchObject({ palette, level: expect.closeTo(0.4, 3) as number });
    expect([held(d, 102)?.level, held(d, 1)?.level]).toEqual([0.7, 0.7]);
    expect(held(d, 1, 'Pan')).toBeUndefined();
  });

  test('a family alone leaves the others; a unit that is not there is said', () => {
    const d = desk();
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Dimmer', level: 0.7 });
    d.say(mara, { command: 'set', fixtures: [101], attribute: 'Tilt', level: 0.2 });
    d.say(mara, { command: 'like', fixtures: [102], from: 101, families: ['position'] });
    expect(held(d, 102)).toBeUndefined();
    expect(held(d, 102, 'Tilt')?.level).toBeCloseTo(0.2, 3);
    expect(d.say(mara, { command: 'like', fixtures: [102], from: 7777 })).toMatchObject({
      message: 'There is no fixture 7777. Nothing was set.',
    });
  });
});
