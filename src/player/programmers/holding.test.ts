/** Holding and letting go, to the edges: how many steps come back, whose values stay, what is a step at all. */
import { recordedValue } from '../../core/live/held.ts';
import { idOf } from '../../core/testing/example.ts';
import { desk, iden, mara, tam } from '../simulated-desk.ts';
import { chosenKeys, fixturesFor, giveBack, takeOver } from './holding.ts';
import { heldBy, holders, markRecorded, otherProgrammers, programmerOf, sumOf } from './seen.ts';

type Desk = ReturnType<typeof desk>;
const set = (d: Desk, fixtures: number[], level: number, who = mara): void =>
  void d.say(who, { command: 'set', fixtures, attribute: 'Dimmer', level });
/** Number of the unit and level of all that somebody holds. */
const held = (d: Desk, userId = 'mara'): [number | undefined, number][] =>
  [...heldBy(d.live.programmers, userId).values()].map((v) => [
    d.show.fixtures.get(v.fixtureId)?.number,
    v.level,
  ]);

test('twenty clears come back, the last first; the ones before are gone', () => {
  const d = desk();
  // Each of another size than its neighbours.
  const sizes = Array.from({ length: 25 }, (_, n) => (n % 6) + 1);
  for (const size of sizes) {
    set(d, [1, 2, 3, 4, 5, 6].slice(0, size), 0.5);
    d.say(mara, { command: 'clear' });
  }
  const back: number[] = [];
  for (;;) {
    const { cleared } = programmerOf(d.live.programmers, 'mara');
    if ('refused' in d.say(mara, { command: 'bring-back' })) break;
    back.push(cleared);
  }
  expect(back).toEqual(sizes.slice(5).reverse());
});

test('what was recorded is no step when it is cleared: it stands in the cue', () => {
  const d = desk();
  set(d, [1, 2], 0.5);
  d.edit(mara, 'record-cue', {
    listId: 'main',
    number: 1000,
    values: [...heldBy(d.live.programmers, 'mara').values()].map(recordedValue),
  });
  markRecorded(d.live.programmers, 'mara', [...heldBy(d.live.programmers, 'mara').values()]);
  d.say(mara, { command: 'clear' });
  expect([held(d), programmerOf(d.live.programmers, 'mara').cleared]).toEqual([[], 0]);
  expect(d.say(mara, { command: 'bring-back' })).toMatchObject({
    code: 'nothing',
    message: 'Nothing was cleared that could be brought back.',
  });
  // One of them changed since: all of them are one step.
  set(d, [1, 2], 0.5);
  markRecorded(d.live.programmers, 'mara', [...heldBy(d.live.programmers, 'mara').values()]);
  set(d, [2], 0.7);
  d.say(mara, { command: 'clear' });
  expect(programmerOf(d.live.programmers, 'mara').cleared).toBe(2);
});

test('units that are not in the rig any more do not come back, and that is said', () => {
  const d = desk();
  set(d, [1], 0.5);
  d.say(mara, { command: 'clear' });
  d.edit(mara, 'delete-fixtures', { ids: [idOf(d.show, 1)] });
  expect(d.say(mara, { command: 'bring-back' })).toMatchObject({
    code: 'nothing',
    message: 'The units of what was cleared are not in the rig any more.',
  });
});

test('one takes over from another what they do not hold themselves, as it stands; the other has nothing to bring back', () => {
  const d = desk();
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.8, delay_s: 2 });
  set(d, [2], 0.6);
  set(d, [2, 3], 0.2, tam);
  d.pass(3);
  expect(takeOver(d.live.programmers, 'mara', tam)).toBe(1);
  expect(held(d, 'tam')).toEqual([
    [2, 0.2],
    [3, 0.2],
    [1, 0.8],
  ]);
  expect(heldBy(d.live.programmers, 'tam').get(`${idOf(d.show, 1)}:Dimmer`)?.delay_s).toBe(0);
  expect([held(d), programmerOf(d.live.programmers, 'mara').cleared]).toEqual([[], 0]);
  d.pass(0.1);
  expect([d.level(1), d.level(2)]).toEqual([expect.closeTo(0.8, 4), expect.closeTo(0.2, 4)]);
  expect(takeOver(d.live.programmers, 'nobody', tam)).toBe(0);
});

