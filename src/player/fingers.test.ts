/** A key that is held down is up when its finger is: whoever else holds it, and whatever has become of who held it. */
import { cue, sheet } from '../core/testing/example.ts';
import { fingerOf, type Actor } from './actor.ts';
import { desk, mara, tam } from './simulated-desk.ts';

const PHONE: Actor = { ...mara, screen: 'screen/1', remote: true };
const TABLET: Actor = { ...mara, screen: 'screen/2' };
const press = (on: boolean) => ({ command: 'flash', fader: 1, on }) as const;

function held() {
  const d = desk();
  cue(d.show, 1, { 1: 100 });
  d.edit(mara, 'set-fader', {
    set: { name: 'Wash', holds: { kind: 'list', id: 'main' }, mode: 'proportional', flash: 'full' },
  });
  const [fader] = d.show.faders.values();
  return {
    d,
    fader: fader?.id ?? '',
    isOn: () => d.live.faders.statuses()[0]?.flash,
    press: (by: Actor) => d.live.whoever(press(true), by),
  };
}

test('two hold it, also one person on two screens: it is up when both have lifted', () => {
  const { d, isOn, press: down } = held();
  down(PHONE);
  down(TABLET);
  expect(d.live.lift(PHONE, press(false))).toBe(true);
  expect(isOn()).toBe(true);
  // Nobody else’s finger lifts it, and none is lifted twice.
  expect(d.live.lift(tam, press(false))).toBe(false);
  d.live.whoever(press(false), tam);
  expect([d.live.lift(PHONE, press(false)), isOn()]).toEqual([false, true]);
  expect([d.live.lift(TABLET, press(false)), isOn()]).toEqual([true, false]);
});

describe('a list that a key starts', () => {
  const lift = (d: ReturnType<typeof held>['d']): unknown => d.live.lift(PHONE, press(false));
  const cueNow = (d: ReturnType<typeof held>['d']) => d.list('main')?.cueNumber;

  test('goes with the key where its fader is down', () => {
    const { d, press: down } = held();
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    down(PHONE);
    d.pass(4);
    expect([cueNow(d), d.level(1)]).toEqual([1000, 1]);
    lift(d);
    d.pass(0.1);
    expect([cueNow(d), d.level(1)]).toEqual([null, 0]);
  });

  test('stays where its fader is up, at the level of the fader', () => {
    const { d, press: down } = held();
    d.say(mara, { command: 'fader', fader: 1, level: 0.6 });
    down(PHONE);
    d.pass(4);
    expect([cueNow(d), d.level(1)]).toEqual([1000, 1]);
    lift(d);
    d.pass(0.1);
    expect(cueNow(d)).toBe(1000);
    expect(d.level(1)).toBeCloseTo(0.6, 2);
  });

  test('one that played before is let alone', () => {
    const { d, press: down } = held();
    d.say(mara, { command: 'go' });
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    down(PHONE);
    lift(d);
    d.pass(0.1);
    expect(cueNow(d)).toBe(1000);
  });
});

test('a screen that is gone holds nothing', () => {
  const { d, isOn, press: down } = held();
  down(PHONE);
  d.live.gone(fingerOf(TABLET));
  expect(isOn()).toBe(true);
  d.live.gone(fingerOf(PHONE));
  expect(isOn()).toBe(false);
});

test('remotes that are switched off, or a board that another takes, do not keep it down', () => {
  const { d, isOn, press: down } = held();
  down(PHONE);
  d.live.setRemotes(false);
  d.say(tam, { command: 'board', do: 'take' } as never);
  expect([d.live.lift(PHONE, press(false)), isOn()]).toEqual([true, false]);
});

test('a piece of a sheet that holds it lifts it too, and so does a cue, for everybody', () => {
  const { d, fader, isOn, press: down } = held();
  const made = sheet(d.show, 'Sunday', [{ kind: 'fader', fader, as: 'flash' }]);
  const piece = [...d.show.sheetpieces.values()].find((p) => p.sheet === made.sheet)?.id ?? '';
  const touch = (on: boolean) => ({ command: 'touch', piece, on }) as const;
  expect(d.live.whoever(touch(true), TABLET)).toMatchObject({ ok: true });
  expect(isOn()).toBe(true);
  expect([d.live.lift(TABLET, touch(false)), isOn()]).toEqual([true, false]);
  // A press of a fader’s level is none of this.
  expect(d.live.lift(TABLET, { command: 'touch', piece, level: 0 })).toBe(false);
  down(PHONE);
  down(TABLET);
  const row = d.show.faders.get(fader);
  if (row) d.live.faders.press(row, false);
  expect([isOn(), d.live.lift(PHONE, press(false))]).toEqual([false, false]);
});
