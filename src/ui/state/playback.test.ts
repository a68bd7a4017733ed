/** What the player tells again and again, kept as it was where nothing but time has gone by. */
import fc from 'fast-check';
import type { FaderStatus, ListStatus, PlaybackState } from '@/core/live/messages';
import { same } from '@/core/same';
import { asBefore } from './as-before';
import { elapsedAt, followAt, heardPlayback, type Playback } from './playback';
import { useScreen } from './store';

const nothing: Playback = useScreen.getState().playback;
const list = (set: Partial<ListStatus> = {}): ListStatus => ({
  id: 'main',
  name: 'Main',
  cueId: 'c1',
  cueNumber: 1000,
  nextId: 'c2',
  elapsed_s: 2,
  total_s: 10,
  paused: false,
  running: true,
  armed: false,
  active: true,
  rate: 1,
  master: 1,
  hand: null,
  followIn_s: null,
  bpm: null,
  chase: null,
  rounds: { c1: 1 },
  track: null,
  ...set,
});
const fader = (id: string, level: number): FaderStatus => ({
  id,
  level,
  real: level,
  waiting: false,
  flash: false,
});
/** As JSON brings it: no object is another’s. */
const told = (set: Partial<PlaybackState>): PlaybackState =>
  JSON.parse(JSON.stringify({ ...nothing, ...set })) as PlaybackState;
const heard = (was: Playback, set: Partial<PlaybackState>, now_ms: number): Playback =>
  heardPlayback(was, told(set), now_ms);
const first = (p: Playback) => {
  const [l] = p.lists;
  if (!l) throw new Error('no list');
  return l;
};

describe('a list that fades', () => {
  const was = heard(nothing, { lists: [list()] }, 1000);

  test('is the same while it goes on, and counts on by itself', () => {
    const now = heard(was, { lists: [list({ elapsed_s: 4.02 })] }, 3000);
    expect(now).toBe(was);
    expect(elapsedAt(first(now), 3000)).toBeCloseTo(4, 5);
    expect(elapsedAt(first(now), 60_000)).toBe(10);
  });

  test.each([
    ['it was put back', { elapsed_s: 3 }],
    ['another cue was gone into', { cueId: 'c2' }],
    ['it is over', { elapsed_s: 10, running: false }],
    ['it takes longer', { elapsed_s: 4, total_s: 12 }],
    ['a hand has it', { elapsed_s: 4, hand: 0.4 }],
    ['what follows comes earlier', { elapsed_s: 4, followIn_s: 1 }],
  ])('is another where %s', (_, set) => {
    const now = first(heard(was, { lists: [list(set)] }, 3000));
    expect(now).toMatchObject({ ...set, heard_ms: 3000 });
  });

  test('paused, it stands; at another pace it goes on from where it is', () => {
    const paused = heard(was, { lists: [list({ elapsed_s: 4, paused: true })] }, 3000);
    expect(elapsedAt(first(paused), 9000)).toBe(4);
    const faster = heard(was, { lists: [list({ elapsed_s: 4, rate: 2 })] }, 3000);
    expect(elapsedAt(first(faster), 4000)).toBe(6);
  });

  test('what follows is counted down with it, and stands with it', () => {
    const follows = heard(nothing, { lists: [list({ followIn_s: 5, rate: 2 })] }, 1000);
    expect(followAt(first(follows), 2000)).toBe(3);
    expect(followAt(first(follows), 9000)).toBe(0);
    const on = { elapsed_s: 6, rate: 2, followIn_s: 1 };
    expect(heard(follows, { lists: [list(on)] }, 3000)).toBe(follows);
    const paused = heard(follows, { lists: [list({ ...on, paused: true })] }, 3000);
    expect(followAt(first(paused), 9000)).toBe(1);
  });

  test('however often and late it is told, it is never off by more than a message is late', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ after_ms: fc.nat(400), late_ms: fc.nat(50) }), { maxLength: 40 }),
        fc.double({ min: 0.1, max: 4, noNaN: true }),
        (tellings, rate) => {
          let now = heard(nothing, { lists: [list({ elapsed_s: 0, total_s: 9, rate })] }, 0);
          let at_ms = 0;
          for (const { after_ms, late_ms } of tellings) {
            at_ms += after_ms;
            const elapsed_s = Math.min(9, (at_ms / 1000) * rate);
            const status = list({ elapsed_s, total_s: 9, rate, running: elapsed_s < 9 });
            now = heard(now, { lists: [status] }, at_ms + late_ms);
            const off_s = elapsedAt(first(now), at_ms + late_ms) - elapsed_s;
            expect(Math.abs(off_s)).toBeLessThanOrEqual(0.06 + (late_ms / 1000) * rate + 1e-9);
          }
        },
      ),
    );
  });
});

test('a track that runs is the same on its line, and another where it was led elsewhere', () => {
  const track = { position_s: 30, told_ms: 5000, runs: true, loop: null };
  const was = heard(nothing, { lists: [list({ total_s: 0, elapsed_s: 0, track })] }, 0);
  const at = (position_s: number, told_ms: number, set = {}) =>
    heard(
      was,
      {
        lists: [
          list({ total_s: 0, elapsed_s: 0, track: { ...track, position_s, told_ms, ...set } }),
        ],
      },
      400,
    );
  expect(at(30.4, 5400)).toBe(was);
  expect(first(at(30.45, 5400)).track).toMatchObject({ position_s: 30.45, told_ms: 5400 });
  expect(first(at(30.4, 5400, { runs: false })).track).toMatchObject({ told_ms: 5400 });
  expect(first(at(30.4, 5400, { loop: { from_s: 1, to_s: 2 } })).track?.loop).toEqual({
    from_s: 1,
    to_s: 2,
  });
});

test('a fader that moves is another, and nothing else is', () => {
  const faders = [fader('a', 0.2), fader('b', 0.5)];
  const was = heard(nothing, { lists: [list()], faders }, 1000);
  const now = heard(
    was,
    { lists: [list({ elapsed_s: 2.1 })], faders: [fader('a', 0.3), fader('b', 0.5)] },
    1100,
  );
  expect(now).not.toBe(was);
  expect(now.faders[0]).toEqual(fader('a', 0.3));
  expect(now.faders[1]).toBe(was.faders[1]);
  expect(now.lists).toBe(was.lists);
  expect(now.boards).toBe(was.boards);
});

test('whatever comes is what was sent, and the same object where it is equal', () => {
  // As JSON brings it: without a zero that is negative.
  const data = fc
    .jsonValue({ maxDepth: 4 })
    .map((value): unknown => JSON.parse(JSON.stringify(value)));
  fc.assert(
    fc.property(data, data, (before, after) => {
      expect(asBefore<unknown>(before, after)).toEqual(after);
      expect(asBefore<unknown>(before, after) === before).toBe(same(before, after));
      const again: unknown = JSON.parse(JSON.stringify(before));
      expect(asBefore<unknown>(before, again)).toBe(before);
    }),
  );
  const was = { a: [1, { b: 2 }], c: { d: 3 } };
  const now = asBefore(was, { a: [1, { b: 4 }], c: { d: 3 } });
  expect(now.c).toBe(was.c);
  expect(asBefore<unknown>(was, { a: was.a })).toEqual({ a: was.a });
  expect(asBefore<unknown>({ a: undefined }, {})).toEqual({});
  // No two maps look alike from outside.
  const map = new Map([['a', 1]]);
  expect(asBefore<unknown>({ map: new Map() }, { map })).toEqual({ map });
});
