import { stateAt } from '../src/core/cues/tracking.ts';
import { MutableShow } from '../src/core/show/show.ts';
import { nightFerryRows } from './night-ferry.ts';

const show = new MutableShow();
show.apply(nightFerryRows());
const cues = show.cuesOf('main');

test('the demo’s rig: 72 fixtures on four universes, 36 dimmers, by its own makers', () => {
  expect(show.fixtures.size).toBe(72);
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
