import fc from 'fast-check';
import { withNewest, withOlder, type Kept } from './log.ts';

const PAGE = 5;
const key = (n: number): number => n;
/** What a server with this many entries answers. */
const asked = (length: number, before = Infinity): number[] =>
  Array.from({ length }, (_, i) => length - i)
    .filter((n) => n < before)
    .slice(0, PAGE);

test('property: however it is read while it grows, a log has no gap and nothing twice, and its end is its end', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 12 }),
      fc.array(fc.oneof(fc.integer({ min: 0, max: 8 }), fc.constant('older' as const))),
      (start, steps) => {
        let length = start;
        let kept: Kept<number> = withNewest<number>(undefined, asked(length), PAGE, key);
        for (const step of steps) {
          if (step === 'older')
            kept = withOlder(kept, asked(length, kept.rows[kept.rows.length - 1]), PAGE, key);
          else {
            length += step;
            kept = withNewest(kept, asked(length), PAGE, key);
          }
          expect(kept.rows).toEqual(Array.from({ length: kept.rows.length }, (_, i) => length - i));
          if (kept.ended) expect(kept.rows).toHaveLength(length);
        }
      },
    ),
  );
});

test('what was read stays while newer ones come, and is let go where more came than a page holds', () => {
  const read = withOlder(
    withNewest<number>(undefined, asked(12), PAGE, key),
    asked(12, 8),
    PAGE,
    key,
  );
  expect(read.rows).toHaveLength(10);
  expect(withNewest(read, asked(14), PAGE, key).rows).toHaveLength(12);
  expect(withNewest(read, asked(18), PAGE, key).rows).toEqual([18, 17, 16, 15, 14]);
});
