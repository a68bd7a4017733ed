/**
 * The stage in space, in three.js. Stage metres (x right, y upstage, z up) become (x, z, -y). Everything that changes
 * with levels is in a few meshes whose vertices are written anew; nothing is made while it plays.
 */
import * as THREE from 'three';
import type { PieceRow } from '@/core/plan/rows';
import {
  beamAngle,
  beamDirection,
  beamOrigin,
  edgeOf,
  patternsOf,
  shineOf,
  type Lamp,
} from '../../plan/light';
import { batchOf } from './batch';
import { bodiesOf, roomLights, meshPiece } from './bodies';
import { ATLAS, beamMaterial, PATTERN_NAMES, patternAtlas, poolMaterial } from './materials';
import {
  add,
  distanceTo,
  isBefore,
  meets,
  reachOn,
  surfacesOf,
  type Surface,
  type Vec,
} from './surfaces';

const toWorld = (v: Vec): [number, number, number] => [v[0], v[2], -v[1]];
const INK = {
  ground: 0x0b110f,
  floor: 0x18221e,
  set: 0x2a3833,
  bar: 0x33453e,
  body: 0x52655c,
  standby: 0x86c8ff,
};
/** So far light is drawn that meets nothing. */
const FAR_M = 14;
const BEAM_SIDES = 16;
/** From where a plain unit turns to its lens. */
const LENS_M = 0.28;
/** Less light than this on a surface is not seen. */
const SEEN = 0.012;

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

/** A beam's rectangle on one surface, in world metres. */
interface Land {
  far: number;
  corner: [number, number, number];
  u: [number, number, number];
  v: [number, number, number];
}
interface Seen {
  way: Vec;
  half: number;
  /** Until it meets something. */
  reach: number;
  lands: Land[];
}

function addPieces(
  scene: THREE.Scene,
  pieces: readonly PieceRow[],
  surfaces: readonly Surface[],
): void {
  const [floor, ...walls] = surfaces;
  const plane = (s: Surface, color: number): void => {
    const corners = [
      s.corner,
      add(s.corner, s.u, s.width),
      add(add(s.corner, s.u, s.width), s.v, s.height),
      add(s.corner, s.v, s.height),
    ]
      .map(toWorld)
      .flat();
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(corners), 3));
    geometry.setIndex([0, 1, 2, 0, 2, 3]);
    scene.add(
      new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ color, side: THREE.DoubleSide })),
    );
  };
  if (floor) plane(floor, INK.floor);
  for (const w of walls) plane(w, INK.set);
  for (const piece of pieces) {
    if (piece.kind === 'set' && piece.mesh) scene.add(meshPiece(piece, piece.mesh, INK.set));
    if (piece.kind === 'cyc' || (piece.kind === 'set' && (piece.height ?? 0) > 0)) continue;
    const lift = piece.kind === 'bar' || piece.kind === 'boom' ? piece.z : 0.01;
    // A boom stands: from the floor up at each of its ends.
    const points =
      piece.kind === 'boom'
        ? piece.points.flatMap((p) => [
            new THREE.Vector3(p.x, 0, -p.y),
            new THREE.Vector3(p.x, 4.5, -p.y),
          ])
        : piece.points.map((p) => new THREE.Vector3(p.x, lift, -p.y));
    const geometry = new THREE.BufferGeometry().setFromPoints(points);
    const material = new THREE.LineBasicMaterial({
      color: piece.kind === 'edge' ? 0x4d6058 : INK.bar,
    });
    scene.add(
      piece.kind === 'boom'
        ? new THREE.LineSegments(geometry, material)
        : new THREE.Line(geometry, material),
    );
  }
}

