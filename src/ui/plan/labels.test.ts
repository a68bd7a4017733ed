/** Names of areas lie over nothing where there is room. */
import { labelsOf } from './labels';

const square = (name: string, x: number, y: number, side: number) => ({
  name,
  corners: [
    { x, y },
    { x: x + side, y },
    { x: x + side, y: y + side },
    { x, y: y + side },
  ],
});

test('a name stands at the upper left of its area; where a unit hangs there, in another corner', () => {
  const [free] = labelsOf([square('Deck', 100, 100, 200)], []);
  expect(free).toEqual({ x: 106, y: 115 });
  const [right] = labelsOf([square('Deck', 100, 100, 200)], [{ x: 112, y: 110 }]);
  expect(right?.x).toBeGreaterThan(250);
  expect(right?.y).toBe(115);
  const [below] = labelsOf(
    [square('Deck', 100, 100, 200)],
    [
      { x: 112, y: 110 },
      { x: 200, y: 110 },
      { x: 280, y: 110 },
    ],
  );
  expect(below?.y).toBeGreaterThan(280);
});

test('two areas that begin in one place have their names apart, also where units would have to be covered', () => {
  const everywhere = Array.from({ length: 400 }, (_, i) => ({
    x: 100 + (i % 20) * 10,
    y: 100 + Math.floor(i / 20) * 10,
  }));
  for (const units of [[], everywhere]) {
    const [a, b] = labelsOf([square('Deck', 100, 100, 200), square('Quay', 100, 100, 190)], units);
    const apart =
      Math.abs((a?.x ?? 0) - (b?.x ?? 0)) > 26 || Math.abs((a?.y ?? 0) - (b?.y ?? 0)) > 14;
    expect(apart).toBe(true);
  }
});
