/**
 * Whatever moves, a frame makes no object, array or closure, so that the collector's pauses are short and rare. Measured
 * in a process of its own, as the player runs it: what is left are numbers that the machine boxes between functions.
 */
import { execFileSync } from 'node:child_process';

/** So large that nothing is collected while it is measured. */
const YOUNG_MB = 256;
/** With a closure for each effect and arrays for each slot that is let go of it was 3 300 and 25 000. */
const MOST_B = { oneList: 800, everything: 9000 };

test('bytes that a frame leaves behind: a list that fades, and everything at once', () => {
  const said = execFileSync(
    process.execPath,
    [
      '--expose-gc',
      `--max-semi-space-size=${YOUNG_MB}`,
      `--min-semi-space-size=${YOUNG_MB}`,
      '--import',
      'tsx',
      'src/core/testing/frames-left.ts',
    ],
    { encoding: 'utf8' },
  );
  const left = JSON.parse(said) as { slots: number } & typeof MOST_B;
  expect(left.slots).toBeGreaterThan(10);
  expect(left.oneList).toBeLessThan(MOST_B.oneList);
  expect(left.everything).toBeLessThan(MOST_B.everything);
}, 60_000);
