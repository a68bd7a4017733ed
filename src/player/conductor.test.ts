/** What a clock answers, and when. */
import { exampleShow } from '../core/testing/example.ts';
import { compileEffects } from '../core/playback/programs.ts';
import { compileSlots } from '../core/playback/slots.ts';
import { moves } from '../core/testing/columns.ts';
import type { FromClock, ShowMessage } from './clock-messages.ts';
import { Conductor } from './conductor.ts';

test('whoever waits for a frame gets it after all that was told before is in one, and never sooner', () => {
  const said: FromClock[] = [];
  const show = exampleShow();
  const conductor = new Conductor((m) => said.push(m));
  const tell = (m: unknown): void => conductor.handle(m as ShowMessage, 0);
  tell({
    do: 'open',
    showId: 's',
    slots: compileSlots(show),
    version: 1,
    programs: compileEffects(show, 120),
    configs: [],
    routes: [],
    saved: null,
  });
  tell({ do: 'master', showId: 's', level: 0.5, blackout: false });
  tell({ do: 'frame', showId: 's', id: 7 });
  expect(said.some((m) => m.is === 'framed')).toBe(false);
  conductor.tick(0.02);
  expect(said.filter((m) => m.is === 'framed')).toEqual([{ is: 'framed', id: 7 }]);
  conductor.tick(0.04);
  expect(said.filter((m) => m.is === 'framed')).toHaveLength(1);
  // A show that is not open has no frame to wait for.
  tell({ do: 'frame', showId: 'other', id: 8 });
  expect(said.at(-1)).toEqual({ is: 'framed', id: 8 });
});

/** A conductor with one show, of which a list fades its first slot. */
function fading(up_s: number) {
  const show = exampleShow();
  const slots = compileSlots(show);
  const conductor = new Conductor(() => undefined);
  const programs = compileEffects(show, 120);
  const tell = (m: object, now_s: number): void =>
    conductor.handle({ showId: 's', ...m } as ShowMessage, now_s);
  tell({ do: 'open', slots, version: 1, programs, configs: [], routes: [], saved: null }, 0);
  conductor.tick(0);
  tell({ do: 'move', listId: 'a', moves: moves(0, { level: 1, up_s }), follow_s: null }, 0);
  const elapsed = (): number => conductor.shows.get('s')?.engine.status('a').elapsed_s ?? -1;
  return { conductor, slots, tell, elapsed };
}

describe('a follow between two frames', () => {
  function following(follow_s: number) {
    const said: FromClock[] = [];
    const show = exampleShow();
    const slots = compileSlots(show);
    const conductor = new Conductor((m) => said.push(m));
    const programs = compileEffects(show, 120);
    const tell = (m: object, now_s: number): void =>
      conductor.handle({ showId: 's', ...m } as ShowMessage, now_s);
    tell({ do: 'open', slots, version: 1, programs, configs: [], routes: [], saved: null }, 10);
    conductor.tick(10);
    const go = (now_s: number, onTime = false): void =>
      tell(
        { do: 'move', listId: 'a', moves: moves(0, { level: 1, up_s: 2 }), follow_s, onTime },
        now_s,
      );
    go(10);
    const dues = (): number => said.filter((m) => m.is === 'due').length;
    return { conductor, tell, go, dues };
  }

  test('is known beforehand, told at its moment and not with the frame after it, and once', () => {
    const { conductor, dues } = following(0.05);
    expect(conductor.nextDue_s).toBeCloseTo(10.05, 9);
    conductor.tick(10.023);
    expect(conductor.nextDue_s).toBeCloseTo(10.05, 9);
    conductor.notice(10.045);
    expect(dues()).toBe(0);
    conductor.notice(10.051);
    expect(dues()).toBe(1);
    expect(conductor.nextDue_s).toBe(Infinity);
    conductor.tick(10.07);
    expect(dues()).toBe(1);
  });

  test('what is noticed there takes nothing from the fade under way', () => {
    const [whole, seen] = [following(0.5), following(0.5)];
    for (let n = 1; n <= 40; n++) {
      whole.conductor.tick(10 + n * 0.0228);
      seen.conductor.notice(10 + n * 0.0228 - 0.01);
      seen.conductor.tick(10 + n * 0.0228);
    }
    const elapsed = (of: typeof whole) => of.conductor.shows.get('s')?.engine.status('a').elapsed_s;
    expect(elapsed(seen)).toBeCloseTo(elapsed(whole) ?? -1, 9);
  });

  test('comes sooner and later with the rate; a list that is paused or led by hand has none', () => {
    const { conductor, tell } = following(1);
    tell({ do: 'rate', listId: 'a', rate: 2 }, 10.5);
    expect(conductor.nextDue_s).toBeCloseTo(10.75, 9);
    tell({ do: 'pause', listId: 'a', paused: true }, 10.6);
    expect(conductor.nextDue_s).toBe(Infinity);
    tell({ do: 'pause', listId: 'a', paused: false }, 11);
    expect(conductor.nextDue_s).toBeCloseTo(11.15, 9);
    tell({ do: 'hand', listId: 'a', position: 0.5 }, 11);
    expect(conductor.nextDue_s).toBe(Infinity);
  });

  test('cues that follow each other at once go no faster than frames', () => {
    const { conductor, go, dues } = following(0);
    for (let n = 1; n <= 200; n++) {
      const now_s = 10 + n * 0.001;
      const before = dues();
      conductor.notice(now_s);
      if (n % 23 === 0) conductor.tick(now_s);
      if (dues() > before) go(now_s, true);
    }
    expect(dues()).toBeGreaterThan(6);
    expect(dues()).toBeLessThanOrEqual(10);
  });
});

