/** 3DS: chunks in chunks; of each object its corners and triangles, in millimetres, z up. */
import { joinedTriangles, type Triangles } from './triangles.ts';

const CORNERS = 0x4110;
const FACES = 0x4120;
const OBJECT = 0x4000;
/** Chunks that hold others: the file, its editor, the mesh of an object. */
const HOLDERS = new Set([0x4d4d, 0x3d3d, 0x4100]);
const HEAD = 6;
const MM = 1000;

function cornersAt(view: DataView, at: number, end: number): Float32Array {
  const count = Math.min(view.getUint16(at, true), Math.floor((end - at - 2) / 12));
  return Float32Array.from(
    { length: count * 3 },
    (_, i) => view.getFloat32(at + 2 + i * 4, true) / MM,
  );
}
/** Each with a word of marks behind its three corners. */
function facesAt(view: DataView, at: number, end: number): Uint32Array {
  const count = Math.min(view.getUint16(at, true), Math.floor((end - at - 2) / 8));
  return Uint32Array.from({ length: count * 3 }, (_, i) =>
    view.getUint16(at + 2 + Math.floor(i / 3) * 8 + (i % 3) * 2, true),
  );
}

/** @returns undefined for what is no such file, or has no corners */
export function read3ds(bytes: Uint8Array): Triangles | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const parts: Triangles[] = [];
  let corners: Float32Array | undefined;
  const walk = (from: number, to: number): void => {
    for (let at = from; at + HEAD <= to;) {
      const [id, length] = [view.getUint16(at, true), view.getUint32(at + 2, true)];
      const end = at + length;
      if (length < HEAD || end > to) return;
      let inside = at + HEAD;
      if (id === OBJECT) {
        corners = undefined;
        // Its name, up to a zero.
        while (inside < end && view.getUint8(inside++) !== 0);
      }
      if (HOLDERS.has(id) || id === OBJECT) walk(inside, end);
      if (id === CORNERS && inside + 2 <= end) {
        corners = cornersAt(view, inside, end);
        if (corners.every(Number.isFinite))
          parts.push({ points: corners, faces: new Uint32Array() });
        else corners = undefined;
      }
      const [last] = parts.slice(-1);
      if (id === FACES && corners && last && inside + 2 <= end) {
        const count = corners.length / 3;
        const faces = facesAt(view, inside, end);
        if (faces.every((corner) => corner < count)) last.faces = faces;
      }
      at = end;
    }
  };
  walk(0, view.byteLength);
  const all = joinedTriangles(parts);
  return all.points.length > 0 ? all : undefined;
}
