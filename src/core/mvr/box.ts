/** A box as a mesh (binary glTF 2.0): how a set piece without a mesh of its own is written into a plan. */

const CORNERS = [0, 1].flatMap((x) => [0, 1].flatMap((y) => [0, 1].map((z) => [x, y, z] as const)));
/** Two triangles for each side, by corners counted as x·4 + y·2 + z. */
const SIDES = [
  0, 1, 3, 0, 3, 2, 4, 6, 7, 4, 7, 5, 0, 4, 5, 0, 5, 1, 2, 3, 7, 2, 7, 6, 0, 2, 6, 0, 6, 4, 1, 5, 7,
  1, 7, 3,
];
const FLOAT = 5126;
const SHORT = 5123;

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

/** @param size in metres: about its middle in x and y, from its floor up in z */
export function boxGlb({ x, y, z }: { x: number; y: number; z: number }): Uint8Array {
  // In glTF y is up, and what is behind is at negative z.
  const points = CORNERS.map(([a, b, c]) => [(a - 0.5) * x, c * z, -(b - 0.5) * y]);
  const positions = new Uint8Array(Float32Array.from(points.flat()).buffer);
  const indices = new Uint8Array(Uint16Array.from(SIDES).buffer);
  const of = (pick: (...n: number[]) => number): number[] =>
    [0, 1, 2].map((i) => Math.fround(pick(...points.map((p) => p[i] ?? 0))));
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
        count: CORNERS.length,
        type: 'VEC3',
        min: of(Math.min),
        max: of(Math.max),
      },
      { bufferView: 1, componentType: SHORT, count: SIDES.length, type: 'SCALAR' },
    ],
  };
  const text = padded(new TextEncoder().encode(JSON.stringify(json)), 0x20);
  const data = padded(joined([positions, indices]), 0);
  const head = new Uint32Array([0x46546c67, 2, 12 + 8 + text.length + 8 + data.length]);
  const chunk = (length: number, kind: number): Uint8Array =>
    new Uint8Array(new Uint32Array([length, kind]).buffer);
  return joined([
    new Uint8Array(head.buffer),
    chunk(text.length, 0x4e4f534a),
    text,
    chunk(data.length, 0x004e4942),
    data,
  ]);
}
