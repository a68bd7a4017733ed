import { setBlind } from './programmers/selecting.ts';
import { otherProgrammers } from './programmers/seen.ts';
import { exampleShow } from '../core/testing/example.ts';
import { AWAY_TOLD_S, DECIDE_IN_S, LEFT_FADE_S } from './left-light.ts';
import { desk, mara, tam, yrsa } from './simulated-desk.ts';
import type { Actor } from './actor.ts';

/** Mara holds unit 1 at 80 and goes. */
function left(
  why: 'away' | 'out' | 'removed' | 'role',
  ...others: Actor[]
): ReturnType<typeof desk> {
  const d = desk(exampleShow());
  for (const p of [mara, ...others]) d.here.add(p.userId);
  d.say(mara, {
    command: 'select',
    fixtures: [...d.show.fixtures.values()].filter((f) => f.number === 1).map((f) => f.id),
  });
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.8 });
  d.pass(0.2);
  if (why === 'role') d.live.withdrawn('mara', 'role');
  else {
    d.here.delete('mara');
    d.live.personLeft('mara', why);
  }
  d.live.lookAtPeople();
  return d;
}
const states = (d: ReturnType<typeof desk>) => d.live.playback().left;
const wait = (d: ReturnType<typeof desk>, s: number): void => {
  for (let t = 0; t < s; t++) {
    d.pass(1);
    d.live.lookAtPeople();
  }
};

test('whoever signs out leaves light: those who are here are told, and it goes in three seconds when nobody decides', () => {
  const d = left('out', tam);
  expect(states(d)).toMatchObject([
    {
      userId: 'mara',
      name: 'Mara Kell',
      why: 'out',
      values: 1,
      fixtures: 1,
      kept: false,
      goesIn_s: DECIDE_IN_S,
    },
  ]);
  wait(d, DECIDE_IN_S - 1);
  expect(d.level(1)).toBeCloseTo(0.8, 3);
  for (let i = 0; i < 2 && states(d).length > 0; i++) wait(d, 1);
  d.pass(LEFT_FADE_S / 2);
  expect(d.level(1)).toBeCloseTo(0.4, 1);
  d.pass(LEFT_FADE_S);
  expect(d.level(1)).toBe(0);
  expect(states(d)).toEqual([]);
  expect(d.noted.at(-1)?.text).toBe(
    'Nobody decided: 1 value of Mara Kell, who has signed out, was let go in 3 s',
  );
  // It is theirs to bring back when they come again.
  d.here.add('mara');
  d.live.personCame('mara');
  expect(d.say(mara, { command: 'bring-back' })).toMatchObject({ ok: true });
  expect(d.level(1)).toBeCloseTo(0.8, 3);
});

test('taken over it stays where it is, also in the middle of its fade, and is the other’s to record', () => {
  const d = left('removed', tam);
  const before = d.level(1);
  expect(d.say(tam, { command: 'left-light', of: 'mara', do: 'take', fade_s: 3 })).toMatchObject({
    ok: true,
    message: 'You hold 1 value that Mara Kell held',
  });
  d.pass(0.1);
  expect(d.level(1)).toBeCloseTo(before, 4);
  expect(d.live.held('tam').values).toMatchObject([{ level: 0.8, recorded: false }]);
  expect(d.live.held('mara').values).toEqual([]);
  // The second of two who answer at once is told so.
  expect(d.say(yrsa, { command: 'left-light', of: 'mara', do: 'go', fade_s: 3 })).toMatchObject({
    code: 'nothing',
    message: expect.stringContaining('somebody was faster'),
  });
});

test('a fade that is under way goes on from where it is when it is taken over', () => {
  const d = desk(exampleShow());
  for (const p of [mara, tam]) d.here.add(p.userId);
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1, fade_s: 4 });
  d.pass(2);
  const before = d.level(1);
  d.here.delete('mara');
  d.live.personLeft('mara', 'out');
  d.say(tam, { command: 'left-light', of: 'mara', do: 'take', fade_s: 3 });
  d.pass(0.03);
  expect(Math.abs(d.level(1) - before)).toBeLessThan(0.03);
  d.pass(5);
  expect(d.level(1)).toBeCloseTo(1, 3);
});

