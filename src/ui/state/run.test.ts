/** What cues' actions reported, and has been seen. */
import type { Report } from '@/core/live/messages';
import { freshReports } from './run';

const report = (n: number): Report => ({
  at: `2026-11-24T20:00:${String(n).padStart(2, '0')}.000Z`,
  cue: '12',
  text: `the haze machine did not answer, ${n}`,
});
const KEPT = 20;
const last = (n: number): Report[] =>
  Array.from({ length: KEPT }, (_, i) => report(n - KEPT + 1 + i));

test('what came after the one that was seen is new, also where as many are kept as ever', () => {
  const first = [report(1), report(2)];
  expect(freshReports(first, null)).toEqual(first);
  expect(freshReports(first, report(2))).toEqual([]);
  expect(freshReports(last(30), report(29))).toEqual([report(30)]);
  expect(freshReports(last(30), report(30))).toEqual([]);
});

test('all are new where the one that was seen has gone, or is another show’s', () => {
  expect(freshReports(last(40), report(3))).toHaveLength(KEPT);
  expect(freshReports([], report(3))).toEqual([]);
});

test('the same words at another time are another report', () => {
  expect(freshReports([report(1), { ...report(1), at: report(2).at }], report(1))).toHaveLength(1);
});
