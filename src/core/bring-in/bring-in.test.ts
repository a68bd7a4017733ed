import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { importParts, type Wanted } from './bring-in.ts';
import { mapFixtures } from './mapping.ts';
import { firstList, type MutableShow } from '../show/show.ts';

const NOTHING: Wanted = {
  cues: [],
  listId: 'main',
  palettes: [],
  groups: [],
  looks: [],
  effects: [],
  fixtures: [],
};
type Mapped = ReadonlyMap<string, string | null>;

const asked = (
  ours: MutableShow,
  theirs: MutableShow,
  wanted: Partial<Wanted>,
  mapping: Mapped = mapFixtures(ours, theirs, 'number'),
) => {
  let n = 0;
  return importParts(ours, theirs, { ...NOTHING, ...wanted }, mapping, () => `new-${n++}`);
};
function brought(
  ours: MutableShow,
  theirs: MutableShow,
  wanted: Partial<Wanted>,
  mapping?: Mapped,
): { summary: string; notes: string[] } {
  const result = asked(ours, theirs, wanted, mapping);
  if ('refused' in result) throw new Error(result.message);
  ours.apply(result.changes);
  return result;
}
const named = <T extends { name: string }>(rows: ReadonlyMap<string, T>, name: string): T => {
  const found = [...rows.values()].find((r) => r.name === name);
  if (!found) throw new Error(`nothing is called ${name}`);
  return found;
};

test('cues come with their palettes, for the fixtures that ours stand for, at the end where numbers are taken', () => {
  const theirs = exampleShow();
  apply(theirs, 'record-palette', { family: 'intensity', name: 'Glow', any: { level: 0.4 } });
  const palette = [...theirs.palettes.keys()][0];
  apply(theirs, 'record-cue', {
    listId: 'main',
    number: 1000,
    name: 'Visitor',
    values: [
      { fixtureId: idOf(theirs, 1), attribute: 'Dimmer', level: 0.4, palette },
      { fixtureId: idOf(theirs, 2), attribute: 'Dimmer', level: 1 },
    ],
  });
  const ours = exampleShow();
  cue(ours, 1, { 1: 10 });
  apply(ours, 'delete-fixtures', { ids: [idOf(ours, 2)] });
  const result = brought(ours, theirs, { cues: [theirs.cuesOf('main')[0]?.id ?? ''] });
  const came = ours.cuesOf('main')[1];
  expect([came?.number, came?.name, ours.valuesOf(came?.id ?? '').size]).toEqual([
    2000,
    'Visitor',
    1,
  ]);
  const value = [...ours.valuesOf(came?.id ?? '').values()][0];
  expect(ours.palettes.get(value?.palette ?? '')?.name).toBe('Glow');
  expect(result.notes).toEqual(
    expect.arrayContaining([
      expect.stringContaining('1 value of fixtures that nothing here stands for is left out'),
    ]),
  );
  expect(result.summary).toBe('Brought in 1 cue, 1 palette');
});

test('fixtures are mapped by number, by type in order, or by where they hang; what nothing stands for comes in off the rig', () => {
  const theirs = exampleShow();
  const ours = exampleShow();
  apply(ours, 'change-fixtures', { fixtures: [{ id: idOf(ours, 1), set: { number: 201 } }] });
  expect(mapFixtures(ours, theirs, 'number').get(idOf(theirs, 1))).toBeNull();
  expect(mapFixtures(ours, theirs, 'type').get(idOf(theirs, 6))).toBe(idOf(ours, 201));
  apply(ours, 'change-fixtures', {
    fixtures: [{ id: idOf(ours, 201), set: { position: { x: 9, y: 9, z: 9 } } }],
  });
  apply(theirs, 'change-fixtures', {
    fixtures: [{ id: idOf(theirs, 1), set: { position: { x: 9.4, y: 9, z: 9 } } }],
  });
  expect(mapFixtures(ours, theirs, 'position', [idOf(theirs, 1)]).get(idOf(theirs, 1))).toBe(
    idOf(ours, 201),
  );
  brought(ours, theirs, { fixtures: [idOf(theirs, 1)] }, new Map([[idOf(theirs, 1), null]]));
  expect(ours.fixtureByNumber(1)).toMatchObject({
    label: 'FOH 1',
    patch: [],
    wasAt: [{ universe: 1, address: 1 }],
  });
  expect(firstList(ours)?.id).toBe('main');
});

