/** The rig as it stands, as a plan that other programs read (MVR 1.6), with its types as files in it. */
import { zipSync } from 'fflate';
import { leanOf } from '../aim/beam.ts';
import { absolute } from '../fixtures/points.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { make, WORDS, writeXml, type Element } from '../formats/xml.ts';
import { writeGdtf } from '../gdtf/write.ts';
import type { PieceRow } from '../plan/rows.ts';
import type { Show } from '../show/show.ts';
import type { TypeRow } from '../types/rows.ts';
import { writeGlb } from '../meshes/glb.ts';
import { boxTriangles, trianglesOf, type Box } from '../meshes/triangles.ts';
import { frameText } from './space.ts';
import { uuidOf, uuidOfFixture, uuidOfPiece, uuidOfType } from './uuid.ts';

const DEFAULT_LAYER = 'Rig';
const said = (tag: string, words: string | number): Element =>
  make(tag, { [WORDS]: String(words) });

/** A file name that a plan may use: letters, digits and a few marks. */
const fileOf = (type: TypeRow, taken: Map<string, string>): string => {
  const known = taken.get(type.id);
  if (known !== undefined) return known;
  const stem = `${type.maker}@${type.name}`.replaceAll(/[^A-Za-z0-9@ ()._-]+/g, '_').slice(0, 80);
  const names = new Set([...taken.values()].map((n) => n.toLowerCase()));
  let name = `${stem}.gdtf`;
  for (let n = 2; names.has(name.toLowerCase()); n++) name = `${stem} ${n}.gdtf`;
  taken.set(type.id, name);
  return name;
};

const barUuid = (name: string): string => uuidOf(`bar ${name}`);
const classUuid = (name: string): string => uuidOf(`class ${name}`);

function fixtureElement(
  f: FixtureRow,
  type: TypeRow | undefined,
  files: Map<string, string>,
): Element {
  const lean = type ? leanOf(f, type) : (f.lean ?? 0);
  const points = [...f.patch].sort((a, b) => (a.break ?? 1) - (b.break ?? 1));
  return make('Fixture', { uuid: uuidOfFixture(f), name: f.label }, [
    said('Matrix', frameText(f.position, f.rotation, lean)),
    ...(f.plan?.class === undefined ? [] : [said('Classing', classUuid(f.plan.class))]),
    ...(type ? [said('GDTFSpec', fileOf(type, files)), said('GDTFMode', f.mode)] : []),
    make(
      'Addresses',
      {},
      points.map((p) =>
        make('Address', { break: (p.break ?? 1) - 1, [WORDS]: String(absolute(p)) }),
      ),
    ),
    ...(f.hang === '' ? [] : [said('Position', barUuid(f.hang))]),
    said('FixtureID', f.number),
    said('FixtureIDNumeric', f.number),
    said('UnitNumber', f.plan?.unit ?? 0),
    ...(f.transforms?.Pan?.invert ? [said('DMXInvertPan', 'true')] : []),
    ...(f.transforms?.Tilt?.invert ? [said('DMXInvertTilt', 'true')] : []),
  ]);
}

/** A set piece as a thing with its mesh, or a box for one: as wide, as deep and as tall as it is. */
function pieceElement(p: PieceRow, n: number, entries: Record<string, Uint8Array>): Element {
  const [xs, ys] = [p.points.map((q) => q.x), p.points.map((q) => q.y)];
  const middle = (v: readonly number[]): number => (Math.min(...v) + Math.max(...v)) / 2;
  const width = (v: readonly number[]): number => Math.max(...v) - Math.min(...v);
  const file = `piece-${n + 1}.glb`;
  const [x, y, z] = [width(xs), width(ys), p.height ?? 0];
  const box: Box = { low: [-x / 2, -y / 2, 0], high: [x / 2, y / 2, z] };
  entries[file] = writeGlb(p.mesh ? trianglesOf(p.mesh, box) : boxTriangles(box));
  return make('SceneObject', { uuid: uuidOfPiece(p), name: p.name }, [
    said('Matrix', frameText({ x: middle(xs), y: middle(ys), z: p.z }, 0, 0)),
    make('Geometries', {}, [make('Geometry3D', { fileName: file })]),
  ]);
}

function pointElements(show: Show): Element[] {
  return [...show.palettes.values()].flatMap((p) =>
    p.any?.point
      ? [
          make('FocusPoint', { uuid: uuidOf(`point ${p.id}`), name: p.name }, [
            said('Matrix', frameText(p.any.point, 0, 0)),
            make('Geometries'),
          ]),
        ]
      : [],
  );
}

/** The rig as an MVR (DIN SPEC 15801), with the types of its units as GDTF. */
export function writeMvr(show: Show): Uint8Array {
  const files = new Map<string, string>();
  const fixtures = [...show.fixtures.values()].sort((a, b) => a.number - b.number);
  const layers = [...new Set(fixtures.map((f) => f.plan?.layer ?? DEFAULT_LAYER))];
  const inLayer = layers.map((name) =>
    make('Layer', { uuid: uuidOf(`layer ${name}`), name }, [
      make(
        'ChildList',
        {},
        fixtures
          .filter((f) => (f.plan?.layer ?? DEFAULT_LAYER) === name)
          .map((f) => fixtureElement(f, show.types.get(f.typeId), files)),
      ),
    ]),
  );
  const entries: Record<string, Uint8Array> = {};
  const pieces = [...show.pieces.values()]
    .filter((p) => p.kind === 'set')
    .map((p, n) => pieceElement(p, n, entries));
  const stage = make('Layer', { uuid: uuidOf('layer Stage'), name: 'Stage' }, [
    make('ChildList', {}, [...pieces, ...pointElements(show)]),
  ]);
  const hangs = [...new Set(fixtures.map((f) => f.hang).filter((h) => h !== ''))];
  const classes = [...new Set(fixtures.flatMap((f) => f.plan?.class ?? []))];
  const aux = make('AUXData', {}, [
    ...classes.map((name) => make('Class', { uuid: classUuid(name), name })),
    ...hangs.map((name) => make('Position', { uuid: barUuid(name), name })),
  ]);
  const root = make(
    'GeneralSceneDescription',
    { verMajor: 1, verMinor: 6, provider: 'Wingman', providerVersion: '1' },
    [make('UserData'), make('Scene', {}, [aux, make('Layers', {}, [...inLayer, stage])])],
  );
  entries['GeneralSceneDescription.xml'] = new TextEncoder().encode(writeXml(root));
  for (const [id, name] of files) {
    const type = show.types.get(id);
    if (!type) continue;
    const { id: own, ...rest } = type;
    entries[name] = writeGdtf(rest, uuidOfType(own));
  }
  return zipSync(entries, { mtime: new Date(1980, 0, 2), level: 6 });
}
