/** The parts that a type is written as: a body, the axes of what turns, its beam, and its cells. */
import { make, type Element } from '../formats/xml.ts';
import { baseOf, cellOf } from '../rig/attributes.ts';
import { writeGlb } from '../meshes/glb.ts';
import type { BodyPart } from '../meshes/rows.ts';
import { movedTriangles, trianglesOf } from '../meshes/triangles.ts';
import type { Channel, Mode, TypeRow } from '../types/rows.ts';
import { SHAPE_NAMES } from './physical.ts';
import { matrixAt } from './values.ts';

const MODEL = 'Body model';
const BEAM_TYPES: Record<TypeRow['shape'], string> = {
  profile: 'Spot',
  wash: 'Wash',
  head: 'Spot',
  strip: 'Rectangle',
  house: 'PC',
  hazer: 'None',
};

/** As wide and deep as a metre: places of cells in it are shares of its face. */
export const modelOf = (): Element =>
  make('Model', { Name: MODEL, Length: 1, Width: 1, Height: 0.3, PrimitiveType: 'Cube', File: '' });

const PART_NAMES: Record<BodyPart['moves'], string> = {
  still: 'Shape that stays',
  pan: 'Shape that pans',
  tilt: 'Shape that tilts',
};
/** Heads are written with axes; of what has none, everything stays. */
const movesIn = (type: Whole, part: BodyPart): BodyPart['moves'] =>
  type.shape === 'head' ? part.moves : 'still';
const modelFor = (type: Whole, moves: BodyPart['moves']): { Model?: string } =>
  type.body?.some((p) => movesIn(type, p) === moves) ? { Model: PART_NAMES[moves] } : {};

/** Its meshes as files of the archive, each from where its part is placed. */
export function bodyModels(type: Whole, files: Map<string, Uint8Array>): Element[] {
  return (type.body ?? []).map((part) => {
    const moves = movesIn(type, part);
    const up = moves === 'tilt' ? (type.reach_m ?? 0) : 0;
    const file = `shape-${part.moves}`;
    const mesh = trianglesOf(part.mesh);
    files.set(
      `models/gltf/${file}.glb`,
      writeGlb(movedTriangles(mesh, (x, y, z) => [x, y, z + up])),
    );
    const [x = 0, y = 0, z = 0] = part.mesh.high.map((v, k) => v - (part.mesh.low[k] ?? 0));
    return make('Model', {
      Name: PART_NAMES[moves],
      Length: x,
      Width: y,
      Height: z,
      PrimitiveType: 'Undefined',
      File: file,
    });
  });
}

const nth = (name: string, mode: number): string => (mode === 0 ? name : `${name} ${mode + 1}`);
const bodyName = (shape: TypeRow['shape']): string =>
  Object.entries(SHAPE_NAMES).find(([, s]) => s === shape)?.[0] ?? 'Body';

/** What the parts of a mode are called; no two in a file alike. */
export const partNames = (shape: TypeRow['shape'], mode: number) => ({
  body: nth(bodyName(shape), mode),
  yoke: nth('Yoke', mode),
  head: nth('Head', mode),
  beam: nth('Beam', mode),
  shape: nth('Shape', mode),
  /** What references refer to. */
  cell: nth('Cell', mode),
});

/** The part that a channel moves. */
export function partOf(
  channel: Channel,
  shape: TypeRow['shape'],
  mode: Mode,
  index: number,
): string {
  const names = partNames(shape, index);
  const cell = cellOf(channel.attribute);
  if (cell > 0) return regularCells(mode) ? names.cell : cellName(mode, cell);
  const base = baseOf(channel.attribute);
  if (shape !== 'head') return names.body;
  if (base === 'Pan') return names.yoke;
  return base === 'Tilt' ? names.head : names.body;
}

const cellName = (mode: Mode, cell: number): string =>
  mode.cells?.[cell - 1]?.name ?? `Cell ${cell}`;

