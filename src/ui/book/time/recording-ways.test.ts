/** A new recording laid against the old one by its beat. */
import fc from 'fast-check';
import { beginsAt } from '@/core/sounds/beat';
import { beatPairs, onTrack } from './recording-ways';

const LIES = { at_s: 0 };
const found = (bpm: number, first_s: number) => ({ bpm, first_s, sure: 1 });

test('bars are counted from where the music begins, however long it is silent before', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 60, max: 180 }),
      fc.integer({ min: -15, max: 15 }),
      fc.double({ min: 0.5, max: 4, noNaN: true }),
      fc.double({ min: 0.5, max: 9, noNaN: true }),
      fc.integer({ min: 0, max: 7 }),
      (bpm, faster, old_s, fresh_s, upbeat) => {
        // Bar 1 of the old one is `upbeat` beats before its music begins.
        const [before, after] = [60 / bpm, 60 / (bpm * (1 + faster / 100))];
        const tempo = [{ at_s: old_s + upbeat * before, bpm, beats: 4 }];
        const start_s = fresh_s + upbeat * after;
        const pairs = beatPairs(
          tempo,
          found(60 / after, start_s % after),
          120,
          [old_s, fresh_s],
          LIES,
        );
        if (typeof pairs === 'string') throw new Error(pairs);
        for (const [x, y] of pairs)
          expect(y).toBeCloseTo(start_s + (x - (old_s + upbeat * before)) * (after / before), 6);
        expect(pairs.length).toBeGreaterThan(10);
      },
    ),
  );
});

test('a beat that is heard twice or half as fast is counted as the old one was', () => {
  const tempo = [{ at_s: 1, bpm: 92, beats: 3 }];
  const plain = beatPairs(tempo, found(94, 0.2), 60, [1, 0.2], LIES);
  expect(beatPairs(tempo, found(188, 0.2), 60, [1, 0.2], LIES)).toEqual(plain);
  expect(beatPairs(tempo, found(47, 0.2), 60, [1, 0.2], LIES)).toEqual(plain);
  expect(beatPairs([], found(94, 0), 60, [0, 0], LIES)).toMatch(/no beat yet/);
});

test('the file may lie later on the track and be heard from later on; bars before the new one begins are none', () => {
  const tempo = [{ at_s: 10, bpm: 120, beats: 4 }];
  // The old music begins two seconds into its file, of which half a second is left out: one bar and a beat after bar 1.
  const pairs = beatPairs(tempo, found(120, 0), 20, [2, 0], { at_s: 11, from_s: 0.5 });
  expect(pairs.slice(0, 2)).toEqual([
    [14, 12.5],
    [16, 14.5],
  ]);
  // Nobody hears what lies before that part.
  expect(
    onTrack(
      [
        [0.2, 0.1],
        [2, 5],
        [4, 7.5],
      ],
      { at_s: 11, from_s: 0.5 },
    ),
  ).toEqual([
    [12.5, 16],
    [14.5, 18.5],
  ]);
});

test('music begins with its first clear beginning', () => {
  const onsets = new Uint8Array(500);
  expect(beginsAt(onsets)).toBe(0);
  onsets[40] = 12;
  onsets[120] = 90;
  onsets[200] = 200;
  expect(beginsAt(onsets)).toBe(1.2);
});
