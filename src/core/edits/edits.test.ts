import { attributesOf } from '../rig/attributes.ts';
import { modeOf } from '../fixtures/points.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';

describe('patching', () => {
  test('takes the next free numbers and addresses, and counts the label up', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-rgb',
      mode: 'RGB',
      quantity: 3,
      label: 'Tern #',
    });
    const made = [7, 8, 9].map((n) => show.fixtureByNumber(n));
    expect(made.map((f) => f?.label)).toEqual(['Tern 1', 'Tern 2', 'Tern 3']);
    expect(made.map((f) => f?.patch[0]?.address)).toEqual([7, 10, 13]);
  });

  test('leaves the gap that is asked for and hangs units along the bar', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 2,
      first: 50,
      universe: 3,
      address: 10,
      gap: 4,
      hang: 'Bar 2',
    });
    expect(show.fixtureByNumber(51)?.patch).toEqual([{ universe: 3, address: 15 }]);
    expect(show.fixtureByNumber(50)?.position).toEqual({ x: -3, y: 3.6, z: 6 });
  });

  test('routes a universe that had no route, and says so', () => {
    const show = exampleShow();
    const { summary } = apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 60,
      universe: 9,
      address: 1,
    });
    expect(summary).toContain('universe 9 now goes to the simulated node');
    expect(
      [...show.routes.values()].filter((r) => r.universe === 9).map((r) => [r.protocol, r.wire]),
    ).toEqual([
      ['sacn', 9],
      ['artnet', 8],
    ]);
  });

  test.each([
    [
      'a clash of addresses',
      { quantity: 1, first: 70, universe: 1, address: 103 },
      'clash',
      'would sit on 11',
    ],
    [
      'an overflow',
      { quantity: 4, first: 70, universe: 4, address: 505, mode: 'RGBW', typeId: 'generic-rgbw' },
      'overflow',
      '2 units would fit',
    ],
    [
      'a number that is taken',
      { quantity: 2, first: 6, universe: 4, address: 1 },
      'clash',
      'Fixture 6 exists already',
    ],
    ['universe 257', { quantity: 1, universe: 257, address: 1 }, 'invalid', '256 universes'],
    ['address 513', { quantity: 1, universe: 1, address: 513 }, 'invalid', '512'],
    ['no units', { quantity: 0 }, 'invalid', 'at least one'],
    [
      'a name of 10,000 characters',
      { quantity: 1, label: 'x'.repeat(10_000) },
      'invalid',
      '120 characters',
    ],
    ['an unknown bar', { quantity: 1, hang: 'Bar 99' }, 'not-found', 'no bar'],
  ])('refuses %s and changes nothing', (_what, params, code, words) => {
    const show = exampleShow();
    const before = show.fixtures.size;
    const refusal = refused(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      ...params,
    });
    expect(refusal.code).toBe(code);
    expect(refusal.message).toContain(words);
    expect(show.fixtures.size).toBe(before);
  });

  test('a name with markup is text like any other', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 1,
      first: 80,
      label: '<b>Bow</b>',
    });
    expect(show.fixtureByNumber(80)?.label).toBe('<b>Bow</b>');
    expect(
      refused(show, 'patch-fixtures', {
        typeId: 'generic-dimmer',
        mode: '8 bit',
        quantity: 1,
        label: 'two\nlines',
      }).fields?.label,
    ).toMatch(/one line/);
  });

  test('2,000 units go in one edit', () => {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: 'generic-dimmer',
      mode: '8 bit',
      quantity: 512,
      first: 1001,
      universe: 20,
      address: 1,
    });
    expect(show.fixtureByNumber(1512)?.patch[0]).toEqual({ universe: 20, address: 512 });
  });
});

describe('changing and deleting fixtures', () => {
  test('moves to a free address, not onto another fixture, not past 512', () => {
    const show = exampleShow();
    const id = idOf(show, 11);
    apply(show, 'change-fixtures', {
      fixtures: [{ id, set: { patch: [{ universe: 1, address: 201 }] } }],
    });
    expect(show.fixtures.get(id)?.patch[0]?.address).toBe(201);
    expect(
      refused(show, 'change-fixtures', {
        fixtures: [{ id, set: { patch: [{ universe: 1, address: 104 }] } }],
      }).message,
    ).toContain('would sit on 12');
    expect(
      refused(show, 'change-fixtures', {
        fixtures: [{ id, set: { patch: [{ universe: 1, address: 510 }] } }],
      }).code,
    ).toBe('overflow');
    expect(refused(show, 'change-fixtures', { fixtures: [{ id, set: { number: 12 } }] }).code).toBe(
      'clash',
    );
  });

  test('two fixtures can change places in one edit', () => {
    const show = exampleShow();
    apply(show, 'change-fixtures', {
      fixtures: [
        { id: idOf(show, 1), set: { patch: [{ universe: 1, address: 2 }] } },
        { id: idOf(show, 2), set: { patch: [{ universe: 1, address: 1 }] } },
      ],
    });
    expect(show.fixtureByNumber(1)?.patch[0]?.address).toBe(2);
  });

  test('an empty patch takes a unit off the rig and keeps its programming', () => {
    const show = exampleShow();
    const first = cue(show, 1, { 1: 50 });
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: { patch: [] } }] });
    expect(show.valuesOf(first).size).toBe(1);
  });

  test('deleting says what cues lose, and takes it out of them and of groups', () => {
    const show = exampleShow();
    const first = cue(show, 1, { 1: 50, 2: 50 });
    apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1), idOf(show, 2)] });
    const { summary } = apply(show, 'delete-fixtures', { ids: [idOf(show, 1)] });
    expect(summary).toContain('what 1 cue said about it');
    expect(show.valuesOf(first).size).toBe(1);
    expect([...show.groups.values()][0]?.fixtures).toEqual([idOf(show, 2)]);
  });
});

