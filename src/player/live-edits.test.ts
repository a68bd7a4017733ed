/** Whatever is edited while a list stands in a cue, the stage is what the book says. */
import fc from 'fast-check';
import { planEdit } from '../core/edits/plan-edit.ts';
import { isRefusal } from '../core/refusal.ts';
import type { MutableShow } from '../core/show/show.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import { desk, mara } from './simulated-desk.ts';

type Desk = ReturnType<typeof desk>;
const owner = { ...mara, role: 'owner' as const };
const LIST = 'main';

const SLOTS = [
  [1, 'Dimmer'],
  [2, 'Dimmer'],
  [11, 'Dimmer'],
  [11, 'ColorAdd_R'],
  [101, 'Pan'],
] as const;

/** Palettes, a look and an effect that stands still, for all of these slots. */
function made(): MutableShow {
  const show = exampleShow();
  const at = (n: number, attribute: string, level: number): object => ({
    fixtureId: idOf(show, n),
    attribute,
    level,
  });
  const palette = (number: number, family: string, ...values: object[]): void =>
    void apply(show, 'record-palette', {
      number,
      family,
      name: family,
      scope: 'fixtures',
      values,
    });
  palette(1, 'intensity', at(1, 'Dimmer', 0.1), at(2, 'Dimmer', 0.6), at(11, 'Dimmer', 0.55));
  palette(2, 'colour', at(11, 'ColorAdd_R', 0.4));
  palette(3, 'position', at(101, 'Pan', 0.7));
  const values = [at(2, 'Dimmer', 0.9), at(11, 'Dimmer', 0.25)];
  apply(show, 'record-look', { name: 'Storm', values });
  const step = { level: 0.6, share: 0 };
  const track = { attribute: 'Dimmer', wave: 'steps', mode: 'absolute', size: 0.5, base: 0.3 };
  apply(show, 'set-effect', {
    set: {
      name: 'Still',
      tracks: [{ ...track, width: 1, offset: 0, steps: [step, step] }],
      speed: { round_s: 2 },
      direction: 'forward',
      spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
    },
  });
  return show;
}

/** An edit as it would be made of the show as it stands; undefined where there is nothing to make it of. */
type Asked = (show: MutableShow) => [edit: string, params: object] | undefined;

const cueOf = (show: MutableShow, n: number): string | undefined =>
  show.cuesOf(LIST).find((c) => c.number === n * 1000)?.id;
const onCue =
  (n: number, edit: string, params: (id: string) => object): Asked =>
  (show) => {
    const id = cueOf(show, n);
    return id === undefined ? undefined : [edit, params(id)];
  };

const number = fc.integer({ min: 1, max: 6 });
const level = fc.integer({ min: 0, max: 10 }).map((n) => n / 10);
const someValue = fc.record({
  slot: fc.nat(SLOTS.length - 1),
  level: fc.option(level, { freq: 5 }),
  by: fc.constantFrom('itself', 'itself', 'palette', 'look', 'effect'),
  fade_s: fc.constantFrom(undefined, undefined, 1.5),
});
type SomeValue = typeof someValue extends fc.Arbitrary<infer V> ? V : never;

function valueIn(show: MutableShow, { slot, level: to, by, fade_s }: SomeValue): object {
  const [n, attribute] = SLOTS[slot] ?? SLOTS[0];
  const fixtureId = idOf(show, n);
  const plain = { fixtureId, attribute, level: to, ...(fade_s === undefined ? {} : { fade_s }) };
  if (to === null) return plain;
  const palette = [...show.palettes.values()].find((p) => p.fixtures[fixtureId]?.[attribute]);
  const [look] = show.looks.keys();
  const [effect] = show.effects.keys();
  if (by === 'palette' && palette) return { ...plain, palette: palette.id };
  if (by === 'look' && look && attribute === 'Dimmer' && n !== 1) return { ...plain, look };
  return by === 'effect' && attribute === 'Dimmer'
    ? { ...plain, effect: { id: effect, phase: 0 } }
    : plain;
}

const record = fc
  .record({
    n: number,
    values: fc.uniqueArray(someValue, { selector: (v) => v.slot, minLength: 1, maxLength: 4 }),
    how: fc.constantFrom('merge', 'merge', 'over', 'remove'),
  })
  .map(({ n, values, how }): Asked => (show) => [
    'record-cue',
    {
      listId: LIST,
      number: n * 1000,
      up_s: n % 2 === 0 ? 1 : 0,
      down_s: 0.7,
      how,
      values: values.map((v) => valueIn(show, v)),
    },
  ]);
