/** Binary glTF 2.0 (ISO/IEC 12113): its triangles, and written with them. There y is up and metres are metres. */
import { z } from 'zod';
import { boxOf, joinedTriangles, movedTriangles, type Triangles } from './triangles.ts';

const GLB = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;
const FLOAT = 5126;
/** Bytes of the numbers that corners are counted with. */
const INDEX_BYTES: Record<number, 1 | 2 | 4> = { 5121: 1, 5123: 2, 5125: 4 };
const TRIANGLES = 4;
const MOST_DEEP = 32;
/** Parts that are placed, and corners and triangles that are read, of one file; of one accessor. */
const MOST_PARTS = 20_000;
const MOST_READ = 4_000_000;
const MOST_CORNERS = 3_000_000;

const Whole = z.number().int().min(0);
const Numbers = z.array(z.number());
const Gltf = z.object({
  scene: Whole.optional(),
  scenes: z.array(z.object({ nodes: z.array(Whole).optional() })).optional(),
  nodes: z
    .array(
      z.object({
        mesh: Whole.optional(),
        children: z.array(Whole).optional(),
        matrix: Numbers.length(16).optional(),
        translation: Numbers.length(3).optional(),
        rotation: Numbers.length(4).optional(),
        scale: Numbers.length(3).optional(),
      }),
    )
    .optional(),
  meshes: z
    .array(
      z.object({
        primitives: z.array(
          z.object({
            attributes: z.object({ POSITION: Whole.optional() }),
            indices: Whole.optional(),
            mode: Whole.optional(),
          }),
        ),
      }),
    )
    .optional(),
  accessors: z
    .array(
      z.object({
        bufferView: Whole.optional(),
        byteOffset: Whole.optional(),
        componentType: z.number(),
        count: Whole,
        type: z.string(),
        min: Numbers.optional(),
        max: Numbers.optional(),
      }),
    )
    .optional(),
  bufferViews: z
    .array(
      z.object({
        buffer: Whole,
        byteOffset: Whole.optional(),
        byteLength: Whole,
        byteStride: Whole.optional(),
      }),
    )
    .optional(),
});
type Gltf = z.infer<typeof Gltf>;
type Node = NonNullable<Gltf['nodes']>[number];

/** Column by column, as glTF has it. */
type Matrix = readonly number[];
const UNMOVED: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
const product = (a: Matrix, b: Matrix): Matrix =>
  Array.from({ length: 16 }, (_, i) =>
    [0, 1, 2, 3].reduce((sum, k) => sum + (a[k * 4 + (i % 4)] ?? 0) * (b[i - (i % 4) + k] ?? 0), 0),
  );

/** Its matrix, or what it is moved, turned and scaled by. */
function matrixOf(node: Node): Matrix {
  if (node.matrix) return node.matrix;
  const [x = 0, y = 0, z = 0, w = 1] = node.rotation ?? [];
  const [sx = 1, sy = 1, sz = 1] = node.scale ?? [];
  const [tx = 0, ty = 0, tz = 0] = node.translation ?? [];
  return [
    ...[1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)].map((v) => v * sx),
    0,
    ...[2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)].map((v) => v * sy),
    0,
    ...[2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)].map((v) => v * sz),
    0,
    tx,
    ty,
    tz,
    1,
  ];
}

interface File {
  gltf: Gltf;
  /** What its buffer views are parts of. */
  bin: DataView | undefined;
}

function fileOf(bytes: Uint8Array): File | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 20 || view.getUint32(0, true) !== GLB) return undefined;
  const length = view.getUint32(12, true);
  if (view.getUint32(16, true) !== JSON_CHUNK || 20 + length > bytes.length) return undefined;
  const read = Gltf.safeParse(
    JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))),
  );
  if (!read.success) return undefined;
  const next = 20 + length;
  const hasBin = next + 8 <= bytes.length && view.getUint32(next + 4, true) === BIN_CHUNK;
  const size = hasBin ? Math.min(view.getUint32(next, true), bytes.length - next - 8) : 0;
  const bin = hasBin ? new DataView(bytes.buffer, bytes.byteOffset + next + 8, size) : undefined;
  return { gltf: read.data, bin };
}

/** Where the numbers of an accessor begin and how far apart they are; undefined where they are not all in the file. */
function spanOf(
  { gltf, bin }: File,
  accessor: NonNullable<Gltf['accessors']>[number],
  bytes: number,
): { view: DataView; at: number; step: number } | undefined {
  const part = gltf.bufferViews?.[accessor.bufferView ?? -1];
  if (!part || part.buffer !== 0 || !bin) return undefined;
  const step = part.byteStride ?? bytes;
  const at = (part.byteOffset ?? 0) + (accessor.byteOffset ?? 0);
  const end = at + (accessor.count - 1) * step + bytes;
  return step >= bytes && accessor.count > 0 && end <= bin.byteLength
    ? { view: bin, at, step }
    : undefined;
}

function cornersOf(file: File, index: number | undefined): Float32Array | undefined {
  const accessor = file.gltf.accessors?.[index ?? -1];
  if (accessor?.componentType !== FLOAT || accessor.type !== 'VEC3') return undefined;
  const span = accessor.count > MOST_CORNERS ? undefined : spanOf(file, accessor, 12);
  if (!span) return undefined;
  const points = new Float32Array(accessor.count * 3);
  for (let i = 0; i < points.length; i++)
    points[i] = span.view.getFloat32(span.at + Math.floor(i / 3) * span.step + (i % 3) * 4, true);
  return points.every(Number.isFinite) ? points : undefined;
}

