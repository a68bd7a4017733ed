/** What is written on the plan of a sheet. */
import { apart } from './PlanPiece';

test('of shares that would lie over each other the largest is written; those beside it and below are', () => {
  const at = (share: number, x: number, y: number) => ({ share, at: { x, y } });
  const close = [at(0.03, 100, 100), at(0.1, 120, 100), at(0.04, 141, 100)];
  const free = [at(0.05, 160, 100), at(0.02, 120, 117)];
  expect(apart([...close, ...free]).map((s) => s.share)).toEqual([0.1, 0.05, 0.02]);
  expect(apart([])).toEqual([]);
});
