/** Meshes of makers' files and plans: read as the standards have them, made lighter, kept in rows, and nothing broken believed. */
import fc from 'fast-check';
import { roofGlb } from '../gdtf/golden';
import { writeGlb } from './glb';
import { lighter } from './lighter';
import { readMesh } from './read';
import {
  boxOf,
  boxTriangles,
  joinedTriangles,
  meshOf,
  trianglesOf,
  type Triangles,
} from './triangles';

/** A chunk of a 3DS file, by hand: two bytes of kind, four of length, what it holds. */
function chunk(kind: number, ...inside: Buffer[]): Buffer {
  const head = Buffer.alloc(6);
  const all = Buffer.concat(inside);
  head.writeUInt16LE(kind, 0);
  head.writeUInt32LE(6 + all.length, 2);
  return Buffer.concat([head, all]);
}
const floats = (...v: number[]): Buffer => Buffer.from(Float32Array.from(v).buffer);
const words = (...v: number[]): Buffer => Buffer.from(Uint16Array.from(v).buffer);
const object = (name: string, corners: number[], faces: number[]): Buffer =>
  chunk(
    0x4000,
    Buffer.from(`${name}\0`),
    chunk(
      0x4100,
      chunk(0x4110, words(corners.length / 3), floats(...corners)),
      chunk(0x4120, words(faces.length / 4), words(...faces)),
    ),
  );
/** Two flags, each of one triangle, a metre and two metres wide; millimetres. */
const flags = (): Uint8Array =>
  new Uint8Array(
    chunk(
      0x4d4d,
      chunk(0x0002, words(3, 0)),
      chunk(
        0x3d3d,
        object('one', [0, 0, 0, 1000, 0, 0, 0, 0, 500], [0, 1, 2, 7]),
        object('two', [0, 100, 0, 2000, 100, 0, 0, 100, 500], [0, 1, 2, 7]),
      ),
    ),
  );

/** A ball of many triangles. */
function ball(rings: number): Triangles {
  const points: number[] = [];
  const faces: number[] = [];
  for (let i = 0; i <= rings; i++)
    for (let k = 0; k < rings; k++) {
      const [a, b] = [(i / rings) * Math.PI, (k / rings) * 2 * Math.PI];
      points.push(Math.sin(a) * Math.cos(b), Math.sin(a) * Math.sin(b), Math.cos(a));
      if (i === rings) continue;
      const [p, q] = [i * rings + k, i * rings + ((k + 1) % rings)];
      faces.push(p, q, p + rings, q, q + rings, p + rings);
    }
  return { points: Float32Array.from(points), faces: Uint32Array.from(faces) };
}
const count = (t: Triangles | undefined): number => (t?.faces.length ?? 0) / 3;

describe('reading', () => {
  test('binary glTF: y up becomes z up, a node moves what it holds', () => {
    const mesh = readMesh(roofGlb());
    expect(count(mesh)).toBe(6);
    expect(mesh && boxOf(mesh)).toEqual({ low: [-1, -0.5, 0], high: [1, 0.5, 1] });
    // Its top, in the middle.
    expect([...(mesh?.points.slice(12, 15) ?? [])]).toEqual([0, -0, 1]);
  });

  test('3DS: millimetres, an object after the other, corners counted by each', () => {
    const mesh = readMesh(flags());
    expect(count(mesh)).toBe(2);
    expect([...(mesh?.faces ?? [])]).toEqual([0, 1, 2, 3, 4, 5]);
    const box = mesh && boxOf(mesh);
    expect(box?.low).toEqual([0, 0, 0]);
    expect(box?.high.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([2, 0.1, 0.5]);
  });

  test('what points outside of its file, or at corners that it does not have, is left out', () => {
    const broken = roofGlb();
    // Its last corner is the fortieth of five.
    broken[broken.length - 2] = 40;
    expect(readMesh(broken)?.faces).toHaveLength(0);
    const short = roofGlb().slice(0, -40);
    expect(count(readMesh(short))).toBe(0);
  });

  test('noise is no mesh, and a file that was changed anywhere is read or refused, never thrown', () => {
    fc.assert(fc.property(fc.uint8Array({ maxLength: 300 }), (noise) => void readMesh(noise)));
    fc.assert(
      fc.property(
        fc.constantFrom(
          roofGlb(),
          flags(),
          writeGlb(boxTriangles({ low: [0, 0, 0], high: [1, 1, 1] })),
        ),
        fc.nat(1000),
        fc.nat(255),
        (file, at, byte) => {
          const changed = file.slice();
          changed[at % changed.length] = byte;
          const mesh = readMesh(changed);
          const corners = (mesh?.points.length ?? 0) / 3;
          expect(mesh?.faces.every((c) => c < corners) ?? true).toBe(true);
        },
      ),
      { numRuns: 500 },
    );
  });

  /** A file of what its JSON says, with so many bytes of nothing behind it. */
  const saying = (json: object, bytes: number): Uint8Array => {
    const text = Buffer.from(JSON.stringify(json));
    const padded = Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4, 32)]);
    const head = Buffer.alloc(20);
    head.write('glTF', 0);
    head.writeUInt32LE(padded.length, 12);
    head.write('JSON', 16);
    const bin = Buffer.alloc(8 + bytes);
    bin.writeUInt32LE(bytes, 0);
    bin.write('BIN\0', 4);
    return new Uint8Array(Buffer.concat([head, padded, bin]));
  };

  test('a mesh that names its triangles over and over, and nodes that hold themselves a thousand times, are read in part', () => {
    const indices = 600_000;
    const primitive = { attributes: { POSITION: 0 }, indices: 1 };
    const named = saying(
      {
        meshes: [{ primitives: Array.from({ length: 3000 }, () => primitive) }],
        accessors: [
          { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3' },
          { bufferView: 1, componentType: 5121, count: indices, type: 'SCALAR' },
        ],
        bufferViews: [
          { buffer: 0, byteLength: 36 },
          { buffer: 0, byteOffset: 36, byteLength: indices },
        ],
      },
      36 + indices,
    );
    const read = count(readMesh(named));
    expect(read).toBeGreaterThan(1_000_000);
    expect(read).toBeLessThan(5_000_000);
    const held = { children: Array.from({ length: 50_000 }, () => 0) };
    expect(readMesh(saying({ nodes: [held], meshes: [] }, 4))).toBeUndefined();
  });

  test('nodes that hold each other come to an end', () => {
    const json = '{"nodes":[{"children":[0,0,0],"mesh":0}],"scenes":[{"nodes":[0]}],"meshes":[]}';
    const text = Buffer.from(json.padEnd(Math.ceil(json.length / 4) * 4));
    const head = Buffer.alloc(20);
    head.write('glTF', 0);
    head.writeUInt32LE(text.length, 12);
    head.write('JSON', 16);
    expect(readMesh(new Uint8Array(Buffer.concat([head, text])))).toBeUndefined();
  });
});