test('given back after a recording was undone: held again where nothing else is held since, or kept to be brought back', () => {
  const d = desk();
  set(d, [1, 2], 0.5);
  const was = [...heldBy(d.live.programmers, 'mara').values()];
  d.say(mara, { command: 'letgo' });
  d.live.programmers.operators.get('mara')?.clears.pop();
  set(d, [2], 0.9);
  giveBack(d.live.programmers, mara, was, true);
  expect(held(d)).toEqual([
    [2, 0.9],
    [1, 0.5],
  ]);
  d.say(mara, { command: 'letgo' });
  d.live.programmers.operators.get('mara')?.clears.pop();
  giveBack(d.live.programmers, mara, was, false);
  expect([held(d), programmerOf(d.live.programmers, 'mara').cleared]).toEqual([[], 2]);
  d.say(mara, { command: 'bring-back' });
  expect(held(d).map(([n]) => n)).toEqual([1, 2]);
  // Nothing of it left to give: nothing is a step.
  giveBack(d.live.programmers, mara, was, false);
  expect(programmerOf(d.live.programmers, 'mara').cleared).toBe(0);
});

test('who is meant: the numbers that are named, or the selection in its order', () => {
  const d = desk();
  const p = d.live.programmers;
  expect(fixturesFor(p, mara, undefined)).toMatchObject({ code: 'nothing' });
  expect(fixturesFor(p, mara, [1, 77])).toMatchObject({
    code: 'not-found',
    fields: { fixtures: '77 is unknown.' },
  });
  d.say(mara, { command: 'select', fixtures: [idOf(d.show, 3), idOf(d.show, 1)] });
  const selected = fixturesFor(p, mara, undefined);
  expect('message' in selected ? [] : selected.map((f) => f.number)).toEqual([3, 1]);
});

test('what is let go of: by slots, by units, families and attributes together, or all', () => {
  const d = desk();
  const p = d.live.programmers;
  for (const [fixtures, attribute] of [
    [[1], 'Dimmer'],
    [[101], 'Dimmer'],
    [[101], 'Pan'],
    [[102], 'Pan'],
  ] as const)
    d.say(mara, { command: 'set', fixtures: [...fixtures], attribute, level: 0.5 });
  const keys = (c: Omit<Parameters<typeof chosenKeys>[2], 'command'>): string[] | undefined =>
    chosenKeys(p, mara, { command: 'letgo', ...c })?.map((key) => {
      const [id = '', attribute = ''] = key.split(':');
      return `${d.show.fixtures.get(id)?.number} ${attribute}`;
    });
  expect(keys({})).toBeUndefined();
  expect(keys({ fixtures: [101] })).toEqual(['101 Dimmer', '101 Pan']);
  expect(keys({ families: ['position'] })).toEqual(['101 Pan', '102 Pan']);
  expect(keys({ fixtures: [101], families: ['intensity'] })).toEqual(['101 Dimmer']);
  expect(keys({ fixtures: [102], attributes: ['Dimmer'] })).toEqual([]);
  const slots = [{ fixtureId: idOf(d.show, 102), attribute: 'Pan' }];
  expect(keys({ slots })).toEqual(['102 Pan']);
});

test('what others see: how much, of how many units, what is not recorded; marks of those who are here alone', () => {
  const d = desk();
  const p = d.live.programmers;
  d.here.add('mara');
  d.here.add('tam');
  set(d, [1, 2], 0.5);
  d.say(mara, { command: 'set', fixtures: [101], attribute: 'Pan', level: 0.5 });
  markRecorded(p, 'mara', [...heldBy(p, 'mara').values()].slice(0, 1));
  d.say(tam, { command: 'select', fixtures: [idOf(d.show, 4)] });
  expect(sumOf(p, 'mara')).toEqual({ name: 'Mara Kell', values: 3, fixtures: 3, blind: false });
  expect(sumOf(p, 'nobody')).toEqual({ name: 'somebody', values: 0, fixtures: 0, blind: false });
  expect(holders(p)).toEqual(['mara']);
  expect(otherProgrammers(p, 'tam')).toMatchObject([
    { userId: 'mara', here: true, values: 3, unrecorded: 2 },
  ]);
  expect(otherProgrammers(p, 'mara')).toMatchObject([
    { userId: 'tam', values: 0, selection: [idOf(d.show, 4)] },
  ]);
  // Gone: what is held is on stage still, a mere selection is of no more use.
  d.here.clear();
  expect(otherProgrammers(p, iden.userId)).toMatchObject([
    { userId: 'mara', here: false, selection: [], follows: [] },
  ]);
});
