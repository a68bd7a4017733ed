/** Beats and bars: seconds to music and back, tapped beats, and what is typed. */
import fc from 'fast-check';
import { beatsAt, secondsOfBeats } from '../playback/beats.ts';
import {
  barBeatAt,
  beatSections,
  barsWithin,
  beatsWithin,
  nearestBeat,
  readBarBeat,
  sayBarBeat,
  secondsAt,
  tapped,
} from './tempo.ts';

const WALTZ = [{ at_s: 2, bpm: 90, beats: 3 }];
/** 120 in four from 0; from 8.5 s, in the middle of a bar, 60 in three. */
const TWO = [
  { at_s: 8.5, bpm: 60, beats: 3 },
  { at_s: 0, bpm: 120, beats: 4 },
];

test('a waltz: bar 1 where it begins, a beat each two thirds of a second, back before the first', () => {
  expect(barBeatAt(WALTZ, 2)).toEqual({ bar: 1, beat: 1, part: 0 });
  expect(barBeatAt(WALTZ, 4)).toEqual({ bar: 2, beat: 1, part: expect.closeTo(0) });
  expect(barBeatAt(WALTZ, 3)).toMatchObject({ bar: 1, beat: 2, part: expect.closeTo(0.5) });
  expect(barBeatAt(WALTZ, 1)).toMatchObject({ bar: 0, beat: 2 });
  expect(secondsAt(WALTZ, { bar: 33, beat: 1, part: 0 })).toBeCloseTo(66);
  expect(barBeatAt([], 5)).toBeUndefined();
});

test('a new tempo begins a bar: the one that it cuts short is a bar all the same', () => {
  // Four bars of 2 s, and half a second of the fifth.
  expect(barBeatAt(TWO, 8.49)).toMatchObject({ bar: 5, beat: 1 });
  expect(barBeatAt(TWO, 8.5)).toEqual({ bar: 6, beat: 1, part: 0 });
  expect(secondsAt(TWO, { bar: 7, beat: 2, part: 0 })).toBeCloseTo(12.5);
  expect(secondsAt(TWO, { bar: 6, beat: 4, part: 0 })).toBeUndefined();
  expect(secondsAt(TWO, { bar: 5, beat: 4, part: 0 })).toBeCloseTo(9.5);
});

test('its beats as effects count them: whole from each tempo on, and back to their moments', () => {
  const sections = beatSections(TWO);
  expect(sections).toEqual([
    { at_s: 0, bpm: 120, first: 0 },
    { at_s: 8.5, bpm: 60, first: 20 },
  ]);
  expect([-1, 0, 8.25, 8.5, 10].map((s) => beatsAt(sections, s))).toEqual([-2, 0, 16.5, 20, 21.5]);
  expect([-2, 0, 16.5, 20, 21.5].map((b) => secondsOfBeats(sections, b))).toEqual([
    -1, 0, 8.25, 8.5, 10,
  ]);
  // Beats that the new tempo cut short.
  expect(secondsOfBeats(sections, 19)).toBe(8.5);
});

test('a tempo that holds for less than a bar is rounded by has a bar all the same', () => {
  const short = [
    { at_s: 0, bpm: 30, beats: 3 },
    { at_s: 0.1, bpm: 30, beats: 1 },
  ];
  expect(barBeatAt(short, 0)).toEqual({ bar: 1, beat: 1, part: 0 });
  expect(barBeatAt(short, 0.1)).toEqual({ bar: 2, beat: 1, part: 0 });
  expect(secondsAt(short, { bar: 1, beat: 1, part: 0 })).toBe(0);
});