/** A show with a group, a palette that says something for it, and an effect. */
function visitors(): MutableShow {
  const theirs = exampleShow();
  const blue = (n: number) => ({ fixtureId: idOf(theirs, n), attribute: 'ColorAdd_B', level: 0.8 });
  apply(theirs, 'record-group', {
    name: 'Pars',
    number: 7,
    fixtures: [idOf(theirs, 11), idOf(theirs, 12)],
  });
  apply(theirs, 'record-palette', {
    family: 'colour',
    name: 'Tide',
    values: [blue(11), blue(12)],
    scope: 'group',
    group: named(theirs.groups, 'Pars').id,
  });
  apply(theirs, 'set-effect', {
    set: {
      name: 'Swell',
      number: 3,
      speed: { hz: 0.5 },
      direction: 'forward',
      spread: { turns: 1, groups: 0, blocks: 1, wings: 1 },
      tracks: [
        {
          attribute: 'Dimmer',
          wave: 'sine',
          mode: 'relative',
          size: 0.3,
          base: 0,
          width: 1,
          offset: 0,
        },
      ],
    },
  });
  return theirs;
}

test('what is of the same name and family here is not brought twice; the rest comes with what it follows', () => {
  const theirs = visitors();
  const palette = named(theirs.palettes, 'Tide');
  const effect = named(theirs.effects, 'Swell');
  const group = named(theirs.groups, 'Pars').id;
  apply(theirs, 'record-cue', {
    listId: 'main',
    number: 1000,
    values: [
      { fixtureId: idOf(theirs, 11), attribute: 'ColorAdd_B', level: 0.8, palette: palette.id },
      {
        fixtureId: idOf(theirs, 1),
        attribute: 'Dimmer',
        level: 0.5,
        effect: { id: effect.id, phase: 0, group },
      },
    ],
  });
  const cues = [theirs.cuesOf('main')[0]?.id ?? ''];
  const ours = exampleShow();
  const first = brought(ours, theirs, { cues });
  expect(first.summary).toBe('Brought in 1 cue, 1 palette, 1 group, 1 effect');
  const came = ours.valuesOf(ours.cuesOf('main')[0]?.id ?? '');
  const swell = [...came.values()].find((v) => v.effect)?.effect;
  expect([swell?.id, swell?.group]).toEqual([
    named(ours.effects, 'Swell').id,
    named(ours.groups, 'Pars').id,
  ]);
  expect(named(ours.groups, 'Pars').fixtures).toEqual([idOf(ours, 11), idOf(ours, 12)]);
  expect(Object.keys(named(ours.palettes, 'Tide').groups ?? {})).toEqual([
    named(ours.groups, 'Pars').id,
  ]);
  const again = brought(ours, theirs, { cues });
  expect(again.summary).toBe('Brought in 1 cue');
  expect(again.notes).toEqual(
    expect.arrayContaining([
      'palette “Tide” is here already; ours is used.',
      'effect “Swell” is here already; ours is used.',
    ]),
  );
});

test('a look comes with the looks, palettes and effects in it, for the units that ours stand for', () => {
  const theirs = visitors();
  const [palette, effect, group] = [
    named(theirs.palettes, 'Tide').id,
    named(theirs.effects, 'Swell').id,
    named(theirs.groups, 'Pars').id,
  ];
  apply(theirs, 'record-look', {
    name: 'Deep',
    number: 1,
    items: [
      { kind: 'level', fixtureId: idOf(theirs, 1), attribute: 'Dimmer', level: 0.2 },
      { kind: 'level', fixtureId: idOf(theirs, 2), attribute: 'Dimmer', level: 0.2 },
    ],
  });
  apply(theirs, 'record-look', {
    name: 'Storm',
    number: 2,
    items: [
      { kind: 'look', look: named(theirs.looks, 'Deep').id },
      { kind: 'palette', palette, members: [group, idOf(theirs, 11)] },
      { kind: 'effect', effect, members: [idOf(theirs, 2)] },
    ],
  });
  const ours = exampleShow();
  apply(ours, 'delete-fixtures', { ids: [idOf(ours, 2)] });
  expect(brought(ours, theirs, { looks: [named(theirs.looks, 'Storm').id] }).summary).toBe(
    'Brought in 1 palette, 1 group, 2 looks',
  );
  expect(named(ours.looks, 'Deep').items).toEqual([
    { kind: 'level', fixtureId: idOf(ours, 1), attribute: 'Dimmer', level: 0.2 },
  ]);
  // Nothing of ours stands for the only unit of the effect.
  expect(named(ours.looks, 'Storm').items.map((i) => i.kind)).toEqual(['look', 'palette']);
});