const palette = fc.tuple(fc.nat(2), level).map(([which, to]): Asked => (show) => {
  const row = [...show.palettes.values()][which];
  const [fixtureId, says] = Object.entries(row?.fixtures ?? {})[0] ?? [];
  if (!row || !fixtureId || !says) return undefined;
  const values = [{ fixtureId, attribute: Object.keys(says)[0], level: to }];
  const { id, family, name } = row;
  return ['record-palette', { id, family, name, scope: 'fixtures', how: 'merge', values }];
});
const look = fc.tuple(level, fc.constantFrom('merge', 'replace')).map(([to, how]): Asked => {
  return (show) => {
    const values = [{ fixtureId: idOf(show, 2), attribute: 'Dimmer', level: to }];
    return ['record-look', { id: [...show.looks.keys()][0], how, values }];
  };
});
const effect = level.map((base): Asked => (show) => {
  const [row] = show.effects.values();
  if (!row) return undefined;
  const { id, ...set } = row;
  const tracks = set.tracks.map((t) => ({ ...t, base: base / 2 }));
  return ['set-effect', { id, set: { ...set, tracks } }];
});
const someEdit: fc.Arbitrary<Asked> = fc.oneof(
  { weight: 3, arbitrary: record },
  fc
    .tuple(number, fc.constantFrom('keep', 'drop'))
    .map(([n, tracked]) => onCue(n, 'delete-cue', (id) => ({ id, tracked }))),
  fc
    .tuple(number, fc.nat(6))
    .map(([n, to]) => onCue(n, 'move-cues', (id) => ({ ids: [id], after: to * 1000 }))),
  fc
    .tuple(number, fc.nat(6), fc.constantFrom('look', 'changes'))
    .map(([n, to, what]) => onCue(n, 'copy-cues', (id) => ({ ids: [id], after: to * 1000, what }))),
  palette,
  look,
  effect,
  fc.boolean().map((tracking): Asked => () => ['change-list', { id: LIST, set: { tracking } }]),
  fc
    .tuple(number, fc.boolean())
    .map(([n, on]) => onCue(n, 'block-cue', (id) => ({ ids: [id], on }))),
  fc.tuple(number, number).map(([n, other]): Asked => (show) => {
    const [id, to] = [cueOf(show, n), cueOf(show, other)];
    return id && to ? ['change-cue', { id, set: { link: { to } } }] : undefined;
  }),
  fc.tuple(fc.nat(2), fc.constantFrom('keep', 'remove')).map(([which, uses]): Asked => (show) => {
    const id = [...show.palettes.keys()][which];
    return id === undefined ? undefined : ['delete-palette', { id, uses }];
  }),
  fc.constant<Asked>(() => [
    'patch-fixtures',
    { typeId: 'generic-dimmer', mode: '8 bit', quantity: 1, label: 'New' },
  ]),
);

/** Refused edits change nothing, here as elsewhere. */
function carryOut(
  show: MutableShow,
  asked: Asked,
  make: (edit: string, params: object) => void,
): void {
  const [edit, params] = asked(show) ?? [];
  if (edit === undefined || !params) return;
  if (!isRefusal(planEdit(show, 'owner', edit, params, 'asked'))) make(edit, params);
}

function likeTheBook(d: Desk): void {
  const at = d.list()?.cueNumber;
  if (at === null || at === undefined || !d.show.cuesOf(LIST).some((c) => c.number === at)) return;
  const fresh = desk(d.show);
  fresh.say(mara, { command: 'goto', cue: String(at / 1000), time: 0 });
  fresh.pass(5);
  for (const [n, attribute] of SLOTS)
    expect([at, n, attribute, d.level(n, attribute)]).toEqual([
      at,
      n,
      attribute,
      expect.closeTo(fresh.level(n, attribute), 2),
    ]);
}

test('after any edits and a GO the stage is what a go-to shows', () =>
  fc.assert(
    fc.property(
      fc.array(someEdit, { minLength: 2, maxLength: 8 }),
      fc.integer({ min: 1, max: 4 }),
      fc.array(fc.tuple(someEdit, fc.integer({ min: 0, max: 12 })), { minLength: 1, maxLength: 6 }),
      (first, cues, then) => {
        const show = made();
        for (const asked of first)
          carryOut(show, asked, (edit, params) => void apply(show, edit, params));
        const d = desk(show);
        for (let n = 0; n < cues; n++) {
          d.say(mara, { command: 'go' });
          d.pass(3);
        }
        for (const [asked, tenths] of then) {
          carryOut(show, asked, (edit, params) => d.edit(owner, edit, params));
          d.pass(tenths / 10);
        }
        d.pass(0.1);
        d.say(mara, { command: 'go' });
        d.pass(5);
        likeTheBook(d);
      },
    ),
    { numRuns: Number(process.env.RUNS ?? 150) },
  ));

test('what a cue that was deleted on stage left there goes where another is made in its place', () => {
  const show = exampleShow();
  const only = cue(show, 1, { 1: 100 }, { up_s: 0, down_s: 0 });
  const d = desk(show);
  d.say(mara, { command: 'go' });
  d.edit(owner, 'delete-cue', { id: only, tracked: 'drop' });
  d.say(mara, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 0.4 });
  const values = [{ fixtureId: idOf(show, 2), attribute: 'Dimmer', level: 0.4 }];
  d.edit(mara, 'record-cue', { listId: LIST, number: 1000, values });
  d.pass(0.3);
  expect(d.level(2)).toBeCloseTo(0.4);
  d.pass(0.5);
  expect([d.level(1), d.level(2), d.list()?.cueNumber]).toEqual([0, expect.closeTo(0.4), 1000]);
});

test('what a cue that was deleted on stage left there stays, and goes with the next GO', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 100 }, { up_s: 0, down_s: 0 });
  cue(show, 2, { 2: 100 }, { up_s: 0, down_s: 0 });
  const d = desk(show);
  d.say(mara, { command: 'go' });
  d.edit(owner, 'delete-cue', { id: first, tracked: 'drop' });
  d.pass(1);
  const left = d.level(1);
  d.undo();
  d.pass(1);
  expect(d.level(1)).toBe(1);
  d.undo('redo');
  d.say(mara, { command: 'go' });
  d.pass(1);
  expect([left, d.level(1), d.level(2)]).toEqual([1, 0, 1]);
});
