/**
 * The stage in space, in three.js. Stage metres (x right, y upstage, z up) become (x, z, -y). Everything that changes
 * with levels is in three instanced meshes whose buffers are written anew; nothing is made while it plays.
 */
import * as THREE from 'three';
import type { PieceRow } from '@/core/show/rows';
import { beamAngle, beamDirection, edgeOf, patternsOf, shineOf, type Lamp } from '../../plan/light';
import { ATLAS, beamMaterial, PATTERN_NAMES, patternAtlas, poolMaterial } from './materials';
import { add, distanceTo, reachOn, surfacesOf, type Surface, type Vec } from './surfaces';

const toWorld = (v: Vec): [number, number, number] => [v[0], v[2], -v[1]];
const INK = { ground: 0x0b110f, floor: 0x18221e, set: 0x2a3833, bar: 0x33453e, body: 0x52655c, standby: 0x86c8ff };
/** So far light is drawn that meets nothing. */
const FAR_M = 14;
const BEAM_SIDES = 20;

export interface SpaceScene {
  scene: THREE.Scene;
  /** Writes the light of these levels. */
  light: (levels: Float32Array) => void;
  mark: (selected: ReadonlySet<string>) => void;
  /** Where a fixture is on the screen, and which is near a pixel. */
  positions: () => { id: string; at: THREE.Vector3 }[];
  floor: THREE.Plane;
  dispose: () => void;
}

interface Pools {
  mesh: THREE.Mesh;
  geometry: THREE.InstancedBufferGeometry;
  arrays: Record<'corner' | 'alongU' | 'alongV' | 'source' | 'axis' | 'light' | 'shape', THREE.InstancedBufferAttribute>;
}

function poolsFor(most: number, material: THREE.ShaderMaterial): Pools {
  const geometry = new THREE.InstancedBufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]), 3));
  geometry.setIndex([0, 1, 2, 0, 2, 3]);
  const attribute = (size: number): THREE.InstancedBufferAttribute => new THREE.InstancedBufferAttribute(new Float32Array(most * size), size).setUsage(THREE.DynamicDrawUsage);
  const arrays = { corner: attribute(3), alongU: attribute(3), alongV: attribute(3), source: attribute(3), axis: attribute(3), light: attribute(3), shape: attribute(4) };
  for (const [name, a] of Object.entries(arrays)) geometry.setAttribute(name, a);
  geometry.instanceCount = 0;
  const mesh = new THREE.Mesh(geometry, material);
  mesh.frustumCulled = false;
  mesh.renderOrder = 2;
  return { mesh, geometry, arrays };
}

function addPieces(scene: THREE.Scene, pieces: readonly PieceRow[], surfaces: readonly Surface[]): void {
  const [floor, ...walls] = surfaces;
  const plane = (s: Surface, color: number): void => {
    const corners = [s.corner, add(s.corner, s.u, s.width), add(add(s.corner, s.u, s.width), s.v, s.height), add(s.corner, s.v, s.height)].map(toWorld).flat();
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(corners), 3));
    geometry.setIndex([0, 1, 2, 0, 2, 3]);
    scene.add(new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ color, side: THREE.DoubleSide })));
  };
  if (floor) plane(floor, INK.floor);
  for (const w of walls) plane(w, INK.set);
  for (const piece of pieces) {
    if (piece.kind === 'cyc' || (piece.kind === 'set' && (piece.height ?? 0) > 0)) continue;
    const lift = piece.kind === 'bar' || piece.kind === 'boom' ? piece.z : 0.01;
    // A boom stands: from the floor up at each of its ends.
    const points = piece.kind === 'boom' ? piece.points.flatMap((p) => [new THREE.Vector3(p.x, 0, -p.y), new THREE.Vector3(p.x, 4.5, -p.y)]) : piece.points.map((p) => new THREE.Vector3(p.x, lift, -p.y));
    const geometry = new THREE.BufferGeometry().setFromPoints(points);
    const material = new THREE.LineBasicMaterial({ color: piece.kind === 'edge' ? 0x4d6058 : INK.bar });
    scene.add(piece.kind === 'boom' ? new THREE.LineSegments(geometry, material) : new THREE.Line(geometry, material));
  }
}

