/** Every mode of the library against two hundred targets: never dark, the brightest there is, exact where it can be reached. */
import { libraryTypes } from '../rig/library/index.ts';
import { Engine } from '../playback/engine.ts';
import { compileSlots, slotIndex } from '../playback/slots.ts';
import { slotKey } from '../cues/rows.ts';
import type { Emitter } from '../types/rows.ts';
import { apply, exampleShow } from '../testing/example.ts';
import { holds } from '../testing/columns.ts';
import {
  chromaticity,
  hueSaturation,
  kelvin,
  mixXYZ,
  solveEmitters,
  toUv,
  toXYZ,
  type Chromaticity,
} from './mix.ts';
import { colourLevels, colourParts } from './unit-colour.ts';

/** Whites, soft and strong colours all round, and corners of the diagram that no light reaches. */
const TARGETS: Chromaticity[] = [
  ...Array.from({ length: 40 }, (_, i) => kelvin(1800 + i * 250)),
  ...[0.1, 0.35, 0.7, 1].flatMap((saturation) =>
    Array.from({ length: 36 }, (_, i) => hueSaturation(i * 10, saturation)),
  ),
  ...[
    [0.72, 0.27],
    [0.08, 0.83],
    [0.17, 0.01],
    [0.01, 0.5],
    [0.33, 0.33],
    [0.45, 0.41],
    [0.3, 0.6],
    [0.2, 0.2],
    [0.5, 0.3],
    [0.6, 0.39],
    [0.25, 0.1],
    [0.4, 0.5],
    [0.15, 0.35],
    [0.35, 0.15],
    [0.5, 0.49],
    [0.31, 0.32],
  ].map(([x = 0, y = 0]) => ({ x, y })),
];

const parts = libraryTypes().flatMap((type) =>
  type.modes.flatMap((mode) =>
    colourParts(type, mode).map((part) => ({
      type,
      mode,
      part,
      name: `${type.name}, ${mode.name}, cell ${part.cell}`,
    })),
  ),
);
const distance = (a: Chromaticity, b: Chromaticity): number =>
  Math.hypot(...toUv(a).map((v, i) => v - (toUv(b)[i] ?? 0)));

/**
 * The brightest that a chromaticity can be, from the dual of the linear programme: a price for each of its two conditions
 * bounds every mix from above, and the lowest bound lies where two emitters break even.
 */
function brightest(emitters: readonly Emitter[], { x, y }: Chromaticity): number {
  const rows = emitters.map((e) => {
    const [X, Y, Z] = toXYZ(e);
    return { a: X - x * (X + Y + Z), b: Y - y * (X + Y + Z), Y };
  });
  let low = rows.reduce((s, r) => s + r.Y, 0);
  const bound = (p: number, q: number): void => {
    const at = rows.reduce((s, r) => s + Math.max(0, r.Y - p * r.a - q * r.b), 0);
    if (at < low) low = at;
  };
  for (const r of rows) {
    for (const s of rows) {
      const det = r.a * s.b - s.a * r.b;
      if (Math.abs(det) > 1e-12)
        bound((r.Y * s.b - s.Y * r.b) / det, (r.a * s.Y - s.a * r.Y) / det);
    }
    const size = r.a * r.a + r.b * r.b;
    if (size > 1e-12) bound((r.Y * r.a) / size, (r.Y * r.b) / size);
  }
  return low;
}

test('there are as many targets as are spoken of, and modes of one, two and more emitters', () => {
  expect(TARGETS.length).toBe(200);
  const counts = new Set(parts.map((p) => p.part.emitters.length));
  for (const n of [2, 3, 4, 5]) expect(counts).toContain(n);
});

test.each(parts.filter((p) => p.part.emitters.length > 0))(
  '$name: lit for every target, as bright as can be, exact within its gamut',
  ({ type, part }) => {
    const seen = part.emitters
      .filter((e) => !e.attribute.startsWith('ColorAdd_UV'))
      .map((e) => e.emitter);
    for (const target of TARGETS) {
      const { weights, outside, at } = solveEmitters(seen, target);
      const light = mixXYZ(seen, weights);
      const got = chromaticity(light);
      expect(Math.max(...weights)).toBeGreaterThan(0.999);
      expect(weights.every((w) => w >= 0 && w <= 1)).toBe(true);
      if (!got) throw new Error('dark');
      expect(distance(got, at)).toBeLessThan(2e-4);
      expect(light[1]).toBeGreaterThan(brightest(seen, got) - 2e-3);
      // The byte steps of a unit are coarser than this.
      if (!outside) expect(distance(got, target)).toBeLessThan(1e-5);
      const answer = colourLevels(type, part, target);
      expect(answer.off_uv).toBeCloseTo(outside ? distance(at, target) : 0, 6);
    }
  },
);