describe('lighter', () => {
  test('at most what is asked, about as large, and a light one stays as it is', () => {
    const heavy = ball(120);
    expect(count(heavy)).toBe(28_800);
    for (const most of [1500, 300, 40]) {
      const less = lighter(heavy, most);
      expect(count(less)).toBeLessThanOrEqual(most);
      expect(count(less)).toBeGreaterThan(8);
      const box = boxOf(less);
      for (const v of [...(box?.high ?? []), ...(box?.low ?? []).map((l) => -l)]) {
        expect(v).toBeGreaterThan(0.5);
        expect(v).toBeLessThan(1.01);
      }
    }
    const box = boxTriangles({ low: [0, 0, 0], high: [2, 1, 3] });
    const same = lighter(box, 12);
    expect(count(same)).toBe(12);
    expect(boxOf(same)).toEqual(boxOf(box));
    expect(lighter(same, 12)).toEqual(same);
  });

  test('what falls together below what is asked is its box', () => {
    const crowd = joinedTriangles(
      Array.from({ length: 200 }, (_, i) => ({
        points: Float32Array.from([i, i % 7, 0, i + 1, i % 5, 1, i, (i + 1) % 3, 2]),
        faces: Uint32Array.from([0, 1, 2]),
      })),
    );
    expect(count(lighter(crowd, 12))).toBeLessThanOrEqual(12);
  });
});

describe('in rows and files', () => {
  const Shape = fc
    .array(fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -8000, max: 8000 }))), {
      minLength: 3,
      maxLength: 40,
    })
    .chain((corners) =>
      fc
        .array(fc.tuple(...[0, 1, 2].map(() => fc.nat(corners.length - 1))), {
          minLength: 1,
          maxLength: 60,
        })
        .map((faces) => ({
          points: Float32Array.from(corners.flat().map((v) => v / 1000)),
          faces: Uint32Array.from(faces.flat()),
        })),
    );

  test('a row keeps a mesh to a 65,535th of its box, and once written and read again the same row comes of it', () => {
    fc.assert(
      fc.property(Shape, (shape) => {
        const mesh = meshOf(shape);
        if (!mesh) throw new Error('no mesh');
        const back = trianglesOf(mesh);
        expect(back.faces).toEqual(shape.faces);
        back.points.forEach((v, i) => expect(v).toBeCloseTo(shape.points[i] ?? NaN, 3));
        const read = readMesh(writeGlb(back));
        expect(read && meshOf(read)).toEqual(mesh);
      }),
    );
  });

  test('in another box it is as large as that', () => {
    const mesh = meshOf(boxTriangles({ low: [0, 0, 0], high: [1, 1, 1] }));
    if (!mesh) throw new Error('no mesh');
    const box = { low: [2, 3, 4], high: [6, 4, 4.5] } as const;
    expect(boxOf(trianglesOf(mesh, { low: [...box.low], high: [...box.high] }))).toEqual(box);
  });

  test('a row whose triangles name corners that it does not have shows the others', () => {
    const mesh = meshOf(boxTriangles({ low: [0, 0, 0], high: [1, 1, 1] }));
    if (!mesh) throw new Error('no mesh');
    const short = { ...mesh, points: mesh.points.slice(0, 56) };
    const read = trianglesOf(short);
    expect(read.points).toHaveLength(21);
    expect(count(read)).toBeGreaterThan(0);
    expect(read.faces.every((c) => c < 7)).toBe(true);
  });
});