test('a pause counts from when it was told to when it ends, not from frame to frame; a rate as well', () => {
  const { conductor, tell, elapsed } = fading(100);
  for (let n = 0; n < 50; n++) {
    tell({ do: 'pause', listId: 'a', paused: true }, n * 0.04 + 0.015);
    conductor.tick(n * 0.04 + 0.02);
    tell({ do: 'pause', listId: 'a', paused: false }, n * 0.04 + 0.025);
    conductor.tick(n * 0.04 + 0.04);
  }
  expect(elapsed()).toBeCloseTo(50 * 0.03, 5);
  for (let n = 50; n < 100; n++) {
    tell({ do: 'rate', listId: 'a', rate: 2 }, n * 0.04 + 0.015);
    conductor.tick(n * 0.04 + 0.02);
    tell({ do: 'rate', listId: 'a', rate: 1 }, n * 0.04 + 0.025);
    conductor.tick(n * 0.04 + 0.04);
  }
  expect(elapsed()).toBeCloseTo(50 * 0.03 + 50 * 0.05, 5);
});

test('a rig that changes between two frames takes no time from a fade', () => {
  const { conductor, slots, tell, elapsed } = fading(10);
  for (let frame = 1; frame <= 100; frame++) {
    const now = frame * 0.02;
    tell({ do: 'rig', slots, version: frame + 1 }, now - 0.005);
    conductor.tick(now);
  }
  expect(elapsed()).toBeCloseTo(2, 5);
});

test('a rig that changes leaves a fade in the hand that leads it, and a light under the finger that flashes it', () => {
  const { conductor, slots, tell } = fading(10);
  const level = (): number => conductor.shows.get('s')?.engine.shared.out[0] ?? NaN;
  tell({ do: 'hand', listId: 'a', position: 0.5 }, 0.1);
  tell({ do: 'rig', slots, version: 2 }, 0.2);
  for (const now of [0.3, 2, 4]) conductor.tick(now);
  expect(level()).toBeCloseTo(0.5, 5);
  // Led to its end and back again, also over such a change.
  tell({ do: 'hand', listId: 'a', position: 1 }, 4.1);
  conductor.tick(4.2);
  tell({ do: 'rig', slots, version: 3 }, 4.3);
  tell({ do: 'hand', listId: 'a', position: 0.25 }, 4.4);
  conductor.tick(4.5);
  expect(level()).toBeCloseTo(0.25, 5);
  tell({ do: 'hand', listId: 'a', position: 1 }, 4.6);
  tell({ do: 'hand', listId: 'a', position: null }, 4.6);
  tell({ do: 'list-master', listId: 'a', level: 0, time_s: 0 }, 4.7);
  conductor.tick(5);
  expect(level()).toBe(0);
  tell({ do: 'flash', listId: 'a', on: true, solo: false }, 5.1);
  tell({ do: 'rig', slots, version: 4 }, 5.2);
  conductor.tick(5.3);
  expect(level()).toBeCloseTo(1, 5);
  tell({ do: 'flash', listId: 'a', on: false, solo: false }, 5.4);
  conductor.tick(5.5);
  expect(level()).toBe(0);
});
