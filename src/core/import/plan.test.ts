/** Plans: golden ones written by hand from the standard; the same plan again, later; hostile ones; out and in. */
import { zipSync } from 'fflate';
import { planEdit } from '../edits/plan-edit';
import { idsFrom, insertRow } from '../edits/define-edit';
import { formatPoints } from '../fixtures/points';
import type { FixtureRow } from '../fixtures/rows';
import { headFile, roofGlb } from '../gdtf/golden';
import { writeGlb } from '../meshes/glb';
import { boxTriangles } from '../meshes/triangles';
import { frameIn, frameText, hungAs } from '../mvr/space';
import { writeMvr } from '../mvr/write';
import { PieceRow } from '../plan/rows';
import { isRefusal } from '../refusal';
import { newShowRows } from '../rig/defaults';
import { doublesAfter } from '../show/numbers';
import { MutableShow } from '../show/show';
import { proposeImport } from './import';
import type { Proposed } from './proposed';
import fc from 'fast-check';

const boxGlb = ({ x, y, z }: { x: number; y: number; z: number }): Uint8Array =>
  writeGlb(boxTriangles({ low: [-x / 2, -y / 2, 0], high: [x / 2, y / 2, z] }));
const U = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const at = (x: number, y: number, z: number): string =>
  `<Matrix>{1,0,0}{0,1,0}{0,0,1}{${x},${y},${z}}</Matrix>`;
const unit = (n: number, inside: string): string =>
  `<Fixture uuid="${U(n)}" name="Unit ${n}">${inside}</Fixture>`;
const head = (n: number, place: string, address: string, more = ''): string =>
  unit(
    n,
    `${place}<GDTFSpec>Oriel.gdtf</GDTFSpec><GDTFMode>Basic</GDTFMode><FixtureID>${200 + n}</FixtureID><UnitNumber>${n}</UnitNumber><Addresses><Address break="0">${address}</Address></Addresses>${more}`,
  );
const planOf = (things: string, layer = ''): string => `<?xml version="1.0" encoding="UTF-8"?>
<GeneralSceneDescription verMajor="1" verMinor="6"><UserData/><Scene>
 <AUXData><Class uuid="${U(901)}" name="Spots"/><Position uuid="${U(902)}" name="Truss 1"/><Symdef uuid="${U(903)}"><ChildList><Geometry3D fileName="box.glb"/></ChildList></Symdef></AUXData>
 <Layers><Layer uuid="${U(900)}" name="Overhead">${layer}<ChildList>${things}</ChildList></Layer></Layers></Scene></GeneralSceneDescription>`;
const mvr = (
  xml: string,
  more: Record<string, Uint8Array> = {
    'Oriel.gdtf': headFile(),
    'box.glb': boxGlb({ x: 4, y: 1, z: 0.5 }),
  },
): Uint8Array => zipSync({ 'GeneralSceneDescription.xml': new TextEncoder().encode(xml), ...more });

let show: MutableShow;
let n = 0;
beforeEach(() => {
  show = new MutableShow();
  show.apply(newShowRows('Plan'));
});
function propose(bytes: Uint8Array, into = show): Proposed {
  const editId = `p${n++}`;
  const proposed = proposeImport({ name: 'rig.mvr', bytes }, undefined, {
    show: into,
    role: 'owner',
    editId,
    newId: idsFrom(editId).newId,
    options: {},
  });
  if (isRefusal(proposed)) throw new Error(proposed.message);
  return proposed;
}
function take(xml: string, more?: Record<string, Uint8Array>): Proposed {
  const proposed = propose(mvr(xml, more));
  show.apply(proposed.changes);
  return proposed;
}
const fixture = (number: number): FixtureRow => {
  const found = show.fixtureByNumber(number);
  if (!found) throw new Error(`no ${number}`);
  return found;
};
const lines = (p: Proposed): string => p.problems.map((o) => `${o.where}: ${o.text}`).join('\n');
const units = (p: Proposed): string[] =>
  p.items
    .filter((i) => i.what === 'unit')
    .map((i) => `${i.name} ${i.does}${i.says ? `: ${i.says}` : ''}`);

