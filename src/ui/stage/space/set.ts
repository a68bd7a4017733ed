/** What stands on the stage in space: floor, cyc and walls, bars, booms, edges, set pieces. */
import * as THREE from 'three';
import type { PieceRow } from '@/core/plan/rows';
import { meshPiece } from './bodies';
import { add, toWorld, type Surface } from './surfaces';

const FLOOR = 0x18221e;
const SET = 0x2a3833;
const BAR = 0x33453e;
const EDGE = 0x4d6058;
/** A boom stands: from the floor up to here. */
const BOOM_M = 4.5;
/** Lines on the floor lie so far above it that they are seen. */
const LIFT_M = 0.01;

function plane(s: Surface, color: number): THREE.Mesh {
  const across = add(s.corner, s.u, s.width);
  const corners = [s.corner, across, add(across, s.v, s.height), add(s.corner, s.v, s.height)];
  const geometry = new THREE.BufferGeometry();
  const position = new Float32Array(corners.map(toWorld).flat());
  geometry.setAttribute('position', new THREE.BufferAttribute(position, 3));
  geometry.setIndex([0, 1, 2, 0, 2, 3]);
  return new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ color, side: THREE.DoubleSide }));
}

function lineOf({ kind, points, z }: PieceRow): THREE.Line {
  const color = kind === 'edge' ? EDGE : BAR;
  const material = new THREE.LineBasicMaterial({ color });
  const geometry = new THREE.BufferGeometry();
  const at = (p: { x: number; y: number }, up: number): THREE.Vector3 =>
    new THREE.Vector3(...toWorld([p.x, p.y, up]));
  if (kind === 'boom') {
    geometry.setFromPoints(points.flatMap((p) => [at(p, 0), at(p, BOOM_M)]));
    return new THREE.LineSegments(geometry, material);
  }
  geometry.setFromPoints(points.map((p) => at(p, kind === 'bar' ? z : LIFT_M)));
  return new THREE.Line(geometry, material);
}

/** Whether a piece is one of the surfaces that light lands on. */
const isSurface = ({ kind, height = 0 }: PieceRow): boolean =>
  kind === 'cyc' || (kind === 'set' && height > 0);

/** @param surfaces that light lands on: the floor first */
export function setOf(
  pieces: readonly PieceRow[],
  [floor, ...walls]: readonly Surface[],
): THREE.Object3D[] {
  return [
    ...(floor ? [plane(floor, FLOOR)] : []),
    ...walls.map((w) => plane(w, SET)),
    ...pieces.flatMap((p) => (p.kind === 'set' && p.mesh ? [meshPiece(p, p.mesh, SET)] : [])),
    ...pieces.filter((p) => !isSurface(p)).map(lineOf),
  ];
}