/** Channels that stand together in a geometry of their own. */
export interface Cell {
  channels: readonly Channel[];
  break: number;
  /** Where its channels begin. */
  offset: number;
}

/** Channels by their cells, in order. */
function cellsOf(mode: Mode): Cell[] {
  const count = Math.max(
    mode.cells?.length ?? 0,
    ...mode.channels.map((c) => cellOf(c.attribute)),
    0,
  );
  return Array.from({ length: count }, (_, i) => {
    const channels = mode.channels.filter((c) => cellOf(c.attribute) === i + 1);
    return {
      channels,
      break: channels[0]?.break ?? 1,
      offset: Math.min(...channels.flatMap((c) => c.offset)),
    };
  });
}

/** What of a cell is the same in all of them. */
const likeness = ({ channels, offset }: Cell): string =>
  JSON.stringify(
    channels.map(({ attribute, offset: own, functions, ...c }) => ({
      ...c,
      break: undefined,
      base: baseOf(attribute),
      offset: own.map((o) => o - offset),
      functions: functions?.map((f) => ({
        ...f,
        when: f.when && { ...f.when, attribute: baseOf(f.when.attribute) },
      })),
    })),
  );

const known = new WeakMap<Mode, readonly Cell[] | null>();
/** The cells, where each is made as the first is, so that one part can be referred to by all. */
export function regularCells(mode: Mode): readonly Cell[] | undefined {
  let cells = known.get(mode);
  if (cells === undefined) {
    const all = cellsOf(mode);
    const [first] = all;
    const isRegular =
      first !== undefined &&
      first.channels.length > 0 &&
      all.every(
        (c) =>
          likeness(c) === likeness(first) && c.channels.every((x) => (x.break ?? 1) === c.break),
      );
    cells = isRegular ? all : null;
    known.set(mode, cells);
  }
  return cells ?? undefined;
}

type Whole = Omit<TypeRow, 'id'>;

const beamAttrs = (type: Whole): Record<string, string | number | undefined> => ({
  BeamType: BEAM_TYPES[type.shape],
  BeamAngle: type.beam_deg,
  FieldAngle: type.beam_deg,
  LuminousFlux: type.lumens,
  ColorTemperature: type.lamp_K,
});

function cellParts(mode: Mode, names: ReturnType<typeof partNames>): Element[] {
  const regular = regularCells(mode);
  return cellsOf(mode).map((cell, i) => {
    const { x, y } = mode.cells?.[i] ?? { x: 0.5, y: 0.5 };
    const Position = matrixAt(x - 0.5, 0.5 - y, 0);
    const Name = cellName(mode, i + 1);
    return regular
      ? make('GeometryReference', { Name, Geometry: names.cell, Position }, [
          make('Break', { DMXBreak: cell.break, DMXOffset: cell.offset }),
        ])
      : make('Geometry', { Name, Position });
  });
}

/** The body of a mode, and what its references refer to. */
export function geometryOf(type: Whole, mode: Mode, index: number): Element[] {
  const names = partNames(type.shape, index);
  const down = matrixAt(0, 0, -(type.reach_m ?? 0));
  const flat = matrixAt(0, 0, 0);
  const beam = make('Beam', {
    Name: names.beam,
    Position: type.shape === 'head' ? flat : down,
    ...beamAttrs(type),
  });
  const light =
    type.shape === 'head'
      ? make('Axis', { Name: names.yoke, ...modelFor(type, 'pan'), Position: flat }, [
          make('Axis', { Name: names.head, ...modelFor(type, 'tilt'), Position: down }, [beam]),
        ])
      : beam;
  const body = make('Geometry', { Name: names.body, Model: MODEL, Position: flat }, [
    light,
    ...(type.body?.some((p) => movesIn(type, p) === 'still')
      ? [make('Geometry', { Name: names.shape, ...modelFor(type, 'still'), Position: flat })]
      : []),
    ...cellParts(mode, names),
  ]);
  return regularCells(mode)
    ? [body, make('Geometry', { Name: names.cell, Position: flat })]
    : [body];
}
