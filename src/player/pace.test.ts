import fc from 'fast-check';
import { evenly } from '../core/testing/evenly.ts';
import { Beat, nextFrame, PERIOD_MS } from './pace.ts';

/** Plays so many frames, each made so many milliseconds after it was due. */
function frames(lateness: readonly number[]): number[] {
  let due = 0;
  let now = 0;
  return lateness.map((late) => {
    now = Math.max(now, due) + late;
    due = nextFrame(due, now);
    return now;
  });
}

test('however late frames are made, no second has a 45th', () => {
  const late = fc.oneof(
    { weight: 8, arbitrary: evenly(0, 3) },
    { weight: 1, arbitrary: evenly(10, 3000) },
  );
  fc.assert(
    fc.property(fc.array(late, { minLength: 60, maxLength: 200 }), (lateness) => {
      const at = frames(lateness);
      for (let i = 0; i + 44 < at.length; i++)
        expect((at[i + 44] ?? 0) - (at[i] ?? 0)).toBeGreaterThan(1000 + 1);
    }),
  );
});

test('what is a little late is made up for', () => {
  const at = frames(Array.from({ length: 441 }, (_, i) => (i % 100 === 0 ? 0.4 : 0)));
  expect(((at.at(-1) ?? 0) - (at[0] ?? 0)) / 440).toBeCloseTo(PERIOD_MS, 2);
});

test('after two seconds of nothing the clock goes on from there, without a burst', () => {
  const at = frames([0, 0, 2000, 0, 0, 0]);
  const steps = at.slice(1).map((t, i) => Math.round(t - (at[i] ?? 0)));
  expect(steps).toEqual([23, 2023, 23, 23, 23]);
});

describe('a still stage', () => {
  /** Plays milliseconds: something is to be seen at some of them, and a frame after that has something to send for a while. */
  function sends(pokes: ReadonlySet<number>, lasts_ms: number): number[] {
    const beat = new Beat(PERIOD_MS);
    const sent: number[] = [];
    let shown = -Infinity;
    for (let now = 0; now < 3000; now++) {
      if (pokes.has(now)) {
        shown = now;
        beat.hurry(now);
      }
      if (now < beat.due_ms) continue;
      const isSent = now - shown <= lasts_ms;
      beat.made(now, isSent);
      if (isSent) sent.push(now);
    }
    return sent;
  }

  test('what is seen leaves at once after silence, and the beat goes on from there', () => {
    expect(sends(new Set([500, 1507]), 30).slice(0, 4)).toEqual([500, 523, 1507, 1530]);
  });

  test('what comes while something has just left waits for its time', () => {
    expect(sends(new Set([500, 505, 510]), 60).slice(0, 3)).toEqual([500, 523, 546]);
  });

  test('however often hands move, no two frames leave nearer than receivers can take', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 2999 }), { maxLength: 200 }),
        fc.integer({ min: 0, max: 80 }),
        (pokes, lasts) => {
          const sent = sends(new Set(pokes), lasts);
          sent.slice(1).forEach((t, i) => expect(t - (sent[i] ?? 0)).toBeGreaterThanOrEqual(22));
        },
      ),
    );
  });

  test('a frame that was hurried past is not made again by its timer', () => {
    const beat = new Beat(100);
    const waits = beat.turn;
    expect(beat.hurry(50)).toBe(true);
    expect(beat.turn).not.toBe(waits);
    expect(beat.due_ms).toBe(50);
  });
});
