/**
 * Many copies of one shape in one mesh of plain vertices. Instances would be the usual way; without a graphics processor
 * each of them costs as much as a draw of its own, plain vertices do not.
 */
import * as THREE from 'three';

/** Many copies of one body, drawn at once. */
export interface Batch {
  mesh: THREE.Mesh;
  /** Puts copy `i` where the matrix says. */
  place: (i: number, matrix: THREE.Matrix4) => void;
  /** Gives all vertices of copy `i` the same value of an attribute. */
  set: (name: string, i: number, value: readonly number[]) => void;
  /** Draws the first so many. */
  show: (count: number) => void;
}

/** @param extra attributes by name, with so many numbers a vertex */
export function batchOf(
  shape: THREE.BufferGeometry,
  most: number,
  material: THREE.Material,
  extra: Record<string, number> = {},
): Batch {
  const corners = shape.getAttribute('position');
  const facing = shape.getAttribute('normal');
  const inner = shape.getIndex();
  const n = corners.count;
  const geometry = new THREE.BufferGeometry();
  const dynamic = (size: number): THREE.BufferAttribute =>
    new THREE.BufferAttribute(new Float32Array(most * n * size), size).setUsage(
      THREE.DynamicDrawUsage,
    );
  const position = dynamic(3);
  const normal = dynamic(3);
  geometry.setAttribute('position', position);
  geometry.setAttribute('normal', normal);
  const more = new Map(Object.entries(extra).map(([name, size]) => [name, dynamic(size)]));
  for (const [name, attribute] of more) geometry.setAttribute(name, attribute);
  const order = inner ? [...inner.array] : Array.from({ length: n }, (_, i) => i);
  const index = new Uint32Array(most * order.length);
  for (let i = 0; i < most; i++) order.forEach((v, k) => (index[i * order.length + k] = v + i * n));
  geometry.setIndex(new THREE.BufferAttribute(index, 1));
  geometry.setDrawRange(0, 0);
  const mesh = new THREE.Mesh(geometry, material);
  mesh.frustumCulled = false;
  const [v, turn] = [new THREE.Vector3(), new THREE.Matrix3()];
  return {
    mesh,
    place: (i, matrix) => {
      turn.getNormalMatrix(matrix);
      for (let k = 0; k < n; k++) {
        v.fromBufferAttribute(corners, k)
          .applyMatrix4(matrix)
          .toArray(position.array, (i * n + k) * 3);
        if (facing)
          v.fromBufferAttribute(facing, k)
            .applyMatrix3(turn)
            .normalize()
            .toArray(normal.array, (i * n + k) * 3);
      }
      position.needsUpdate = normal.needsUpdate = true;
    },
    set: (name, i, value) => {
      const attribute = more.get(name);
      if (!attribute) return;
      for (let k = 0; k < n; k++) attribute.array.set(value, (i * n + k) * attribute.itemSize);
      attribute.needsUpdate = true;
    },
    show: (count) => geometry.setDrawRange(0, count * order.length),
  };
}
