/** How large a mesh is, without drawing it: of binary glTF (2.0) by what its accessors say, of 3DS by its vertices. In metres. */
import type { Vector } from './space.ts';

export interface Bounds {
  low: Vector;
  high: Vector;
}

const GLB = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const around = (points: readonly Vector[]): Bounds | undefined => {
  if (points.length === 0) return undefined;
  const of = (pick: (...n: number[]) => number): Vector => ({
    x: pick(...points.map((p) => p.x)),
    y: pick(...points.map((p) => p.y)),
    z: pick(...points.map((p) => p.z)),
  });
  return { low: of(Math.min), high: of(Math.max) };
};
export const joined = (all: readonly Bounds[]): Bounds | undefined =>
  around(all.flatMap((b) => [b.low, b.high]));

interface Accessor {
  min?: number[];
  max?: number[];
}
interface Gltf {
  accessors?: Accessor[];
  meshes?: { primitives?: { attributes?: { POSITION?: number } }[] }[];
}

/** Its y is up: as others see it, z is. Nodes that move parts of it are not followed. */
function glbBounds(view: DataView, bytes: Uint8Array): Bounds | undefined {
  const length = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || 20 + length > bytes.length) return undefined;
  const { accessors = [], meshes = [] } = JSON.parse(
    new TextDecoder().decode(bytes.subarray(20, 20 + length)),
  ) as Gltf;
  const used = meshes.flatMap((m) =>
    (m.primitives ?? []).flatMap((p) => accessors[p.attributes?.POSITION ?? -1] ?? []),
  );
  const corner = ([x, y, z]: readonly number[] = []): Vector[] =>
    [x, y, z].every(Number.isFinite) ? [{ x: x ?? 0, y: -(z ?? 0), z: y ?? 0 }] : [];
  return around(used.flatMap((a) => [...corner(a.min), ...corner(a.max)]));
}

const VERTICES = 0x4110;
/** Chunks that hold others: the file, its editor, an object, its mesh. */
const HOLDERS = new Set([0x4d4d, 0x3d3d, 0x4100]);
const OBJECT = 0x4000;
const MOST_VERTICES = 200_000;

function dsBounds(view: DataView): Bounds | undefined {
  const found: Bounds[] = [];
  const walk = (from: number, to: number): void => {
    for (let at = from; at + 6 <= to;) {
      const [id, length] = [view.getUint16(at, true), view.getUint32(at + 2, true)];
      if (length < 6 || at + length > to) return;
      let inside = at + 6;
      if (id === OBJECT) while (inside < at + length && view.getUint8(inside++) !== 0);
      if (HOLDERS.has(id) || id === OBJECT) walk(inside, at + length);
      if (id === VERTICES) found.push(...verticesAt(view, at + 6, at + length));
      at += length;
    }
  };
  walk(0, view.byteLength);
  return joined(found);
}

/** Millimetres there. */
function verticesAt(view: DataView, at: number, end: number): Bounds[] {
  const count = Math.min(view.getUint16(at, true), MOST_VERTICES, Math.floor((end - at - 2) / 12));
  const low = { x: Infinity, y: Infinity, z: Infinity };
  const high = { x: -Infinity, y: -Infinity, z: -Infinity };
  for (let i = 0; i < count; i++)
    (['x', 'y', 'z'] as const).forEach((axis, k) => {
      const v = view.getFloat32(at + 2 + i * 12 + k * 4, true) / 1000;
      low[axis] = Math.min(low[axis], v);
      high[axis] = Math.max(high[axis], v);
    });
  return count > 0 && Number.isFinite(low.x + high.x + low.y + high.y + low.z + high.z)
    ? [{ low, high }]
    : [];
}

/** @returns undefined for what is no mesh, or a broken one */
export function meshBounds(bytes: Uint8Array): Bounds | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    return view.getUint32(0, true) === GLB ? glbBounds(view, bytes) : dsBounds(view);
  } catch {
    return undefined;
  }
}