describe('how a unit hangs', () => {
  test.each([
    ['unturned', '{1,0,0}{0,1,0}{0,0,1}{0,0,0}', 0, 0],
    ['a quarter clockwise seen from above', '{0,-1,0}{1,0,0}{0,0,1}{0,0,0}', 90, 0],
    ['upside down on the floor, turned about x', '{1,0,0}{0,-1,0}{0,0,-1}{0,0,0}', 0, 180],
    ['leaned upstage by 90', '{1,0,0}{0,0,1}{0,-1,0}{0,0,0}', 0, 90],
  ])('%s', (_, text, rotation, lean) => {
    const frame = frameIn(text);
    expect(frame && hungAs(frame)).toMatchObject({ rotation, lean });
  });

  test('what is written is read the same', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1799, max: 1800 }),
        fc.integer({ min: 1, max: 1799 }),
        (r, l) => {
          const frame = frameIn(frameText({ x: 1, y: 2, z: 3 }, r / 10, l / 10));
          const hung = frame && hungAs(frame);
          expect(frame?.at).toEqual({ x: 1, y: 2, z: 3 });
          expect(Math.abs((((hung?.rotation ?? 0) - r / 10 + 540) % 360) - 180)).toBeLessThan(0.11);
          expect(hung?.lean).toBeCloseTo(l / 10, 1);
          expect(hung?.off_deg).toBeLessThan(0.2);
        },
      ),
    );
  });
});

describe('a plan of a rig', () => {
  const GROUP = `<GroupObject uuid="${U(50)}" name="Truss"><Matrix>{1,0,0}{0,1,0}{0,0,1}{1000,2000,6000}</Matrix><ChildList>${head(1, at(-500, 0, 0), '513', `<Position>${U(902)}</Position><Classing>${U(901)}</Classing>`)}${head(2, at(500, 0, 0), '2.15', `<Position>${U(902)}</Position><Classing>${U(901)}</Classing><DMXInvertPan>true</DMXInvertPan>`)}</ChildList></GroupObject>`;
  const REST = `<FocusPoint uuid="${U(60)}" name="Centre">${at(0, 1500, 0)}</FocusPoint><SceneObject uuid="${U(61)}" name="Riser">${at(0, 4000, 0)}<Geometries><Symbol uuid="${U(62)}" symdef="${U(903)}"/></Geometries></SceneObject>`;

  test('units where groups put them, with types from inside, numbers, addresses, bars, classes, points, pieces', () => {
    const proposed = take(planOf(GROUP + REST));
    expect(lines(proposed)).toMatch(/^type “Oriel”, mode “Basic”: rests without any colour/);
    expect(units(proposed)).toEqual(['201 Unit 1 new: 2.1', '202 Unit 2 new: 2.15']);
    expect(fixture(201)).toMatchObject({
      position: { x: 0.5, y: 2, z: 6 },
      hang: 'Truss 1',
      plan: { uuid: U(1), layer: 'Overhead', class: 'Spots', unit: '1' },
    });
    expect(fixture(202).transforms?.Pan).toEqual({ invert: true });
    expect([...show.pieces.values()].find((p) => p.name === 'Truss 1')).toMatchObject({
      kind: 'bar',
      z: 6,
      points: [
        { x: 0, y: 2 },
        { x: 2, y: 2 },
      ],
    });
    expect([...show.pieces.values()].find((p) => p.name === 'Riser')).toMatchObject({
      kind: 'set',
      z: 0,
      height: 0.5,
      points: [
        { x: -2, y: 3.5 },
        { x: 2, y: 3.5 },
        { x: 2, y: 4.5 },
        { x: -2, y: 4.5 },
        { x: -2, y: 3.5 },
      ],
    });
    expect([...show.palettes.values()].find((p) => p.name === 'Centre')?.any?.point).toEqual({
      x: 0,
      y: 1.5,
      z: 0,
    });
    expect([...show.groups.values()].map((g) => [g.name, g.fixtures.length])).toEqual([
      ['Spots', 2],
    ]);
    expect([...show.routes.values()].some((r) => r.universe === 2)).toBe(true);
  });

  test('a point takes a number that no palette has, of whatever family', () => {
    show.apply([
      insertRow('palettes', {
        id: 'one',
        number: 1,
        family: 'colour',
        name: 'Dusk',
        fixtures: {},
        types: {},
        any: { kelvin: 3200 },
      }),
    ]);
    const proposed = propose(mvr(planOf(REST)));
    expect(doublesAfter(show, proposed.changes)).toBeUndefined();
    show.apply(proposed.changes);
    expect([...show.palettes.values()].map((p) => [p.number, p.name])).toEqual([
      [1, 'Dusk'],
      [2, 'Centre'],
    ]);
  });

  test('the same again changes nothing', () => {
    take(planOf(GROUP + REST));
    const again = propose(mvr(planOf(GROUP + REST)));
    expect([again.items, again.changes]).toEqual([[], []]);
  });

  test('each address of its break is a unit’s; those of a break that its mode does not have are left out', () => {
    const more = (n: number, text: string): string => `<Address break="${n}">${text}</Address>`;
    const with_ = (inside: string): string =>
      head(1, at(0, 0, 0), '2.1').replace('</Addresses>', `${inside}</Addresses>`);
    take(planOf(with_(more(0, '2.101') + more(1, '2.201'))));
    expect(formatPoints(fixture(201).patch)).toBe('2.1, 2.101');
  });

  test('later: what moved, what is new, what went off the rig with what keeps it; programming stays', () => {
    take(planOf(GROUP + REST));
    const gone = fixture(202);
    const recorded = planEdit(
      show,
      'owner',
      'record-cue',
      {
        listId: 'main',
        number: 1000,
        name: 'One',
        up_s: 0,
        down_s: 0,
        values: [{ fixtureId: gone.id, attribute: 'Pan', level: 0.2 }],
      },
      'r',
    );
    if (isRefusal(recorded)) throw new Error(recorded.message);
    show.apply(recorded.changes);
    const later = take(
      planOf(head(1, at(0, 2500, 6000), '2.30') + head(3, at(3000, 0, 5000), '2.1') + REST),
    );
    expect(units(later)).toEqual([
      '201 Unit 1 changed: moved 0.71 m, 2.1 → 2.30, hangs on nothing',
      '203 Unit 3 new: 2.1',
      '202 Unit 2 gone: goes off the rig; 1 cue and 1 group keep it',
    ]);
    expect([fixture(202).patch, formatPoints(fixture(202).wasAt ?? [])]).toEqual([[], '2.15']);
    expect(show.values.size).toBe(1);
    expect(later.summary).toBe('Took in a plan: 1 new unit, 1 changed, 1 off the rig');
  });

  test('units of the show that no plan ever had stay, and keep their addresses', () => {
    const patched = planEdit(
      show,
      'owner',
      'patch-fixtures',
      { typeId: 'generic-dimmer', mode: '8 bit', quantity: 1, first: 201, universe: 2, address: 3 },
      'x',
    );
    if (isRefusal(patched)) throw new Error(patched.message);
    show.apply(patched.changes);
    const proposed = take(planOf(GROUP));
    expect(lines(proposed)).toMatch(/201 is taken; it is 202/);
    expect(lines(proposed)).toMatch(/its address is taken by 201; it is off the rig/);
    expect(formatPoints(fixture(201).patch)).toBe('2.3');
  });

  test('out into another show it is the same rig, and out again the same file', () => {
    take(planOf(GROUP + REST));
    const other = new MutableShow();
    other.apply(newShowRows('Other'));
    const file = writeMvr(show);
    other.apply(propose(file, other).changes);
    const plain = (s: MutableShow): unknown =>
      [...s.fixtures.values()]
        .map(({ id, ...f }) => (void id, f))
        .sort((a, b) => a.number - b.number);
    expect(plain(other)).toEqual(plain(show));
    expect([...other.types.values()].map(({ id, ...t }) => (void id, t))).toEqual(
      [...show.types.values()].map(({ id, ...t }) => (void id, t)),
    );
    expect(propose(file).changes).toEqual([]);
  });
});

