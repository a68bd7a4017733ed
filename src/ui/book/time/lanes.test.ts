/** Cues under each other along time, and words that lie over no others. */
import type { TimedCue } from '@/core/time/timed';
import { fitting, laidOut, MOST_LANES } from './lanes';

const at = (...moments: number[]): TimedCue[] =>
  moments.map((at_s, i) => ({ id: `c${i}`, number: (i + 1) * 1000, at_s, name: '' }) as TimedCue);
const lay = (cues: TimedCue[], scale: number) =>
  laidOut(
    cues,
    () => 2,
    (s) => s * scale,
  );

test('cues that are far apart are in the first lane; those that are near go down one by one', () => {
  expect(lay(at(0, 30, 60), 10).map((l) => l.lane)).toEqual([0, 0, 0]);
  expect(lay(at(0, 1, 2, 3, 20), 10).map((l) => l.lane)).toEqual([0, 1, 2, 3, 0]);
});

test('the room of a cue is what the next one of its lane leaves; the last has all of it', () => {
  const laid = lay(at(0, 1, 20, 40), 10);
  expect(laid.map((l) => [l.lane, l.room])).toEqual([
    [0, 200],
    [1, Infinity],
    [0, 200],
    [0, Infinity],
  ]);
  // Where all lanes are full, what is left is little, and words are cut by it.
  const crowd = lay(at(...Array.from({ length: 40 }, (_, i) => i)), 10);
  for (let lane = 0; lane < MOST_LANES; lane++) {
    const own = crowd.filter((l) => l.lane === lane);
    own.slice(1).forEach((l, i) => expect(l.x - (own[i]?.x ?? 0)).toBe(own[i]?.room));
  }
});

test('words are whole, cut, or left out', () => {
  expect(fitting('Chorus again', 200, 7)).toBe('Chorus again');
  expect(fitting('Chorus again', 63, 7)).toBe('Chorus a…');
  expect(fitting('Chorus again', 20, 7)).toBe('');
  expect(fitting('Chorus again', -5, 7)).toBe('');
  expect(fitting('A', 8, 7)).toBe('A');
  expect(fitting('Chorus', Infinity, 7)).toBe('Chorus');
});
