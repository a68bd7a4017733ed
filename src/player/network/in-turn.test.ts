/** Every universe of ours has its turn to be listened to. */
import fc from 'fast-check';
import { inTurn } from './in-turn.ts';

const LOOK_MS = 1000;
/** After how long every one of so many universes has had its turn. */
const everyTurn_ms = (universes: number): number => Math.ceil(universes / 4) * 2500;

test('a few at a time, each for longer than a source is silent, and all of them in time', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 1, max: 63_999 }), { maxLength: 120 }),
      fc.nat(1e7),
      (universes, start_ms) => {
        const heard_ms = new Map<number, number>();
        const end = start_ms + 2 * everyTurn_ms(universes.length) + 2 * LOOK_MS;
        for (let now = start_ms; now <= end; now += 50) {
          const turn = inTurn(universes, now);
          expect(turn.length).toBeLessThanOrEqual(4);
          for (const u of turn) heard_ms.set(u, (heard_ms.get(u) ?? 0) + 50);
        }
        for (const u of universes) expect(heard_ms.get(u)).toBeGreaterThanOrEqual(1500);
      },
    ),
    { numRuns: 60 },
  );
});
