/** What changed, in words that somebody at the desk reads: no ids, no field names, every number with its unit. */
import { nightFerryRows } from './night-ferry.ts';
import { compareShows } from '../src/core/show/compare.ts';
import { TABLE_NAMES, type AnyRow, type TableName } from '../src/core/show/tables.ts';
import { MutableShow, type RowChange } from '../src/core/show/show.ts';
import { sayValue } from '../src/core/cues/tables.ts';
import { sayField } from '../src/core/show/words.ts';

const show = new MutableShow();
show.apply(nightFerryRows());
const named = (table: TableName, name: string): AnyRow => {
  const found = [
    ...(show[table] as ReadonlyMap<string, AnyRow & { name?: string; title?: string }>).values(),
  ].find((r) => (r.name ?? r.title) === name);
  if (!found) throw new Error(`${table} has no ${name}`);
  return found;
};

test.each<[TableName, string, unknown, string]>([
  ['types', 'panSpeed_deg_s', 200, '200 °/s'],
  ['types', 'lamp_K', 3200, '3200 K'],
  ['types', 'weight_kg', 7.25, '7.25 kg'],
  ['circuits', 'breaker_A', 32, '32 A'],
  ['fixtures', 'rotation', -45, '-45°'],
  ['fixtures', 'patch', [], 'off the rig'],
  ['fixtures', 'patch', [{ universe: 2, address: 101 }], '2.101'],
  ['fixtures', 'transforms', { Zoom: { invert: true } }, 'zoom'],
  ['fixtures', 'position', { x: 1, y: -2.5, z: 6 }, 'x 1.00 m, y -2.50 m, z 6.00 m'],
  ['pieces', 'z', 5.5, '5.5 m'],
  ['routes', 'protocol', 'artnet', 'Art-Net'],
  ['cues', 'number', 2500, '2.5'],
  ['cues', 'up_s', 3.25, '3.25 s'],
  ['cues', 'familyDelay_s', { position: 1 }, 'position 1 s'],
  ['cues', 'actions', [{}, {}], '2 actions'],
  ['cues', 'block', true, 'yes'],
  ['cues', 'note', '', 'nothing'],
  ['calls', 'from', 751, 'a place in the text'],
  [
    'lists',
    'chase',
    { on: true, speed: { bpm: 96 }, share: 0.5, direction: 'bounce', count: 4 },
    '96 steps a minute, bounce, 50 % fade, 4 times',
  ],
  [
    'lists',
    'chase',
    { on: false, speed: { step_s: 2 }, share: 1, direction: 'forward' },
    'off, 2 s a step, forward, 100 % fade',
  ],
  ['effects', 'speed', { hz: 0.25 }, '0.25 Hz'],
  ['effects', 'speed', { beats: 4 }, '4 beats a round'],
  ['effects', 'speed', { round_s: 3 }, '3 s a round'],
  [
    'effects',
    'spread',
    { turns: 1, groups: 0, blocks: 2, wings: 1, across: true },
    '1 round from first to last, 2 neighbours together, across the stage',
  ],
  ['palettes', 'any', { level: 0.4 }, '40 %'],
  ['palettes', 'any', { kelvin: 3200 }, '3200 K'],
  ['palettes', 'any', { point: { x: 0, y: 3.4, z: 1.6 } }, '0 3.4 1.6 m'],
  ['sounds', 'data', 'x'.repeat(4096), '3 kB'],
  ['scripts', 'title', 'y'.repeat(100), `“${'y'.repeat(88)}…”`],
])('%s: %s %j is said as “%s”', (table, field, value, words) => {
  expect(sayField(show, table, field, value)).toBe(words);
});

test('what a row points at is said by number and name', () => {
  const [list, look, circuit, script] = [
    named('lists', 'Band'),
    named('looks', 'Quay base'),
    named('circuits', 'D1'),
    named('scripts', 'The Night Ferry'),
  ];
  expect(sayField(show, 'faders', 'holds', { kind: 'list', id: list.id })).toBe('list 3 Band');
  expect(sayField(show, 'faders', 'holds', { kind: 'look', id: 'gone' })).toBe(
    'look one that is gone',
  );
  expect(sayField(show, 'values', 'look', look.id)).toBe('1 Quay base');
  expect(sayField(show, 'fixtures', 'circuitId', circuit.id)).toBe('D1');
  expect(sayField(show, 'calls', 'scriptId', script.id)).toBe('The Night Ferry');
});

test('a value is said with what it follows, its times and its part', () => {
  const [value] = [...show.values.values()];
  const lantern = [...show.palettes.values()].find((p) => p.name === 'Lantern');
  if (!value || !lantern) throw new Error('no value');
  expect(sayValue({ ...value, level: 0.7, fade_s: 2, delay_s: 0.5, part: 2 }, show)).toBe(
    '70 %, in 2 s, after 0.5 s, part 2',
  );
  expect(sayValue({ ...value, level: 0.7, palette: lantern.id }, show)).toBe(
    `${lantern.number} Lantern`,
  );
  expect([sayValue({ ...value, level: null }, show), sayValue(null, show)]).toEqual([
    'let go',
    'not set here',
  ]);
});

/** A value of the same kind that is another one where there is one. */
function otherThan(value: unknown): unknown {
  if (typeof value === 'number') return value + 1;
  if (typeof value === 'boolean') return !value;
  if (Array.isArray(value)) return value.slice(0, -1);
  return typeof value === 'string' ? value : {};
}

test('whatever field of whatever row changes: the comparison names no id and no raw field', () => {
  const ids = new Set(
    TABLE_NAMES.flatMap((t) =>
      t === 'values' || t === 'settings' || t === 'types' ? [] : [...show[t].keys()],
    ).filter((id) => /\d/.test(id)),
  );
  for (const table of TABLE_NAMES) {
    const seen = new Set<string>();
    for (const row of show[table].values()) {
      for (const [field, value] of Object.entries(row)) {
        if (field === 'id' || seen.has(field)) continue;
        seen.add(field);
        const after = { ...row, [field]: otherThan(value) };
        const change = { table, id: row.id, before: row, after } as unknown as RowChange;
        const to = show.clone();
        to.apply([change]);
        for (const item of compareShows(show, to, [change])) {
          const text = [
            item.title,
            ...item.lines.flatMap((l) => [l.label, l.before, l.after]),
          ].join(' ');
          expect([...text.matchAll(/[\w-]{4,}/g)].filter(([word]) => ids.has(word))).toEqual([]);
          expect(
            item.lines.map((l) => l.label).filter((label) => /_|[a-z][A-Z]/.test(label)),
          ).toEqual([]);
        }
      }
    }
  }
});