describe('what is odd in a plan', () => {
  test('units with one uuid between them, or none, are known again by number and name', () => {
    const nameless = head(3, at(2, 0, 0), '200').replace(`uuid="${U(3)}"`, '');
    const second = head(2, at(1, 0, 0), '100').replace(U(2), U(1));
    const xml = planOf(head(1, at(0, 0, 0), '1') + second + nameless + nameless);
    take(xml);
    const rig = [...show.fixtures.values()];
    expect(rig).toHaveLength(4);
    expect(propose(mvr(xml)).changes).toEqual([]);
  });

  test('a type that is not in it: as many channels as lie between its units, and said', () => {
    const lost = (k: number, address: string): string =>
      head(k, at(k * 1000, 0, 0), address).replace('Oriel.gdtf', 'Maker@Lost@1.gdtf');
    const proposed = take(planOf(lost(1, '1') + lost(2, '13') + lost(3, '37')));
    expect(lines(proposed)).toMatch(
      /type “Maker@Lost@1”: its file is not in the plan; its units have 12 channels of which nothing is known/,
    );
    expect(units(proposed)).toHaveLength(3);
    expect(propose(mvr(planOf(lost(1, '1')))).items.map((i) => i.what)).not.toContain('type');
  });

  test.each([
    [
      'two units with one uuid',
      head(1, at(0, 0, 0), '1') + head(1, at(1, 0, 0), '100'),
      /has the uuid of another unit/,
    ],
    [
      'an address past the end',
      head(1, at(0, 0, 0), '505'),
      /at 505 it would end past 512; it is off the rig/,
    ],
    ['an address that is none', head(1, at(0, 0, 0), 'x'), /“x” is no address/],
    [
      'a matrix that mirrors',
      head(1, '<Matrix>{-1,0,0}{0,1,0}{0,0,1}{0,0,0}</Matrix>', '1'),
      /mirrors or flattens/,
    ],
    [
      'a matrix that flattens',
      head(1, '<Matrix>{0,0,0}{0,0,0}{0,0,0}{0,0,0}</Matrix>', '1'),
      /mirrors or flattens/,
    ],
    ['a matrix that is none', head(1, '<Matrix>here</Matrix>', '1'), /its matrix is none/],
    ['a place in another country', head(1, at(9e9, 0, 0), '1'), /further away than any stage/],
    [
      'a number that is none',
      head(1, at(0, 0, 0), '1').replace('>201<', '>A1<'),
      /“A1” is no fixture number/,
    ],
    [
      'a mode that is not there',
      head(1, at(0, 0, 0), '1').replace('>Basic<', '>Full<'),
      /has no mode “Full”; it is in Basic/,
    ],
    ['no uuid', head(1, at(0, 0, 0), '1').replace(U(1), ''), /has no uuid/],
    [
      'two on one address',
      head(1, at(0, 0, 0), '1') + head(2, at(0, 0, 0), '5'),
      /its address is taken by 201/,
    ],
  ])('%s is mended and said', (_, things, says) => {
    const proposed = take(planOf(things));
    expect(lines(proposed)).toMatch(says);
    expect(units(proposed).length).toBeGreaterThan(0);
  });

  test('groups in groups without end, no description, no ZIP', () => {
    const deep = `${'<GroupObject><ChildList>'.repeat(90)}${'</ChildList></GroupObject>'.repeat(90)}`;
    expect(lines(take(planOf(head(1, at(0, 0, 0), '1') + deep)))).toMatch(/without end/);
    expect(() => propose(zipSync({ 'GeneralSceneDescription.xml': new Uint8Array(0) }))).toThrow(
      /no XML/,
    );
  });

  test('a thing with a shape keeps it: light, in the box of its outline, out and in again, and moved along with it', () => {
    const xml = (x: number): string =>
      `<GeneralSceneDescription verMajor="1" verMinor="6"><Scene><Layers><Layer uuid="${U(900)}" name="Set"><ChildList>
        <SceneObject uuid="${U(901)}" name="Roof">${at(x, 3000, 500)}<Geometries><Geometry3D fileName="roof.glb"/></Geometries></SceneObject>
        <SceneObject uuid="${U(902)}" name="Deck">${at(0, 0, 0)}<Geometries><Geometry3D fileName="box.glb"/></Geometries></SceneObject>
      </ChildList></Layer></Layers></Scene></GeneralSceneDescription>`;
    const files = { 'roof.glb': roofGlb(), 'box.glb': boxGlb({ x: 2, y: 1, z: 1 }) };
    const first = propose(mvr(xml(1000), files));
    show.apply(first.changes);
    const piece = (name: string) => [...show.pieces.values()].find((p) => p.name === name);
    expect(piece('Deck')?.mesh).toBeUndefined();
    const roof = piece('Roof');
    expect(roof?.mesh?.high).toEqual([2, 3.5, 1.5]);
    expect(roof).toMatchObject({ z: 0.5, height: 1 });
    // Out and in again, nothing of it is another.
    const again = propose(writeMvr(show));
    expect(again.changes.filter((c) => c.table === 'pieces')).toEqual([]);
    // A later plan has it elsewhere.
    const later = propose(mvr(xml(2000), files));
    expect(later.items.filter((i) => i.name === 'Roof')).toEqual([
      { what: 'piece', name: 'Roof', does: 'changed', says: 'moved' },
    ]);
    show.apply(later.changes);
    expect(piece('Roof')?.mesh?.points).toBe(roof?.mesh?.points);
    // Came in before shapes were kept: the same plan again brings it.
    const plain = piece('Roof');
    if (!plain) throw new Error('no roof');
    const { mesh, ...without } = plain;
    void mesh;
    show.apply([{ table: 'pieces', id: plain.id, before: plain, after: without }]);
    expect(propose(mvr(xml(2000), files)).items.find((i) => i.name === 'Roof')?.says).toBe(
      'another shape',
    );
  });

  test('a shape that lies far away, or where its numbers end, comes in as its outline', () => {
    for (const x of [600_000, 1e300]) {
      const xml = `<GeneralSceneDescription verMajor="1" verMinor="6"><Scene><Layers><Layer uuid="${U(900)}" name="Set"><ChildList>
          <SceneObject uuid="${U(903)}" name="Far">${at(x, 0, 0)}<Geometries><Geometry3D fileName="roof.glb"/></Geometries></SceneObject>
        </ChildList></Layer></Layers></Scene></GeneralSceneDescription>`;
      const { changes } = propose(mvr(xml, { 'roof.glb': roofGlb() }));
      const [piece] = changes.flatMap((c) => (c.table === 'pieces' && c.after ? [c.after] : []));
      expect(PieceRow.safeParse(piece).success).toBe(true);
      expect(piece?.mesh).toBeUndefined();
    }
  });
});
