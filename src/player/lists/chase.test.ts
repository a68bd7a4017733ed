/** Which step of a chase comes next, and how long one takes: as asked, with no clock. */
import type { Chase } from '../../core/lists/rows.ts';
import type { CueRow } from '../../core/cues/rows.ts';
import { cue, exampleShow } from '../../core/testing/example.ts';
import { chaseNow, nextStep, stepSeconds, withChange, type ChaseState } from './chase.ts';

const ASKED: Chase = { on: true, speed: { bpm: 60 }, share: 0.5, direction: 'forward' };
const FRESH: ChaseState = { way: 1, rounds: 0 };

/** Cues with these numbers. */
function stepsOf(...numbers: number[]): readonly CueRow[] {
  const show = exampleShow();
  for (const n of numbers) cue(show, n, { 1: n });
  return show.cuesOf('main');
}
const THREE = stepsOf(1, 2, 3);
const next = (
  direction: Chase['direction'],
  at: number,
  {
    cues = THREE,
    count,
    ...state
  }: Partial<ChaseState> & { cues?: readonly CueRow[]; count?: number } = {},
): number | undefined => {
  const chase = { ...ASKED, direction, ...(count === undefined ? {} : { count }) };
  const found = nextStep(cues, at * 1000, chase, { ...FRESH, ...state });
  return found && found.number / 1000;
};

describe('which step comes next', () => {
  test('of no cues there is none', () => {
    for (const direction of ['forward', 'back', 'bounce', 'random'] as const)
      expect(next(direction, 1, { cues: [] })).toBeUndefined();
  });

  test('forward from a cue that is gone, the one that comes after its number; behind the last, the first', () => {
    expect(next('forward', 1)).toBe(2);
    expect(next('forward', 1.5)).toBe(2);
    expect(next('forward', 0.5)).toBe(1);
    expect(next('forward', 3)).toBe(1);
    expect(next('forward', 3.5)).toBe(1);
  });

  test.each([
    ['forward', 3, 1],
    ['back', 1, 3],
    ['bounce', 3, 2],
  ] as const)('%s turns at the end, until as many rounds are done as are asked', (way, end, on) => {
    expect(next(way, end, { count: 2, rounds: 0 })).toBe(on);
    expect(next(way, end, { count: 2, rounds: 1 })).toBeUndefined();
    expect(next(way, end, { count: 2, rounds: 2 })).toBeUndefined();
    expect(next(way, end, { count: 1, rounds: 0 })).toBeUndefined();
    // Within a round the count stops nothing.
    expect(next(way, 2, { count: 1, rounds: 0 })).toBe(way === 'back' ? 1 : 3);
  });

  test('there and back goes the way that it was going, and turns at both ends', () => {
    expect(next('bounce', 2, { way: 1 })).toBe(3);
    expect(next('bounce', 2, { way: -1 })).toBe(1);
    expect(next('bounce', 1, { way: -1 })).toBe(2);
  });

  test('by chance each of the others comes, in any round, and ends with the last of its steps', () => {
    const seen = new Set<number | undefined>();
    for (let rounds = 0; rounds < 8; rounds++)
      for (let steps = 0; steps < 3; steps++) seen.add(next('random', 2, { rounds, steps }));
    expect([...seen].sort()).toEqual([1, 3]);
    expect(next('random', 2, { count: 1, steps: 1 })).toBeDefined();
    expect(next('random', 2, { count: 1, steps: 2 })).toBeUndefined();
    expect(next('random', 2, { count: 2, rounds: 1, steps: 2 })).toBeUndefined();
    expect(next('random', 2, { count: 2, rounds: 0, steps: 2 })).toBeDefined();
  });

  test('of a single cue it is that one, again and again, while rounds are left', () => {
    const cues = stepsOf(7);
    for (const way of ['forward', 'back', 'bounce', 'random'] as const) {
      expect(next(way, 7, { cues })).toBe(7);
      expect(next(way, 7, { cues, count: 2 })).toBe(7);
      expect(next(way, 7, { cues, count: 2, rounds: 1 })).toBeUndefined();
    }
  });
});

describe('how long a step takes', () => {
  test('by its tempo, by seconds, or by what was tapped over either', () => {
    expect(stepSeconds(ASKED, undefined)).toBe(1);
    expect(stepSeconds({ ...ASKED, speed: { bpm: 90 } }, FRESH)).toBeCloseTo(2 / 3, 9);
    expect(stepSeconds({ ...ASKED, speed: { step_s: 2.5 } }, FRESH)).toBe(2.5);
    expect(stepSeconds({ ...ASKED, speed: { step_s: 2.5 } }, { ...FRESH, bpm: 240 })).toBe(0.25);
  });
});

describe('what is set live', () => {
  test('lies over the list’s own, one thing after another, and keeps where the chase is', () => {
    const bpm = withChange(undefined, { bpm: 90 });
    expect(bpm).toEqual({ way: 1, rounds: 0, bpm: 90 });
    const back = withChange({ way: -1, rounds: 4, bpm: 90 }, { direction: 'back' });
    expect(back).toEqual({ way: -1, rounds: 4, bpm: 90, live: { direction: 'back' } });
    const both = withChange(back, { share: 0, count: 3 });
    expect(both.live).toEqual({ direction: 'back', share: 0, count: 3 });
    expect(chaseNow({ chase: ASKED }, both)).toEqual({
      ...ASKED,
      direction: 'back',
      share: 0,
      count: 3,
    });
  });

  test('no count at all is for ever, also over a list that counts', () => {
    const counts: Chase = { ...ASKED, count: 5 };
    expect(chaseNow({ chase: counts }, withChange(FRESH, { share: 1 }))).toMatchObject({
      count: 5,
      share: 1,
    });
    expect(chaseNow({ chase: counts }, withChange(FRESH, { count: 0 }))).toEqual(ASKED);
    expect(chaseNow({ chase: counts }, FRESH)).toBe(counts);
    expect(chaseNow({}, withChange(FRESH, { count: 2 }))).toBeUndefined();
    expect(chaseNow(undefined, FRESH)).toBeUndefined();
  });
});