export function buildScene(lamps: readonly Lamp[], pieces: readonly PieceRow[], bounds: { left: number; right: number; top: number; bottom: number }): SpaceScene {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color(INK.ground);
  const surfaces = surfacesOf(pieces, bounds);
  addPieces(scene, pieces, surfaces);

  const atlas = patternAtlas();
  const pools = poolsFor(Math.max(1, lamps.length * Math.min(8, surfaces.length)), poolMaterial(atlas));
  scene.add(pools.mesh);

  const cone = new THREE.ConeGeometry(1, 1, BEAM_SIDES, 1, true);
  // Its tip to the origin, along +y.
  cone.rotateX(Math.PI).translate(0, 0.5, 0);
  const beams = new THREE.InstancedMesh(cone, beamMaterial(), Math.max(1, lamps.length));
  const beamLight = new THREE.InstancedBufferAttribute(new Float32Array(Math.max(1, lamps.length) * 3), 3).setUsage(THREE.DynamicDrawUsage);
  cone.setAttribute('light', beamLight);
  beams.frustumCulled = false;
  beams.renderOrder = 3;
  scene.add(beams);

  const bodies = new THREE.InstancedMesh(new THREE.CylinderGeometry(0.09, 0.13, 0.34, 10).translate(0, 0.1, 0), new THREE.MeshBasicMaterial({ color: INK.body }), Math.max(1, lamps.length));
  const lenses = new THREE.InstancedMesh(new THREE.CircleGeometry(0.12, 12).rotateX(-Math.PI / 2).translate(0, 0.28, 0), new THREE.MeshBasicMaterial({ color: 0xffffff, side: THREE.DoubleSide }), Math.max(1, lamps.length));
  bodies.frustumCulled = lenses.frustumCulled = false;
  scene.add(bodies, lenses);
  const rings = new THREE.InstancedMesh(new THREE.RingGeometry(0.24, 0.3, 20), new THREE.MeshBasicMaterial({ color: INK.standby, side: THREE.DoubleSide, depthTest: false }), Math.max(1, lamps.length));
  rings.count = 0;
  rings.frustumCulled = false;
  rings.renderOrder = 5;
  scene.add(rings);

  const [up, along, position, turn, scale, matrix, colour] = [new THREE.Vector3(0, 1, 0), new THREE.Vector3(), new THREE.Vector3(), new THREE.Quaternion(), new THREE.Vector3(), new THREE.Matrix4(), new THREE.Color()];
  const put = (a: THREE.InstancedBufferAttribute, i: number, v: readonly number[]): void => a.array.set(v, i * a.itemSize);

  const light = (levels: Float32Array): void => {
    let beam = 0;
    let pool = 0;
    lamps.forEach((lamp, i) => {
      const faces = shineOf(lamp, levels);
      let [level, r, g, b] = [0, 0, 0, 0];
      for (const f of faces) {
        level += f.level / faces.length;
        r += (f.rgb[0] * f.level) / 255;
        g += (f.rgb[1] * f.level) / 255;
        b += (f.rgb[2] * f.level) / 255;
      }
      const n = Math.max(1, faces.length);
      const rgb = [(r / n) ** 1.6, (g / n) ** 1.6, (b / n) ** 1.6] as const;
      const way = beamDirection(lamp, levels);
      const from: Vec = [lamp.fixture.position.x, lamp.fixture.position.y, lamp.fixture.position.z];
      along.set(...toWorld(way));
      position.set(...toWorld(from));
      turn.setFromUnitVectors(up, along);
      matrix.compose(position, turn, scale.set(1, 1, 1));
      bodies.setMatrixAt(i, matrix);
      lenses.setMatrixAt(i, matrix);
      lenses.setColorAt(i, colour.setRGB(0.12 + rgb[0] * 0.9, 0.14 + rgb[1] * 0.9, 0.13 + rgb[2] * 0.9));
      if (level < 0.004 || lamp.shape === 'hazer') return;
      const half = beamAngle(lamp, levels) / 2;
      const reach = Math.min(FAR_M, ...surfaces.flatMap((s) => distanceTo(s, from, way) ?? []));
      if (lamp.shape !== 'house' && lamp.shape !== 'strip') {
        const wide = Math.tan((half * Math.PI) / 180) * reach;
        matrix.compose(position, turn, scale.set(wide, reach, wide));
        beams.setMatrixAt(beam, matrix);
        // A narrow beam is a bright one.
        const haze = Math.min(1.3, 14 / (half + 7));
        put(beamLight, beam++, rgb.map((v) => v * haze));
      }
      const [picture] = patternsOf(lamp, levels);
      const pattern = picture?.startsWith('pattern:') ? PATTERN_NAMES.indexOf(picture.slice(8)) : -1;
      for (const s of surfaces) {
        if (pool >= pools.arrays.corner.count) break;
        // Light on the far side of a wall is not seen from here.
        const on = reachOn(s, from, way, half);
        if (!on) continue;
        const corner = add(add(s.corner, s.u, on.u[0]), s.v, on.v[0]);
        put(pools.arrays.corner, pool, toWorld(add(corner, s.normal, 0.005)));
        put(pools.arrays.alongU, pool, toWorld(add([0, 0, 0], s.u, on.u[1] - on.u[0])));
        put(pools.arrays.alongV, pool, toWorld(add([0, 0, 0], s.v, on.v[1] - on.v[0])));
        put(pools.arrays.source, pool, toWorld(from));
        put(pools.arrays.axis, pool, toWorld(way));
        put(pools.arrays.light, pool, rgb.map((v) => v * 0.9));
        put(pools.arrays.shape, pool, [Math.tan((Math.min(80, half) * Math.PI) / 180), edgeOf(lamp, levels), pattern < ATLAS.columns * ATLAS.rows ? pattern : -1, 0]);
        pool++;
      }
    });
    beams.count = beam;
    pools.geometry.instanceCount = pool;
    for (const a of [beamLight, ...Object.values(pools.arrays)]) a.needsUpdate = true;
    beams.instanceMatrix.needsUpdate = bodies.instanceMatrix.needsUpdate = lenses.instanceMatrix.needsUpdate = true;
    if (lenses.instanceColor) lenses.instanceColor.needsUpdate = true;
  };

  return {
    scene,
    light,
    mark: (selected) => {
      let n = 0;
      for (const lamp of lamps) {
        if (!selected.has(lamp.fixture.id)) continue;
        matrix.makeTranslation(...toWorld([lamp.fixture.position.x, lamp.fixture.position.y, lamp.fixture.position.z]));
        rings.setMatrixAt(n++, matrix);
      }
      rings.count = n;
      rings.instanceMatrix.needsUpdate = true;
    },
    positions: () => lamps.map((l) => ({ id: l.fixture.id, at: new THREE.Vector3(...toWorld([l.fixture.position.x, l.fixture.position.y, l.fixture.position.z])) })),
    floor: new THREE.Plane(new THREE.Vector3(0, 1, 0), 0),
    dispose: () => {
      atlas.dispose();
      scene.traverse((o) => {
        if (!(o instanceof THREE.Mesh || o instanceof THREE.Line)) return;
        (o.geometry as THREE.BufferGeometry).dispose();
        for (const m of [o.material].flat() as THREE.Material[]) m.dispose();
      });
    },
  };
}