test('links among what comes are kept, links out of it and actions are left out and said', () => {
  const theirs = exampleShow();
  for (const n of [1, 2, 3]) cue(theirs, n, { 1: 10 * n });
  const [one, two, three] = theirs.cuesOf('main').map((c) => c.id);
  apply(theirs, 'change-cue', { id: two, set: { link: { to: one } } });
  apply(theirs, 'change-cue', { id: three, set: { link: { to: one } } });
  const ours = exampleShow();
  brought(ours, theirs, { cues: [one ?? '', two ?? ''] });
  expect(ours.cuesOf('main')[1]?.link?.to).toBe(ours.cuesOf('main')[0]?.id);
  const alone = exampleShow();
  expect(brought(alone, theirs, { cues: [three ?? ''] }).notes).toEqual([
    'The link of cue 3 leads out of what is brought in, and is left out.',
  ]);
  expect(alone.cuesOf('main')[0]?.link).toBeUndefined();
});

test('a mapping that leads to nothing, or onto one unit twice, is refused with both numbers', () => {
  const [ours, theirs] = [exampleShow(), exampleShow()];
  cue(theirs, 1, { 1: 10, 2: 20 });
  const cues = [theirs.cuesOf('main')[0]?.id ?? ''];
  const onto = (...pairs: [number, string][]): Mapped =>
    new Map(pairs.map(([n, id]) => [idOf(theirs, n), id]));
  expect(asked(ours, theirs, { cues }, onto([1, idOf(ours, 5)], [2, idOf(ours, 5)]))).toMatchObject(
    {
      code: 'clash',
      message:
        'Fixture 5 here would stand for both 1 and 2 there. Choose one of them; nothing was changed.',
    },
  );
  expect(asked(ours, theirs, { cues }, onto([1, 'no-such-one']))).toMatchObject({
    code: 'not-found',
  });
});

test('nothing, a list that is gone, and numbers beyond the last one are refused', () => {
  const [ours, theirs] = [exampleShow(), exampleShow()];
  cue(theirs, 1, { 1: 10 });
  cue(ours, 1, { 1: 10 });
  cue(ours, 99_999, { 1: 20 });
  const cues = [theirs.cuesOf('main')[0]?.id ?? ''];
  expect(asked(ours, theirs, {})).toMatchObject({ code: 'nothing' });
  expect(asked(ours, theirs, { cues, listId: 'gone' })).toMatchObject({ code: 'not-found' });
  expect(asked(ours, theirs, { cues })).toMatchObject({
    code: 'limit',
    message: expect.stringContaining('beyond 99999.999'),
  });
});

test('cues of two lists that have one number come in beside each other', () => {
  const [ours, theirs] = [exampleShow(), exampleShow()];
  cue(theirs, 1, { 1: 10 }, { name: 'Main' });
  apply(theirs, 'make-list', { name: 'Band' });
  const band = named(theirs.lists, 'Band').id;
  apply(theirs, 'record-cue', {
    listId: band,
    number: 1000,
    name: 'Band',
    values: [{ fixtureId: idOf(theirs, 2), attribute: 'Dimmer', level: 1 }],
  });
  const { notes } = brought(ours, theirs, {
    cues: [...theirs.cuesOf(band), ...theirs.cuesOf('main')].map((c) => c.id),
  });
  expect(ours.cuesOf('main').map((c) => [c.number, c.name])).toEqual([
    [1000, 'Main'],
    [1100, 'Band'],
  ]);
  expect(notes).toEqual([
    'Cue 1 “Band” comes in as 1.1: another one that comes in has its number.',
  ]);
});