/** Without an index of its own, corners are counted as they come. */
function facesOf(file: File, index: number | undefined, corners: number): Uint32Array | undefined {
  if (index === undefined)
    return Uint32Array.from({ length: corners - (corners % 3) }, (_, i) => i);
  const accessor = file.gltf.accessors?.[index];
  const bytes = accessor && INDEX_BYTES[accessor.componentType];
  if (!accessor || !bytes || accessor.count > MOST_CORNERS * 3) return undefined;
  const span = spanOf(file, accessor, bytes);
  if (!span) return undefined;
  const read = { 1: 'getUint8', 2: 'getUint16', 4: 'getUint32' } as const;
  const faces = Uint32Array.from({ length: accessor.count - (accessor.count % 3) }, (_, i) =>
    span.view[read[bytes]](span.at + i * span.step, true),
  );
  return faces.every((corner) => corner < corners) ? faces : undefined;
}

/** Every placed part, from the nodes of its scene down. */
function partsOf(file: File): Triangles[] {
  const { gltf } = file;
  const parts: Triangles[] = [];
  let [placed, done] = [0, 0];
  const put = (mesh: number, at: Matrix): void => {
    for (const p of gltf.meshes?.[mesh]?.primitives ?? []) {
      if (done > MOST_READ) return;
      if ((p.mode ?? TRIANGLES) !== TRIANGLES) continue;
      const points = cornersOf(file, p.attributes.POSITION);
      const faces = points && facesOf(file, p.indices, points.length / 3);
      if (!points || !faces) continue;
      // The same accessor may be named thousands of times.
      done += (points.length + faces.length) / 3;
      const m = (i: number): number => at[i] ?? 0;
      parts.push(
        movedTriangles({ points, faces }, (x, y, z) => [
          m(0) * x + m(4) * y + m(8) * z + m(12),
          -(m(2) * x + m(6) * y + m(10) * z + m(14)),
          m(1) * x + m(5) * y + m(9) * z + m(13),
        ]),
      );
    }
  };
  const walk = (index: number, outer: Matrix, deep: number): void => {
    const node = gltf.nodes?.[index];
    if (++placed > MOST_PARTS || !node || deep > MOST_DEEP) return;
    const at = product(outer, matrixOf(node));
    if (node.mesh !== undefined) put(node.mesh, at);
    for (const child of node.children ?? []) {
      if (placed > MOST_PARTS || done > MOST_READ) return;
      walk(child, at, deep + 1);
    }
  };
  const tops = gltf.scenes?.[gltf.scene ?? 0]?.nodes ?? gltf.nodes?.map((_, i) => i);
  if (tops && gltf.nodes) for (const top of tops) walk(top, UNMOVED, 0);
  else gltf.meshes?.forEach((_, i) => put(i, UNMOVED));
  return parts;
}

/**
 * Its triangles, z up. What is packed in a way of its own (an extension) has none here, and lies as its accessors say.
 * @returns undefined for what is no such file, or nothing that can be seen
 */
export function readGlb(bytes: Uint8Array): Triangles | undefined {
  const file = fileOf(bytes);
  const all = file && joinedTriangles(partsOf(file));
  return all && all.faces.length > 0 ? all : undefined;
}

/** The corners of its box by what its accessors say, for a file whose triangles cannot be read. */
export function saidCorners(bytes: Uint8Array): Float32Array {
  const { accessors = [], meshes = [] } = fileOf(bytes)?.gltf ?? {};
  const used = meshes.flatMap((m) =>
    m.primitives.flatMap((p) => accessors[p.attributes.POSITION ?? -1] ?? []),
  );
  const corner = (v: readonly number[] = []): number[] =>
    v.length === 3 ? [v[0] ?? 0, -(v[2] ?? 0), v[1] ?? 0] : [];
  return Float32Array.from(used.flatMap((a) => [...corner(a.min), ...corner(a.max)]));
}

const padded = (bytes: Uint8Array, by: number): Uint8Array => {
  const out = new Uint8Array(Math.ceil(bytes.length / 4) * 4).fill(by);
  out.set(bytes);
  return out;
};

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** One mesh as a file. */
export function writeGlb(triangles: Triangles): Uint8Array {
  const { points, faces } = movedTriangles(triangles, (x, y, z) => [x, z, -y]);
  const positions = new Uint8Array(points.buffer);
  const indices = new Uint8Array(Uint32Array.from(faces).buffer);
  const box = boxOf({ points });
  const json = {
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
    buffers: [{ byteLength: positions.length + indices.length }],
    bufferViews: [
      { buffer: 0, byteOffset: 0, byteLength: positions.length, target: 34_962 },
      { buffer: 0, byteOffset: positions.length, byteLength: indices.length, target: 34_963 },
    ],
    accessors: [
      {
        bufferView: 0,
        componentType: FLOAT,
        count: points.length / 3,
        type: 'VEC3',
        min: box?.low ?? [0, 0, 0],
        max: box?.high ?? [0, 0, 0],
      },
      { bufferView: 1, componentType: 5125, count: faces.length, type: 'SCALAR' },
    ],
  };
  const text = padded(new TextEncoder().encode(JSON.stringify(json)), 0x20);
  const data = padded(joined([positions, indices]), 0);
  const head = new Uint32Array([GLB, 2, 12 + 8 + text.length + 8 + data.length]);
  const chunk = (length: number, kind: number): Uint8Array =>
    new Uint8Array(new Uint32Array([length, kind]).buffer);
  return joined([
    new Uint8Array(head.buffer),
    chunk(text.length, JSON_CHUNK),
    text,
    chunk(data.length, BIN_CHUNK),
    data,
  ]);
}
