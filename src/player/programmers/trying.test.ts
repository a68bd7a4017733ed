/** An effect that is being made plays while it is made: on what is selected and wherever it runs, and leaves no trace. */
import { heldBy, programmerOf } from './seen.ts';
import { idOf } from '../../core/testing/example.ts';
import type { EffectRow } from '../../core/effects/rows.ts';
import { desk, mara, tam } from '../simulated-desk.ts';

type Desk = ReturnType<typeof desk>;
const row = (level: number, more: Partial<EffectRow> = {}): EffectRow => ({
  id: 'tried',
  number: 500,
  name: 'Tried',
  tracks: [
    {
      attribute: 'Dimmer',
      wave: 'sine',
      mode: 'absolute',
      size: 0,
      base: level,
      width: 1,
      offset: 0,
    },
  ],
  speed: { hz: 1 },
  direction: 'forward',
  spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
  ...more,
});
const select = (d: Desk, ...numbers: number[]): void =>
  void d.say(mara, { command: 'select', fixtures: numbers.map((n) => idOf(d.show, n)) });
const attempt = (d: Desk, effect: EffectRow | null, kept?: string) =>
  d.say(mara, {
    command: 'try-effect',
    effect,
    ...(kept === undefined ? {} : { kept }),
  });
/** An edit of the show as others plan it, who do not have what is tried here. */
const edited = (d: Desk, before: EffectRow | null, after: EffectRow): void =>
  void d.live.apply({
    seq: before ? 2 : 1,
    editId: 'e',
    userId: 'tam',
    userName: 'Tam',
    at: '',
    edit: 'set-effect',
    summary: '',
    reverts: null,
    rows: [{ table: 'effects', id: 'tried', before, after }],
  });
const held = (d: Desk, n: number) =>
  heldBy(d.live.programmers, 'mara').get(`${idOf(d.show, n)}:Dimmer`);

test('each change is on stage; leaving gives back what was held and lets go of the rest', () => {
  const d = desk();
  select(d, 1, 2);
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.4 });
  d.pass(2);
  attempt(d, row(0.7));
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([expect.closeTo(0.7, 3), expect.closeTo(0.7, 3)]);
  attempt(d, row(0.2));
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([expect.closeTo(0.2, 3), expect.closeTo(0.2, 3)]);
  attempt(d, null);
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([expect.closeTo(0.4, 3), 0]);
  expect(held(d, 1)).toMatchObject({ level: 0.4 });
  expect(held(d, 1)?.effect).toBeUndefined();
  expect(held(d, 2)).toBeUndefined();
  expect(d.show.effects.has('tried')).toBe(false);
});

test('it follows the selection: what is no longer selected has what it had', () => {
  const d = desk();
  select(d, 1);
  attempt(d, row(0.7));
  d.pass(2);
  select(d, 2);
  attempt(d, row(0.7));
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([0, expect.closeTo(0.7, 3)]);
});

test('a lane that is added moves what it had not, and leaves it as it was', () => {
  const d = desk();
  select(d, 101);
  attempt(d, row(0.7));
  const tilt = { ...row(0.3).tracks[0], attribute: 'Tilt' } as EffectRow['tracks'][number];
  const before = d.level(101, 'Tilt');
  attempt(d, row(0.7, { tracks: [...row(0.7).tracks, tilt] }));
  d.pass(2);
  expect(d.level(101, 'Tilt')).toBeCloseTo(0.3, 3);
  attempt(d, null);
  d.pass(2);
  expect(d.level(101, 'Tilt')).toBeCloseTo(before, 3);
  expect(heldBy(d.live.programmers, 'mara').size).toBe(0);
});

test('changing one that runs is seen wherever it runs, and undone by leaving', () => {
  const d = desk();
  d.edit(mara, 'set-effect', { as: 'tried', set: row(0.5) });
  d.say(tam, { command: 'effect', fixtures: [3], effect: 'tried', on: true });
  d.pass(2);
  expect(d.level(3)).toBeCloseTo(0.5, 3);
  attempt(d, row(0.9));
  d.pass(2);
  expect(d.level(3)).toBeCloseTo(0.9, 3);
  attempt(d, null);
  d.pass(2);
  expect(d.level(3)).toBeCloseTo(0.5, 3);
});

test('what is kept runs on where it was tried', () => {
  const d = desk();
  select(d, 1);
  attempt(d, row(0.7));
  d.pass(2);
  edited(d, null, row(0.7));
  attempt(d, null, 'tried');
  d.pass(2);
  expect(d.level(1)).toBeCloseTo(0.7, 3);
  expect(held(d, 1)).toMatchObject({ effect: { id: 'tried' } });
  expect(d.show.effects.get('tried')?.name).toBe('Tried');
});

test('kept under an id of its own it runs as that; what is said to be kept and is not there is left', () => {
  const d = desk();
  select(d, 1);
  attempt(d, row(0.7));
  d.edit(mara, 'set-effect', { as: 'kept', set: { ...row(0.7), number: 501 } });
  attempt(d, null, 'kept');
  expect(held(d, 1)).toMatchObject({ effect: { id: 'kept' } });
  attempt(d, row(0.9));
  attempt(d, null, 'never');
  expect(held(d, 1)).toMatchObject({ effect: { id: 'kept' } });
});

test('another’s edit of it stands under the trial and is what comes back', () => {
  const d = desk();
  d.edit(mara, 'set-effect', { as: 'tried', set: row(0.5) });
  select(d, 1);
  attempt(d, row(0.9));
  edited(d, row(0.5), row(0.1));
  d.pass(2);
  expect(d.level(1)).toBeCloseTo(0.9, 3);
  attempt(d, null);
  expect(d.show.effects.get('tried')?.tracks[0]?.base).toBe(0.1);
});

test('two cannot change the same one at once', () => {
  const d = desk();
  d.edit(mara, 'set-effect', { as: 'tried', set: row(0.5) });
  attempt(d, row(0.9));
  expect(d.say(tam, { command: 'try-effect', effect: row(0.1) })).toMatchObject({
    message: 'Mara Kell is changing this effect just now.',
  });
});

test('blind it does not show, and the last screen that goes takes it along', () => {
  const d = desk();
  d.edit(mara, 'set-effect', { as: 'kept', set: row(0.5) });
  select(d, 1);
  d.say(mara, { command: 'blind', on: true });
  expect(attempt(d, row(0.9, { id: 'kept' }))).toMatchObject({ code: 'invalid' });
  d.pass(2);
  attempt(d, row(0.9));
  d.pass(2);
  expect(d.level(1)).toBe(0);
  expect(programmerOf(d.live.programmers, 'mara').blind).toBe(true);
  d.live.personLeft('mara');
  expect(heldBy(d.live.programmers, 'mara').size).toBe(0);
});

test('units that hold nothing are shown with the level that they have on stage', () => {
  const d = desk();
  select(d, 3);
  attempt(d, row(0.6));
  expect(held(d, 3)).toMatchObject({ level: 0, taken: true, effect: { id: 'tried' } });
});