test('left as it is, it stays until somebody says', () => {
  const d = left('role', tam);
  expect(d.say(tam, { command: 'left-light', of: 'mara', do: 'leave', fade_s: 3 })).toMatchObject({
    ok: true,
  });
  wait(d, DECIDE_IN_S * 3);
  expect(d.level(1)).toBeCloseTo(0.8, 3);
  expect(states(d)).toMatchObject([{ kept: true, goesIn_s: null }]);
  expect(d.say(tam, { command: 'left-light', of: 'mara', do: 'go', fade_s: 3 })).toMatchObject({
    ok: true,
  });
  d.pass(4);
  expect(d.level(1)).toBe(0);
});

test('while nobody is here who may play, nothing goes; it counts from when somebody comes', () => {
  const d = left('out');
  wait(d, DECIDE_IN_S * 2);
  expect(d.level(1)).toBeCloseTo(0.8, 3);
  d.here.add('tam');
  wait(d, 1);
  expect(states(d)[0]?.goesIn_s).toBeCloseTo(DECIDE_IN_S, 0);
});

test('a lost connection is not spoken of at once, lets nothing go, and is over when they are back', () => {
  const d = left('away', tam);
  expect(states(d)).toEqual([]);
  expect(d.say(tam, { command: 'left-light', of: 'mara', do: 'go', fade_s: 3 })).toMatchObject({
    ok: true,
  });
  d.pass(4);
  expect(d.level(1)).toBe(0);
  const again = left('away', tam);
  wait(again, AWAY_TOLD_S + DECIDE_IN_S * 2);
  expect(states(again)).toMatchObject([{ why: 'away', goesIn_s: null }]);
  expect(again.level(1)).toBeCloseTo(0.8, 3);
  again.here.add('mara');
  again.live.personCame('mara');
  expect(states(again)).toEqual([]);
});

test('who is here is asked; who is blind takes nothing over; what is held blind concerns nobody', () => {
  const d = desk(exampleShow());
  for (const p of [mara, tam]) d.here.add(p.userId);
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.8 });
  expect(d.say(tam, { command: 'left-light', of: 'mara', do: 'go', fade_s: 3 })).toMatchObject({
    code: 'board',
    message: 'Mara Kell is here and holds it. Ask them.',
  });
  d.live.personLeft('mara', 'out');
  d.here.delete('mara');
  d.say(tam, { command: 'blind', on: true });
  expect(d.say(tam, { command: 'left-light', of: 'mara', do: 'take', fade_s: 3 })).toMatchObject({
    code: 'blind',
  });
  setBlind(d.live.programmers, mara, true);
  wait(d, DECIDE_IN_S * 2);
  expect(states(d)).toEqual([]);
  expect(d.live.held('mara').values).toHaveLength(1);
});

test('marks of the absent go, what they hold is still told', () => {
  const d = left('away', tam);
  expect(otherProgrammers(d.live.programmers, 'tam')).toMatchObject([
    { userId: 'mara', here: false, values: 1, selection: [], follows: [] },
  ]);
  d.here.add('mara');
  expect(otherProgrammers(d.live.programmers, 'tam')[0]?.selection).toHaveLength(1);
});

test('why somebody is out outlives the process', async () => {
  const d = left('out', tam);
  const saved = await d.live.saved();
  const again = desk(exampleShow(), JSON.parse(JSON.stringify(saved)) as typeof saved);
  again.here.add('tam');
  again.live.lookAtPeople();
  expect(again.live.playback().left).toMatchObject([
    { userId: 'mara', why: 'out', goesIn_s: DECIDE_IN_S },
  ]);
});