const Tempos = fc
  .array(
    fc.record({
      at_s: fc.integer({ min: 0, max: 6000 }).map((n) => n / 10),
      bpm: fc.integer({ min: 30, max: 300 }),
      beats: fc.integer({ min: 1, max: 9 }),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .filter((all) => new Set(all.map((t) => t.at_s)).size === all.length);

test('there and back is where it was', () =>
  fc.assert(
    fc.property(Tempos, fc.integer({ min: 0, max: 9000 }), (tempo, n) => {
      const place = barBeatAt(tempo, n / 10);
      if (!place) throw new Error('no place');
      expect(secondsAt(tempo, place)).toBeCloseTo(n / 10, 5);
    }),
  ));

test('beats within a passage, with their bars; no more than are wanted', () => {
  expect(beatsWithin(TWO, 7.9, 10).map((b) => [b.at_s, b.bar, b.beat])).toEqual([
    [8, 5, 1],
    [8.5, 6, 1],
    [9.5, 6, 2],
  ]);
  expect(beatsWithin(WALTZ, 0, 1e6, 10)).toHaveLength(10);
});

test('bars are those beats that begin one, as many as there are, and every so many of them counted from the first', () => {
  fc.assert(
    fc.property(Tempos, fc.integer({ min: -50, max: 6000 }), (tempo, from) => {
      const beats = beatsWithin(tempo, from / 10, from / 10 + 120, 1e6);
      const bars = beats.filter((b) => b.beat === 1);
      const of = (every: number): number[] =>
        barsWithin(tempo, from / 10, from / 10 + 120, () => every).map((b) => b.bar);
      expect(of(1)).toEqual(bars.map((b) => b.bar));
      expect(of(4)).toEqual(bars.map((b) => b.bar).filter((n) => Math.abs((n - 1) % 4) === 0));
    }),
  );
  // A passage that ends with the beginning of a bar has that bar, and its beat, however each is counted to.
  const six = [{ at_s: 76.4, bpm: 175, beats: 6 }];
  expect(beatsWithin(six, 76.4, 119.6).at(-1)).toMatchObject({ bar: 22, beat: 1 });
  expect(barsWithin(six, 76.4, 119.6, () => 1).at(-1)?.bar).toBe(22);
  const [at] = barsWithin(TWO, 7.9, 10, () => 1).map((b) => b.at_s);
  expect(at).toBe(8);
  // Two hours have all of theirs.
  const far = barsWithin([{ at_s: 0, bpm: 120, beats: 4 }], 0, 7200, () => 64);
  expect([far.length, far.at(-1)]).toEqual([57, { at_s: 7168, bar: 3585 }]);
});

test('the nearest beat, also over a change of tempo; without a tempo the moment itself', () => {
  expect(nearestBeat(WALTZ, 3.1)).toBeCloseTo(2 + 4 / 3);
  expect(nearestBeat(TWO, 8.3)).toBeCloseTo(8.5);
  expect(nearestBeat([], 3.1)).toBe(3.1);
});

describe('tapped beats', () => {
  const taps = (bpm: number, n: number, jitter: (i: number) => number = () => 0): number[] =>
    Array.from({ length: n }, (_, i) => 1 + (i * 60) / bpm + jitter(i));

  test('a hand that wavers still says the tempo, and when the first beat was', () => {
    const found = tapped(taps(92, 16, (i) => (i % 2 ? 0.03 : -0.03)));
    expect(found?.bpm).toBeCloseTo(92, 0);
    expect(found?.first_s).toBeCloseTo(1, 1);
  });
  test('a tap that was missed, or doubled, changes nothing', () => {
    const all = taps(120, 12);
    expect(tapped(all.filter((_, i) => i !== 5))?.bpm).toBeCloseTo(120);
    expect(tapped([...all.slice(0, 4), (all[3] ?? 0) + 0.05, ...all.slice(4)])?.bpm).toBeCloseTo(
      120,
      0,
    );
  });
  test('three taps are none', () => expect(tapped([1, 2, 3])).toBeUndefined());
});

test('bars as they are typed and said', () => {
  expect(readBarBeat('33')).toEqual({ bar: 33, beat: 1, part: 0 });
  expect(readBarBeat('33.2.5')).toEqual({ bar: 33, beat: 2, part: 0.5 });
  for (const odd of ['0', '33.', 'x', '33.2.55', '-1'])
    expect([odd, readBarBeat(odd)]).toEqual([odd, undefined]);
  expect(sayBarBeat({ bar: 33, beat: 1, part: 0 })).toBe('bar 33');
  expect(sayBarBeat({ bar: 33, beat: 2, part: 0.4 })).toBe('bar 33, beat 2');
});