test('nothing that the emitters reach is nearer than the answer', () => {
  const grid = Array.from({ length: 21 }, (_, i) => i / 20);
  for (const id of ['generic-tunable', 'generic-rgb', 'aldersund-shoal']) {
    const part = parts.find((p) => p.type.id === id)?.part;
    const emitters = part?.emitters.map((e) => e.emitter) ?? [];
    const mixes =
      emitters.length === 2
        ? grid.flatMap((a) => [
            [a, 1],
            [1, a],
          ])
        : grid.flatMap((a) =>
            grid.flatMap((b) => [
              [a, b, 1],
              [a, 1, b],
              [1, a, b],
            ]),
          );
    const reached = mixes.flatMap((w) => chromaticity(mixXYZ(emitters, w)) ?? []);
    for (const target of TARGETS) {
      const { at } = solveEmitters(emitters, target);
      expect(distance(at, target)).toBeLessThan(
        Math.min(...reached.map((r) => distance(r, target))) + 2e-4,
      );
    }
  }
});

test('one emitter is full for any colour, three on a line reach what two of them do', () => {
  const [warm, cool] = [kelvin(2700), kelvin(6500)].map((c) => ({ ...c, Y: 1 })) as [
    Emitter,
    Emitter,
  ];
  expect(solveEmitters([warm], hueSaturation(240, 1))).toMatchObject({
    weights: [1],
    outside: true,
    at: { x: expect.closeTo(warm.x, 6) as number },
  });
  expect(solveEmitters([warm, { ...warm, Y: 0.3 }], kelvin(2700))).toMatchObject({
    weights: [1, 1],
    outside: false,
  });
  const [wx, wy, wz] = toXYZ(warm);
  const [cx, cy, cz] = toXYZ(cool);
  const between = chromaticity([wx + cx, wy + cy, wz + cz]) ?? warm;
  const three = solveEmitters([warm, cool, { ...between, Y: 0.5 }], between);
  expect(three.outside).toBe(false);
  three.weights.forEach((w) => expect(w).toBeCloseTo(1, 4));
  expect(solveEmitters([], kelvin(3200)).weights).toEqual([]);
});

test('on the wire: no unit of the library with a colour is dark for any target', () => {
  for (const { type, mode } of parts.filter(
    (p, i) => parts.findIndex((q) => q.mode === p.mode) === i,
  )) {
    const show = exampleShow();
    apply(show, 'patch-fixtures', {
      typeId: type.id,
      mode: mode.name,
      quantity: 1,
      first: 900,
      universe: 9,
      address: 1,
    });
    const fixture = show.fixtureByNumber(900);
    if (!fixture) throw new Error('not patched');
    const slots = compileSlots(show);
    const index = slotIndex(slots);
    const own = show.types.get(fixture.typeId);
    const page = slots.universes.indexOf(9) * 512;
    for (const target of TARGETS.filter((_, i) => i % 10 === 0)) {
      const engine = new Engine(slots);
      const levels = [
        ...colourParts(type, mode).flatMap((part) => colourLevels(type, part, target).levels),
        { attribute: 'Dimmer', level: 1 },
      ];
      for (const { attribute, level } of levels) {
        const slot = index.get(slotKey(fixture.id, attribute));
        if (slot !== undefined) engine.hold('a', holds([slot], { level }), 0);
      }
      engine.tick(0);
      engine.tick(0.1);
      const emitters = mode.channels.filter((c) => c.attribute.startsWith('ColorAdd_'));
      const bytes = emitters.map(
        (c) =>
          engine.shared.dmx[
            page + (fixture.patch[(c.break ?? 1) - 1]?.address ?? 1) - 1 + (c.offset[0] ?? 1) - 1
          ] ?? 0,
      );
      if (emitters.length > 0) expect([own?.name, Math.max(...bytes)]).toEqual([type.name, 255]);
    }
  }
});
