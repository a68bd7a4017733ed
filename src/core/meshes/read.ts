/** A mesh of a maker's file or of a plan (`glb`, `3ds`), with what is wrong in it left out. */
import { readGlb, saidCorners } from './glb.ts';
import { read3ds } from './three-ds.ts';
import type { Triangles } from './triangles.ts';

const isGlb = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;

/**
 * In metres, z up; without triangles where only its corners could be read.
 * @returns undefined for what is no mesh, or a broken one
 */
export function readMesh(bytes: Uint8Array): Triangles | undefined {
  try {
    if (!isGlb(bytes)) return read3ds(bytes);
    const read = readGlb(bytes);
    if (read) return read;
    const points = saidCorners(bytes);
    return points.length > 0 ? { points, faces: new Uint32Array() } : undefined;
  } catch {
    return undefined;
  }
}
