/** How the clock kept time, second by second. */
import { KEPT_SECONDS as KEPT_S, withSeconds } from '../core/live/messages.ts';
import { SecondCounts } from './second-counts.ts';

test('a second has its frames, their mean and worst, and the packets that left in it', () => {
  const counts = new SecondCounts();
  counts.add(5000, 2, 0.5, 10);
  counts.add(5500, 4, 0.25, 14);
  counts.add(6000, 1, 0, 15);
  expect(counts.after(-1)).toEqual([
    { second: 5, frames: 2, frame_ms: 3, worstFrame_ms: 4, worstLate_ms: 0.5, packets: 14 },
  ]);
});

test('the second that is being counted is not told, and none is told twice', () => {
  const counts = new SecondCounts();
  for (let s = 0; s < 5; s++) counts.add(s * 1000, 1, 0, s);
  expect(counts.after(-1).map((x) => x.second)).toEqual([0, 1, 2, 3]);
  expect(counts.after(2).map((x) => x.second)).toEqual([3]);
  expect(counts.after(3)).toEqual([]);
});

test('a second without a frame stands as one', () => {
  const counts = new SecondCounts();
  counts.add(0, 1, 0, 1);
  counts.add(3000, 1, 2900, 2);
  expect(counts.after(-1).map((x) => x.frames)).toEqual([1, 0, 0]);
});

test('ten minutes are kept, and no more', () => {
  const counts = new SecondCounts();
  for (let s = 0; s < KEPT_S + 50; s++) counts.add(s * 1000, s, 0, 0);
  const kept = counts.after(-1);
  expect(kept).toHaveLength(KEPT_S - 1);
  expect(kept[0]).toMatchObject({ second: 50, frame_ms: 50 });
});

test('after a pause longer than what is kept, nothing old shows', () => {
  const counts = new SecondCounts();
  counts.add(1000, 9, 9, 9);
  counts.add((KEPT_S * 2 + 1) * 1000, 1, 0, 9);
  expect(counts.after(-1).every((x) => x.frames === 0 && x.worstFrame_ms === 0)).toBe(true);
});

test('a screen has what it was told, once, and a clock that began again has nothing of the old one', () => {
  const counts = new SecondCounts();
  for (let s = 0; s < 6; s++) counts.add(s * 1000, 1, 0, 0);
  const seconds = (of: readonly { second: number }[]): number[] => of.map((s) => s.second);
  const first = withSeconds([], counts.after(-1).slice(0, 3));
  expect(seconds(withSeconds(first, counts.after(2)))).toEqual([0, 1, 2, 3, 4]);
  expect(seconds(withSeconds(first, []))).toEqual([0, 1, 2]);
  expect(seconds(withSeconds(first, counts.after(-1)))).toEqual([0, 1, 2, 3, 4]);
  const again = new SecondCounts();
  again.add(0, 1, 0, 0);
  again.add(1000, 1, 0, 0);
  expect(seconds(withSeconds(first, again.after(-1)))).toEqual([0]);
});
