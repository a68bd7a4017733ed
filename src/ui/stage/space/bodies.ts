/**
 * Units and set pieces as their makers and plans draw them. A unit's parts are turned as its light is: what stays, what
 * pans, and what tilts as well.
 */
import * as THREE from 'three';
import { partAxes } from '@/core/aim/aim';
import { hangs } from '@/core/aim/beam';
import type { BodyPart, Mesh } from '@/core/meshes/rows';
import { trianglesOf, type Box, type Triangles } from '@/core/meshes/triangles';
import type { PieceRow } from '@/core/plan/rows';
import { turnOf, type Lamp } from '../../plan/light';

/** Stage metres (x right, y upstage, z up) as three.js has them. */
const geometryOf = ({ points, faces }: Triangles): THREE.BufferGeometry => {
  const world = new Float32Array(points.length);
  for (let i = 0; i + 2 < points.length; i += 3)
    world.set([points[i] as number, points[i + 2] as number, -(points[i + 1] as number)], i);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(world, 3));
  geometry.setIndex(new THREE.BufferAttribute(faces, 1));
  return geometry;
};
/** Edges show without normals of a file, which may be wrong; what is wound the other way is seen as well. */
const solid = (color: number): THREE.Material =>
  new THREE.MeshLambertMaterial({ color, flatShading: true, side: THREE.DoubleSide });

/** Which axis of the world is meant by x, up and towards the audience of a part. */
const WORLD_AXIS = [0, 2, 1] as const;

/** So that shapes are seen in the dark: from above, a little from the audience. */
export function roomLights(): THREE.Light[] {
  const side = new THREE.DirectionalLight(0xffffff, 2);
  side.position.set(-0.4, 0.6, 1);
  return [new THREE.HemisphereLight(0xe6f2ec, 0x6a7a73, 2.6), side];
}

/** A piece in the box of its outline, however that was moved or stretched since it came. */
export function meshPiece(piece: PieceRow, mesh: Mesh, color: number): THREE.Mesh {
  const [xs, ys] = [piece.points.map((p) => p.x), piece.points.map((p) => p.y)];
  const box: Box = {
    low: [Math.min(...xs), Math.min(...ys), piece.z],
    high: [Math.max(...xs), Math.max(...ys), piece.z + (piece.height ?? 0)],
  };
  return new THREE.Mesh(geometryOf(trianglesOf(mesh, box)), solid(color));
}

/** Copies of one part: as many as there are units of the type. */
interface Copies {
  moves: BodyPart['moves'];
  mesh: THREE.InstancedMesh;
}
interface Kind {
  copies: Copies[];
  reach_m: number;
  /** From where its axes meet to where its light comes out, in metres. */
  lens_m: number;
}

/** The lowest of what goes along with the light. */
function lensOf(body: readonly BodyPart[], reach_m: number): number {
  const last =
    body.find((p) => p.moves === 'tilt') ?? body.find((p) => p.moves === 'pan') ?? body[0];
  return Math.max(0, -(last?.mesh.low[2] ?? 0) - reach_m);
}

/** Bodies of units, which turn as their levels say. */
export interface Bodies {
  meshes: THREE.Object3D[];
  /** Turns a lamp's parts as its levels say. @returns metres from where its axes meet to its lens; undefined for what has no shape of its own */
  turn: (lamp: number, levels: Float32Array) => number | undefined;
}

/** Builds them. */
export function bodiesOf(lamps: readonly Lamp[], color: number): Bodies {
  const kinds = new Map<string, Kind>();
  const numbers = new Map<string, number>();
  /** By lamp: which copy of its kind it is. */
  const nth = lamps.map(({ type }) => {
    const n = numbers.get(type.id) ?? 0;
    numbers.set(type.id, n + 1);
    return n;
  });
  for (const { type } of lamps) {
    if (!type.body || kinds.has(type.id)) continue;
    const reach_m = type.reach_m ?? 0;
    const copies = type.body.map(({ moves, mesh }): Copies => {
      const all = new THREE.InstancedMesh(
        geometryOf(trianglesOf(mesh)),
        solid(color),
        numbers.get(type.id) ?? 0,
      );
      all.frustumCulled = false;
      return { moves, mesh: all };
    });
    kinds.set(type.id, { copies, reach_m, lens_m: lensOf(type.body, reach_m) });
  }
  const [matrix, offset] = [new THREE.Matrix4(), new THREE.Matrix4()];
  const [hung, down] = [new THREE.Vector3(), new THREE.Vector3()];
  const axis = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()] as const;
  const turn = (i: number, levels: Float32Array): number | undefined => {
    const lamp = lamps[i];
    const kind = lamp && kinds.get(lamp.type.id);
    if (!kind) return undefined;
    const turns = lamp.pan !== undefined;
    const head = hangs(lamp.fixture, lamp.shape, turns);
    const [pan, tilt] = turns ? turnOf(lamp, levels) : [0, 0];
    for (const { moves, mesh } of kind.copies) {
      const axes = partAxes(head, moves === 'still' ? 0 : pan, moves === 'tilt' ? tilt : 0);
      // x, up and towards the audience of the part, in the world.
      axes.forEach(([x, y, z], k) => axis[WORLD_AXIS[k] ?? 0]?.set(x, z, -y));
      axis[2].negate();
      matrix.makeBasis(...axis);
      hung.set(head.x, head.z, -head.y);
      if (moves === 'tilt') {
        // Turned about where the axes meet, which stays where it is.
        const [x, y, z] = partAxes(head, 0, 0)[2];
        hung.addScaledVector(down.set(x, z, -y), -kind.reach_m);
        matrix.setPosition(hung);
        matrix.multiply(offset.makeTranslation(0, kind.reach_m, 0));
      } else matrix.setPosition(hung);
      mesh.setMatrixAt(nth[i] ?? 0, matrix);
      mesh.instanceMatrix.needsUpdate = true;
    }
    return kind.lens_m;
  };
  return { meshes: [...kinds.values()].flatMap((k) => k.copies.map((c) => c.mesh)), turn };
}