export function buildScene(
  lamps: readonly Lamp[],
  pieces: readonly PieceRow[],
  bounds: { left: number; right: number; top: number; bottom: number },
): SpaceScene {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color(INK.ground);
  const surfaces = surfacesOf(pieces, bounds);
  addPieces(scene, pieces, surfaces);

  const atlas = patternAtlas();
  const most = Math.max(1, lamps.length);
  const square = new THREE.BufferGeometry();
  square.setAttribute(
    'position',
    new THREE.BufferAttribute(new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]), 3),
  );
  square.setIndex([0, 1, 2, 0, 2, 3]);
  const mostPools = most * Math.min(8, surfaces.length);
  const pools = batchOf(square, mostPools, poolMaterial(atlas), {
    source: 3,
    axis: 3,
    light: 3,
    shape: 4,
  });
  pools.mesh.renderOrder = 2;
  const cone = new THREE.ConeGeometry(1, 1, BEAM_SIDES, 1, true);
  // Its tip to the origin, along +y.
  cone.rotateX(Math.PI).translate(0, 0.5, 0);
  const beams = batchOf(cone, most, beamMaterial(), { light: 3, along: 1 });
  beams.mesh.renderOrder = 3;
  const bodies = batchOf(
    new THREE.CylinderGeometry(0.09, 0.13, 0.34, 8).translate(0, 0.1, 0),
    most,
    new THREE.MeshBasicMaterial({ color: INK.body }),
  );
  const lenses = batchOf(
    new THREE.CircleGeometry(0.12, 10).rotateX(-Math.PI / 2).translate(0, LENS_M, 0),
    most,
    new THREE.MeshBasicMaterial({ vertexColors: true, side: THREE.DoubleSide }),
    { color: 3 },
  );
  const rings = batchOf(
    new THREE.RingGeometry(0.24, 0.3, 20),
    most,
    new THREE.MeshBasicMaterial({ color: INK.standby, side: THREE.DoubleSide, depthTest: false }),
  );
  rings.mesh.renderOrder = 5;
  const shaped = bodiesOf(lamps, INK.body);
  scene.add(...shaped.meshes, ...roomLights());
  bodies.show(lamps.length);
  lenses.show(lamps.length);
  scene.add(pools.mesh, beams.mesh, bodies.mesh, lenses.mesh, rings.mesh);
  // How far along the beam each vertex of a cone is, the same for every copy.
  const alongs = beams.mesh.geometry.getAttribute('along');
  const tips = cone.getAttribute('position');
  for (let i = 0; i < alongs.count; i++) alongs.setX(i, tips.getY(i % tips.count));

  const origins = lamps.map((lamp): Vec => {
    const { x, y, z } = beamOrigin(lamp);
    return [x, y, z];
  });
  const [up, along, position, place, turn, scale, matrix, corner] = [
    new THREE.Vector3(0, 1, 0),
    new THREE.Vector3(),
    new THREE.Vector3(),
    new THREE.Vector3(),
    new THREE.Quaternion(),
    new THREE.Vector3(),
    new THREE.Matrix4(),
    new THREE.Matrix4(),
  ];

  // Where a beam lands depends on where it looks and how wide it is, not on how bright it is: kept until one of those changes.
  const lands = new Map<number, Seen>();
  const turned = new Map<number, string>();
  const landsOf = (i: number, from: Vec, way: Vec, half: number): Seen => {
    const known = lands.get(i);
    if (
      known?.half === half &&
      known.way[0] === way[0] &&
      known.way[1] === way[1] &&
      known.way[2] === way[2]
    )
      return known;
    let reach = FAR_M;
    const found: Land[] = [];
    for (const s of surfaces) {
      const far = distanceTo(s, from, way);
      const at = far === undefined ? undefined : meets(s, from, way);
      if (
        far !== undefined &&
        at &&
        at[0] >= 0 &&
        at[1] >= 0 &&
        at[0] <= s.width &&
        at[1] <= s.height
      )
        reach = Math.min(reach, far);
      const on = isBefore(s, from) ? reachOn(s, from, way, half) : undefined;
      if (!on) continue;
      const corner = add(add(add(s.corner, s.u, on.u[0]), s.v, on.v[0]), s.normal, 0.005);
      found.push({
        far: far ?? FAR_M,
        corner: toWorld(corner),
        u: toWorld(add([0, 0, 0], s.u, on.u[1] - on.u[0])),
        v: toWorld(add([0, 0, 0], s.v, on.v[1] - on.v[0])),
      });
    }
    const made = { way, half, reach, lands: found };
    lands.set(i, made);
    return made;
  };

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
      const from = origins[i] as Vec;
      along.set(...toWorld(way));
      position.set(...toWorld(from));
      turn.setFromUnitVectors(up, along);
      const key = `${way[0]},${way[1]},${way[2]}`;
      if (turned.get(i) !== key) {
        turned.set(i, key);
        const lens = shaped.turn(i, levels);
        // What is drawn with its own shape has no plain one; its lens is where its light comes out.
        matrix.compose(position, turn, scale.setScalar(lens === undefined ? 1 : 0));
        bodies.place(i, matrix);
        const out = lens === undefined ? 0 : lens - LENS_M;
        matrix.compose(place.copy(position).addScaledVector(along, out), turn, scale.setScalar(1));
        lenses.place(i, matrix);
      }
      lenses.set('color', i, [0.12 + rgb[0] * 0.9, 0.14 + rgb[1] * 0.9, 0.13 + rgb[2] * 0.9]);
      if (level < 0.004 || lamp.shape === 'hazer') return;
      const half = beamAngle(lamp, levels) / 2;
      const seen = landsOf(i, from, way, half);
      const { reach } = seen;
      if (lamp.shape !== 'house' && lamp.shape !== 'strip') {
        const wide = Math.tan((half * Math.PI) / 180) * reach;
        matrix.compose(position, turn, scale.set(wide, reach, wide));
        beams.place(beam, matrix);
        // A narrow beam is a bright one.
        const haze = Math.min(1.3, 14 / (half + 7));
        beams.set(
          'light',
          beam++,
          rgb.map((v) => v * haze),
        );
      }
      const brightest = Math.max(...rgb);
      const [picture] = patternsOf(lamp, levels);
      const pattern = picture?.startsWith('pattern:')
        ? PATTERN_NAMES.indexOf(picture.slice(8))
        : -1;
      for (const on of seen.lands) {
        if (pool >= mostPools) break;
        // Too far away for its light to be seen there.
        if ((brightest * 14) / (14 + on.far * on.far) < SEEN) continue;
        corner.set(
          on.u[0],
          on.v[0],
          0,
          on.corner[0],
          on.u[1],
          on.v[1],
          0,
          on.corner[1],
          on.u[2],
          on.v[2],
          0,
          on.corner[2],
          0,
          0,
          0,
          1,
        );
        pools.place(pool, corner);
        pools.set('source', pool, toWorld(from));
        pools.set('axis', pool, toWorld(way));
        pools.set(
          'light',
          pool,
          rgb.map((v) => v * 0.9),
        );
        pools.set('shape', pool, [
          Math.tan((Math.min(80, half) * Math.PI) / 180),
          edgeOf(lamp, levels),
          pattern < ATLAS.columns * ATLAS.rows ? pattern : -1,
          0,
        ]);
        pool++;
      }
    });
    beams.show(beam);
    pools.show(pool);
  };

  return {
    scene,
    light,
    mark: (selected) => {
      let n = 0;
      for (const lamp of lamps) {
        if (!selected.has(lamp.fixture.id)) continue;
        matrix.makeTranslation(
          ...toWorld([lamp.fixture.position.x, lamp.fixture.position.y, lamp.fixture.position.z]),
        );
        rings.place(n++, matrix);
      }
      rings.show(n);
    },
    positions: () =>
      lamps.map((l) => ({
        id: l.fixture.id,
        at: new THREE.Vector3(
          ...toWorld([l.fixture.position.x, l.fixture.position.y, l.fixture.position.z]),
        ),
      })),
    floor: new THREE.Plane(new THREE.Vector3(0, 1, 0), 0),
    dispose: () => {
      atlas.dispose();
      scene.traverse((o) => {
        if (!(o instanceof THREE.Mesh || o instanceof THREE.Line)) return;
        if (o instanceof THREE.InstancedMesh) o.dispose();
        (o.geometry as THREE.BufferGeometry).dispose();
        for (const m of [o.material].flat() as THREE.Material[]) m.dispose();
      });
    },
  };
}
