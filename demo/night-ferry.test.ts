import { readShowFile } from '../src/core/formats/read-show-file.ts';
import { writeShowFile } from '../src/core/formats/write-show-file.ts';
import { bookFindings } from '../src/core/cues/findings.ts';
import { blocksOf } from '../src/core/script/parse.ts';
import { stateAt } from '../src/core/cues/tracking.ts';
import { MutableShow } from '../src/core/show/show.ts';
import { nightFerryRows } from './night-ferry.ts';
import { sundayRows } from './sunday.ts';

const show = new MutableShow();
show.apply(nightFerryRows());
const cues = show.cuesOf('main');

test('the demo’s rig: 72 fixtures on four universes and a spare, 36 dimmers, by its own makers', () => {
  expect([...show.fixtures.values()].filter((f) => f.patch.length > 0).length).toBe(72);
  expect(
    [...show.fixtures.values()].filter((f) => f.patch.length === 0).map((f) => f.number),
  ).toEqual([115]);
  expect(
    new Set([...show.fixtures.values()].flatMap((f) => f.patch.map((p) => p.universe))),
  ).toEqual(new Set([1, 2, 3, 4]));
  expect(
    [...show.fixtures.values()].filter((f) =>
      ['pellworth-shoreline', 'pellworth-jetty', 'pellworth-lantern'].includes(f.typeId),
    ).length,
  ).toBe(36);
  expect(new Set([...show.types.values()].map((t) => t.maker))).toEqual(
    new Set(['Aldersund', 'Pellworth', 'Quillon']),
  );
});

test('at least sixty cues, with a point cue, that store only what changes unless they are blocked', () => {
  expect(cues.length).toBeGreaterThanOrEqual(60);
  expect(cues.some((c) => c.number % 1000 !== 0)).toBe(true);
  for (const cue of cues.slice(1).filter((c) => !c.block))
    expect(show.valuesOf(cue.id).size).toBeLessThan(stateAt(show, 'main', cue.number).size);
});

test('values track through many cues', () => {
  const last = cues.at(-1)?.number ?? 0;
  const old = [...stateAt(show, 'main', last).values()].filter((t) => last - t.cue.number > 3000);
  expect(old.length).toBeGreaterThan(10);
});

test('the rig uses what a rig can be: circuits, transforms, cells, own slots, a second address, names of universes', () => {
  const fixtures = [...show.fixtures.values()];
  expect(fixtures.filter((f) => f.patch.length > 0).every((f) => f.circuitId !== undefined)).toBe(
    true,
  );
  expect(fixtures.some((f) => f.transforms?.Zoom?.invert)).toBe(true);
  expect(fixtures.some((f) => Array.isArray(f.transforms?.Dimmer?.curve))).toBe(true);
  expect(fixtures.some((f) => f.wheels?.Gobo1)).toBe(true);
  expect(fixtures.some((f) => f.patch.length === 2)).toBe(true);
  expect(
    [...show.types.values()].some((t) =>
      fixtures.some((f) => f.typeId === t.id && t.modes.find((m) => m.name === f.mode)?.cells),
    ),
  ).toBe(true);
  expect(new Set([...show.palettes.values()].map((p) => p.family))).toEqual(
    new Set(['colour', 'position', 'intensity', 'beam']),
  );
  expect([...show.values.values()].filter((v) => v.palette !== undefined).length).toBeGreaterThan(
    100,
  );
  expect([...show.universes.values()].map((u) => u.name)).toEqual([
    'Dimmers',
    'Pars and cyc',
    'Heads',
    'Keys',
  ]);
});

test('pictures: looks in looks, groups in groups, effects in cues, stage points, a set with height', () => {
  expect([...show.looks.values()].some((l) => l.items.some((i) => i.kind === 'look'))).toBe(true);
  expect([...show.groups.values()].some((g) => g.fixtures.some((id) => show.groups.has(id)))).toBe(
    true,
  );
  expect([...show.values.values()].filter((v) => v.effect).length).toBe(12);
  expect([...show.palettes.values()].filter((p) => p.any?.point).length).toBeGreaterThan(3);
  expect([...show.pieces.values()].filter((p) => (p.height ?? 0) > 0).length).toBeGreaterThan(3);
});

test('the book: a script of two acts with a call for every cue that waits, other lists, faders, actions', () => {
  const [script] = [...show.scripts.values()];
  expect(script && blocksOf(script).at(-1)?.page).toBeGreaterThanOrEqual(12);
  const grave = bookFindings(show, 'main').filter(
    (f) => f.grave || f.about === 'script' || f.about === 'actions' || f.about === 'cues',
  );
  expect(grave).toEqual([]);
  expect(
    [...show.calls.values()].every(
      (c) => script?.text.slice(c.from, c.to) === c.quote && c.quote !== '',
    ),
  ).toBe(true);
  expect([...show.lists.values()].map((l) => l.name)).toEqual([
    'Main list',
    'Lanterns',
    'Band',
    'Haze',
    'The ledger waltz',
  ]);
  expect(show.faders.size).toBeGreaterThanOrEqual(8);
  expect(new Set(cues.flatMap((c) => c.actions ?? []).map((a) => a.do))).toEqual(
    new Set(['sound', 'osc', 'list', 'fader', 'midi', 'release-looks', 'remotes', 'let-off']),
  );
  expect(cues.filter((c) => c.block).length).toBe(2);
  expect(cues.filter((c) => c.parts).length).toBe(2);
  expect(cues.filter((c) => c.follow_s !== null || c.after_s !== undefined).length).toBeGreaterThan(
    6,
  );
});

test('Sunday: nine cues on the items of an order of service, with lengths and leaders', () => {
  const sunday = new MutableShow();
  sunday.apply(sundayRows());
  const [order] = [...sunday.scripts.values()];
  expect(order && blocksOf(order).reduce((sum, b) => sum + (b.duration_s ?? 0), 0)).toBe(39.5 * 60);
  expect([...sunday.calls.values()].map((c) => sunday.cues.get(c.cueId)?.name)).toEqual([
    'Gathering',
    'Welcome',
    'First hymn',
    'Reading',
    'Thoughts',
    'Silence',
    'Second hymn',
    'Notices',
    'Blessing',
  ]);
  expect(bookFindings(sunday, 'main').filter((f) => f.grave)).toEqual([]);
});

test('the whole show goes into a file and comes out the same, row by row', async () => {
  const bytes = await writeShowFile(show, [], {
    id: 'ferry',
    name: 'The Night Ferry',
    venue: '',
    seq: 0,
    origin: null,
    by: 'Mara Kell',
    made: '2026-11-24T19:30:00.000Z',
  });
  const file = await readShowFile(bytes);
  if ('refused' in file) throw new Error(file.message);
  const rows = (s: MutableShow): [string, unknown][] =>
    [...s.rows()]
      .map(({ table, row }): [string, unknown] => [`${table}/${row.id}`, row])
      .sort(([a], [b]) => (a < b ? -1 : 1));
  expect(rows(file.show)).toEqual(rows(show));
});
