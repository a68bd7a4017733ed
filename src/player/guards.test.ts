/** Guarded units: nothing that plays reaches them, hands do; let off, they go to what plays by then. */
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import { desk, iden, mara, tam } from './simulated-desk.ts';

const near = (v: number): number => expect.closeTo(v, 2);

function running() {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 50 }, { up_s: 0, down_s: 0 });
  cue(show, 2, { 1: 90, 2: 90 }, { up_s: 1, down_s: 1 });
  cue(show, 3, { 1: 20, 2: 20 }, { up_s: 1, down_s: 1 });
  const d = desk(show);
  d.say(mara, { command: 'go' });
  d.pass(0.1);
  return d;
}

test('a cue goes past a guarded unit, and release too; a hand moves it and gives it back to its guard', () => {
  const d = running();
  expect(d.say(mara, { command: 'guard', fixtures: [1], on: true })).toMatchObject({
    ok: true,
    message: '1 fixture guarded: nothing that plays reaches them',
  });
  d.say(mara, { command: 'go' });
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([near(0.5), near(0.9)]);
  expect(d.source(1)).toBe('guarded by Mara Kell');
  d.say(tam, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.7 });
  d.pass(0.1);
  expect([d.level(1), d.source(1)]).toEqual([near(0.7), 'programmer of Tam Brevik']);
  d.say(tam, { command: 'letgo', fade_s: 1 });
  d.pass(0.5);
  expect(d.level(1)).toEqual(near(0.6));
  d.pass(1);
  d.say(mara, { command: 'release-all', time: 0 });
  d.pass(0.1);
  expect([d.level(1), d.level(2)]).toEqual([near(0.5), 0]);
  expect(d.live.over('mara').guarded).toMatchObject([{ by: 'Mara Kell' }]);
});

test('the grand master and park reach it', () => {
  const d = running();
  d.say(mara, { command: 'guard', fixtures: [1], on: true });
  d.say(mara, { command: 'master', level: 0.5 });
  d.pass(0.1);
  expect(d.level(1)).toEqual(near(0.25));
  d.say(mara, { command: 'park', fixtures: [1], level: 1, on: true });
  d.pass(0.1);
  expect([d.level(1), d.source(1)]).toEqual([1, 'parked by Mara Kell']);
});

test('let off it fades to what plays by then, in its time', () => {
  const d = running();
  d.say(mara, { command: 'guard', fixtures: [1, 2], on: true });
  d.say(mara, { command: 'go' });
  d.pass(2);
  d.say(mara, { command: 'guard', fixtures: [1], on: false, time: 4 });
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([near(0.7), near(0.5)]);
  // A cue that goes on while it is on its way out is met on its way.
  d.say(mara, { command: 'go' });
  d.pass(2.1);
  expect([d.level(1), d.source(1)]).toEqual([near(0.2), expect.stringContaining('cue 3')]);
  d.say(mara, { command: 'guard', on: false });
  d.pass(2.1);
  expect(d.level(2)).toEqual(near(0.2));
});

test('what is not there, or not allowed, changes nothing', () => {
  const d = running();
  expect(d.say(mara, { command: 'guard', fixtures: [1, 77], on: true })).toMatchObject({
    message: 'There is no fixture 77. Nothing was guarded.',
  });
  expect(d.say(mara, { command: 'guard', on: true })).toMatchObject({ code: 'invalid' });
  expect(d.say(iden, { command: 'guard', fixtures: [1], on: true })).toMatchObject({
    refused: true,
  });
  expect(d.live.over('mara').guarded).toEqual([]);
});

test('it stays guarded with the next player and with another patch; a unit that is deleted is not', async () => {
  const d = running();
  d.say(mara, { command: 'guard', fixtures: [1, 2], on: true });
  d.say(mara, { command: 'go' });
  d.pass(2);
  d.edit(mara, 'change-fixtures', {
    fixtures: [{ id: idOf(d.show, 3), set: { label: 'Elsewhere', patch: [] } }],
  });
  d.pass(0.1);
  expect(d.level(1)).toEqual(near(0.5));
  const other = desk(d.show, JSON.parse(JSON.stringify(await d.live.saved())) as never);
  other.pass(0.1);
  expect([other.level(1), other.source(1)]).toEqual([near(0.5), 'guarded by Mara Kell']);
  apply(d.show, 'record-cue', { listId: 'main', number: 9000, values: [] });
  other.edit(mara, 'delete-fixtures', { ids: [idOf(d.show, 2)] });
  expect(other.live.over('mara').guarded).toHaveLength(1);
});
