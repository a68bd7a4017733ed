import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { Fades, type Work } from './fades.ts';

const work = (): Work => ({ dirty: new Uint32Array(4), marked: new Uint8Array(4), count: 0 });
const at = (fades: Fades, now: number): number => {
  fades.advance(now, work());
  return fades.level[0] ?? NaN;
};

test('a move that gets another end bends to it without a step, on every curve, and arrives when it would have', () => {
  fc.assert(
    fc.property(fc.nat(3), evenly(0.02, 0.98), evenly(0, 1), (curve, share, to) => {
      const fades = new Fades(1);
      fades.stand(0, 0.2);
      fades.move(0, 0.9, 10, 4, curve, 10);
      const before = at(fades, 10 + share * 4);
      fades.retarget(0, to, 10 + share * 4);
      expect(at(fades, 10 + share * 4)).toBeCloseTo(before, 4);
      let last = before;
      for (let k = 1; k <= 20; k++) {
        const level = at(fades, 10 + (share + ((1 - share) * k) / 20) * 4);
        // It goes one way only: towards the new end.
        expect((level - last) * (to - before)).toBeGreaterThanOrEqual(-1e-6);
        last = level;
      }
      expect(last).toBeCloseTo(to, 5);
    }),
  );
});

test('in its delay a move takes the new end, and starts from where it stands', () => {
  const fades = new Fades(1);
  fades.stand(0, 0.3);
  fades.move(0, 1, 5, 2, 0, 0);
  fades.retarget(0, 0.5, 1);
  expect(
    [at(fades, 4), at(fades, 6), at(fades, 7)].map((v) => Math.round(v * 1000) / 1000),
  ).toEqual([0.3, 0.4, 0.5]);
});

test('what stands goes to its new level at once', () => {
  const fades = new Fades(1);
  fades.stand(0, 0.3);
  fades.retarget(0, 0.8, 4);
  expect(at(fades, 4)).toBeCloseTo(0.8, 6);
});
