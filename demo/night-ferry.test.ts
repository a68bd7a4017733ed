import { stateAt } from '../src/core/cues/tracking.ts';
import { MutableShow } from '../src/core/show/show.ts';
import { nightFerryRows } from './night-ferry.ts';

const show = new MutableShow();
show.apply(nightFerryRows());
const cues = show.cuesOf('main');

test('the demo’s rig: 72 fixtures on four universes and a spare, 36 dimmers, by its own makers', () => {
  expect([...show.fixtures.values()].filter((f) => f.patch.length > 0).length).toBe(72);
  expect([...show.fixtures.values()].filter((f) => f.patch.length === 0).map((f) => f.number)).toEqual([115]);
  expect(new Set([...show.fixtures.values()].flatMap((f) => f.patch.map((p) => p.universe)))).toEqual(new Set([1, 2, 3, 4]));
  expect([...show.fixtures.values()].filter((f) => ['pellworth-shoreline', 'pellworth-jetty', 'pellworth-lantern'].includes(f.typeId)).length).toBe(36);
  expect(new Set([...show.types.values()].map((t) => t.maker))).toEqual(new Set(['Aldersund', 'Pellworth', 'Quillon']));
});

test('at least twenty cues, with a point cue, that store only what changes', () => {
  expect(cues.length).toBeGreaterThanOrEqual(20);
  expect(cues.some((c) => c.number % 1000 !== 0)).toBe(true);
  for (const cue of cues.slice(1)) expect(show.valuesOf(cue.id).size).toBeLessThan(stateAt(show, 'main', cue.number).size);
});

test('values track through many cues', () => {
  const last = cues.at(-1)?.number ?? 0;
  const old = [...stateAt(show, 'main', last).values()].filter((t) => last - t.cue.number > 3000);
  expect(old.length).toBeGreaterThan(10);
});

test('the rig uses what a rig can be: circuits, transforms, cells, own slots, a second address, names of universes', () => {
  const fixtures = [...show.fixtures.values()];
  expect(fixtures.filter((f) => f.patch.length > 0).every((f) => f.circuitId !== undefined)).toBe(true);
  expect(fixtures.some((f) => f.transforms?.Zoom?.invert)).toBe(true);
  expect(fixtures.some((f) => Array.isArray(f.transforms?.Dimmer?.curve))).toBe(true);
  expect(fixtures.some((f) => f.wheels?.Gobo1)).toBe(true);
  expect(fixtures.some((f) => f.patch.length === 2)).toBe(true);
  expect([...show.types.values()].some((t) => fixtures.some((f) => f.typeId === t.id && t.modes.find((m) => m.name === f.mode)?.cells))).toBe(true);
  expect(new Set([...show.palettes.values()].map((p) => p.family))).toEqual(new Set(['colour', 'position', 'intensity', 'beam']));
  expect([...show.values.values()].filter((v) => v.palette !== undefined).length).toBeGreaterThan(100);
  expect([...show.universes.values()].map((u) => u.name)).toEqual(['Dimmers', 'Pars and cyc', 'Heads', 'Keys']);
});

test('pictures: looks in looks, groups in groups, effects in cues, stage points, a set with height', () => {
  expect([...show.looks.values()].some((l) => l.items.some((i) => i.kind === 'look'))).toBe(true);
  expect([...show.groups.values()].some((g) => g.fixtures.some((id) => show.groups.has(id)))).toBe(true);
  expect([...show.values.values()].filter((v) => v.effect).length).toBe(12);
  expect([...show.palettes.values()].filter((p) => p.any?.point).length).toBeGreaterThan(3);
  expect([...show.pieces.values()].filter((p) => (p.height ?? 0) > 0).length).toBeGreaterThan(3);
});