describe('cues', () => {
  test('an edit on a deleted cue is refused in words', () => {
    const show = exampleShow();
    const id = cue(show, 1, { 1: 50 });
    apply(show, 'delete-cue', { id });
    for (const [name, params] of [
      ['change-cue', { id, set: { name: 'Late' } }],
      ['delete-cue', { id }],
      [
        'remove-from-cue',
        { cueId: id, slots: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer' }] },
      ],
    ] as const) {
      expect(refused(show, name, params)).toMatchObject({
        code: 'not-found',
        message: expect.stringContaining('deleted'),
      });
    }
  });

  test('numbers are given once', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 10 });
    const second = cue(show, 2, { 1: 20 });
    expect(refused(show, 'change-cue', { id: second, set: { number: 1000 } }).code).toBe('clash');
    expect(
      refused(show, 'record-cue', {
        listId: 'main',
        number: 1000,
        values: [],
        existing: 'must-not',
      }).code,
    ).toBe('clash');
    expect(
      refused(show, 'record-cue', { listId: 'main', number: 7000, values: [], existing: 'must' })
        .message,
    ).toContain('kept in the programmer');
  });

  test('values out of range, unknown fixtures and attributes are refused', () => {
    const show = exampleShow();
    const value = (fixtureId: string, attribute: string, level: number) =>
      refused(show, 'record-cue', {
        listId: 'main',
        number: 1000,
        values: [{ fixtureId, attribute, level }],
      });
    expect(value(idOf(show, 1), 'Dimmer', 3).code).toBe('invalid');
    expect(value('nobody', 'Dimmer', 0.5).code).toBe('not-found');
    expect(value(idOf(show, 1), 'Pan', 0.5).message).toContain('has no Pan');
  });

  test('recording what is there already writes nothing and says so', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 50 });
    cue(show, 2, { 2: 50 });
    expect(
      refused(show, 'record-cue', {
        listId: 'main',
        number: 2000,
        values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.5 }],
      }).code,
    ).toBe('nothing');
  });

  test('negative and endless times are refused', () => {
    const show = exampleShow();
    const id = cue(show, 1, { 1: 50 });
    expect(refused(show, 'change-cue', { id, set: { up_s: -3 } }).fields?.up_s).toMatch(
      /not negative/,
    );
    expect(refused(show, 'change-cue', { id, set: { down_s: 1e9 } }).code).toBe('invalid');
  });
});

describe('routes', () => {
  test('Art-Net has no multicast and ends at 32767; two universes do not share one number', () => {
    const show = exampleShow();
    const route = (set: Record<string, unknown>) =>
      refused(show, 'set-route', {
        set: {
          universe: 5,
          protocol: 'sacn',
          destination: 'node',
          wire: 5,
          priority: 100,
          on: true,
          ...set,
        },
      });
    expect(
      route({ protocol: 'artnet', destination: 'multicast' }).fields?.destination,
    ).toBeDefined();
    expect(route({ protocol: 'artnet', wire: 40_000 }).fields?.wire).toBeDefined();
    expect(route({ wire: 1 }).code).toBe('clash');
    expect(route({ destination: 'stage-left' }).code).toBe('invalid');
    expect(route({ priority: 201 }).code).toBe('invalid');
  });
});

describe('roles', () => {
  test('an edit that does not exist is refused', () => {
    expect(refused(exampleShow(), 'drop-tables', {}).code).toBe('unknown-edit');
  });
});

test('the virtual intensity belongs to colour mixers without a dimmer', () => {
  const show = exampleShow();
  const attributes = (n: number): string[] => {
    const fixture = show.fixtureByNumber(n);
    const mode = fixture && modeOf(show, fixture);
    return mode ? attributesOf(mode) : [];
  };
  expect(attributes(11)[0]).toBe('Dimmer');
  expect(attributes(101).filter((a) => a === 'Dimmer')).toHaveLength(1);
});

test('the log says which field of a row went from what to what', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  const [first] = show.cuesOf('main');
  expect(
    apply(show, 'change-cue', { id: first?.id, set: { up_s: 7, name: 'Dawn' } }).summary,
  ).toContain('up: 3 s → 7 s');
  const list = [...show.lists.values()][0];
  expect(apply(show, 'change-list', { id: list?.id, set: { tracking: false } }).summary).toMatch(
    /^Changed list .*: tracking: yes → no$/,
  );
  // Many rows at once are told as before.
  expect(
    apply(show, 'change-fixtures', {
      fixtures: [1, 2].map((n) => ({ id: idOf(show, n), set: { hang: '', rotation: 10 } })),
    }).summary,
  ).not.toContain('→');
});
