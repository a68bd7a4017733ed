/** What leaves a show and comes back says nothing new: a rig that was made by hand, with all that one has. */
import { leanOf } from '../src/core/aim/beam.ts';
import { idsFrom } from '../src/core/edits/define-edit.ts';
import { formatPoints } from '../src/core/fixtures/points.ts';
import { writeCuesCsv } from '../src/core/formats/cues-csv.ts';
import { writePatchCsv } from '../src/core/formats/patch-csv.ts';
import { writeGdtf } from '../src/core/gdtf/write.ts';
import { TABLE_FILES } from '../src/core/import/csv.ts';
import { proposeImport } from '../src/core/import/import.ts';
import { uuidOfType } from '../src/core/mvr/uuid.ts';
import { writeMvr } from '../src/core/mvr/write.ts';
import { isRefusal } from '../src/core/refusal.ts';
import { newShowRows } from '../src/core/rig/defaults.ts';
import { MutableShow, type RowChange } from '../src/core/show/show.ts';
import { nightFerryRows } from './night-ferry.ts';

const show = new MutableShow();
show.apply(nightFerryRows());

function back(name: string, bytes: Uint8Array | string) {
  const file = { name, bytes: typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes };
  const { newId } = idsFrom(`back ${name}`);
  return proposeImport(file, undefined, {
    show,
    role: 'owner',
    editId: `back ${name}`,
    newId,
    options: {},
  });
}

test.each<[name: string, file: () => string]>([
  ['patch.csv', () => writePatchCsv(show)],
  ['cues.csv', () => writeCuesCsv(show, 'main')],
  ...Object.entries(TABLE_FILES).map(([name, write]): [string, () => string] => [
    name,
    () => write(show),
  ]),
])('%s changes nothing', (name, write) => {
  const read = back(name, write());
  if (isRefusal(read)) expect(read.code).toBe('nothing');
  else {
    expect(read.changes).toEqual([]);
    expect(read.items.length).toBeGreaterThan(0);
    expect(new Set(read.items.map((i) => i.does))).toEqual(new Set(['same']));
    expect(read.problems).toEqual([]);
  }
});

test.each([...show.types.values()].map((t) => [`${t.maker} ${t.name}`, t] as const))(
  'the file of the type %s is that type',
  (_, type) => {
    const { id, ...rest } = type;
    const read = back('type.gdtf', writeGdtf(rest, uuidOfType(id)));
    expect(read).toMatchObject({ changes: [], items: [{ what: 'type', does: 'same' }] });
  },
);

test('the plan of the rig is that rig: nothing moves, no type is another, no piece is there twice; then it is known', () => {
  const read = back('rig.mvr', writeMvr(show));
  if (isRefusal(read)) throw new Error(read.message);
  expect(read.problems).toEqual([]);
  expect(read.items.filter((i) => i.does !== 'same')).toEqual([]);
  // What the plan knows a unit by is all that is written, once.
  const written = ({ before, after }: RowChange): unknown => ({
    ...after,
    plan: (before as never)?.['plan'],
  });
  for (const change of read.changes) {
    expect(change.table).toBe('fixtures');
    expect(JSON.parse(JSON.stringify(written(change)))).toEqual(
      JSON.parse(JSON.stringify(change.before)),
    );
  }
  const known = new MutableShow();
  known.apply(nightFerryRows());
  known.apply(read.changes);
  const again = proposeImport({ name: 'rig.mvr', bytes: writeMvr(known) }, undefined, {
    show: known,
    role: 'owner',
    editId: 'again',
    newId: idsFrom('again').newId,
    options: {},
  });
  expect(again).toMatchObject({ items: [], changes: [] });
});

test('a unit that was moved on its way comes back moved, and no other', () => {
  const other = new MutableShow();
  other.apply(nightFerryRows());
  const unit = other.fixtureByNumber(5);
  if (!unit) throw new Error('no unit 5');
  const position = { ...unit.position, x: unit.position.x + 0.4 };
  other.apply([{ table: 'fixtures', id: unit.id, before: unit, after: { ...unit, position } }]);
  const read = back('rig.mvr', writeMvr(other));
  if (isRefusal(read)) throw new Error(read.message);
  expect(read.items.filter((i) => i.does !== 'same')).toMatchObject([
    { name: `5 ${unit.label}`, does: 'changed', says: 'moved 0.40 m' },
  ]);
});

test('into an empty show the plan brings the same rig: numbers, addresses, bars, places and where each looks', () => {
  const other = new MutableShow();
  other.apply(newShowRows('Other'));
  const { newId } = idsFrom('elsewhere');
  const read = proposeImport({ name: 'rig.mvr', bytes: writeMvr(show) }, undefined, {
    show: other,
    role: 'owner',
    editId: 'elsewhere',
    newId,
    options: {},
  });
  if (isRefusal(read)) throw new Error(read.message);
  other.apply(read.changes);
  const said = (s: MutableShow): unknown[] =>
    [...s.fixtures.values()]
      .sort((a, b) => a.number - b.number)
      .map((f) => {
        const type = s.types.get(f.typeId);
        const mode = type?.modes.find((m) => m.name === f.mode);
        return {
          number: f.number,
          label: f.label,
          patch: formatPoints(f.patch),
          hang: f.hang,
          type: `${type?.maker} ${type?.name}, ${f.mode}`,
          at: [f.position.x, f.position.y, f.position.z].map((v) => Math.round(v * 100)),
          lean: type && Math.round(leanOf(f, type)),
          rotation: Math.round(((f.rotation % 360) + 360) % 360),
          guarded: f.noGrandMaster,
          channels: mode?.channels.map((c) => `${c.attribute} ${c.offset.join('+')}`).sort(),
        };
      });
  expect(said(other)).toEqual(said(show));
  const names = (s: MutableShow): string[] =>
    [...s.pieces.values()].flatMap((p) => (p.kind === 'set' ? [p.name] : [])).sort();
  expect(names(other)).toEqual(names(show));
});
