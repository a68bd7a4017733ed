import { Allowance } from './limits.ts';

test('so many at once, then so many a second, and never more than the burst is saved up', () => {
  const a = new Allowance(60, 20, 0);
  const taken = (from_ms: number, count: number, every_ms: number): number =>
    Array.from({ length: count }, (_, i) => a.take(from_ms + i * every_ms)).filter(Boolean).length;
  expect(taken(0, 100, 0)).toBe(60);
  // Forty a second for ten seconds: twenty a second go through.
  expect(taken(0, 400, 25)).toBeGreaterThanOrEqual(198);
  expect(taken(10_000, 400, 25)).toBeLessThanOrEqual(201);
  expect(taken(1_000_000, 100, 0)).toBe(60);
});
