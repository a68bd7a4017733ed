/**
 * The stage in space, in three.js. Everything that changes with levels is in a few meshes whose vertices are written anew;
 * no mesh is made while it plays.
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
import { batchOf, type Batch } from './batch';
import { bodiesOf, roomLights, type Bodies } from './bodies';
import { Landings, type Land, type Landing } from './lands';
import { ATLAS, beamMaterial, PATTERN_NAMES, patternAtlas, poolMaterial } from './materials';
import { setOf } from './set';
import { surfacesOf, toWorld, type Vec } from './surfaces';

const GROUND = 0x0b110f;
const BODY = 0x52655c;
const STANDBY = 0x86c8ff;
const BEAM_SIDES = 16;
/** From where a plain unit turns to its lens. */
const LENS_M = 0.28;
/** Less light than this on a surface is not seen, and less than the other is none. */
const SEEN = 0.012;
const NONE = 0.004;
/** Light of so many surfaces is drawn for each unit, at most. */
const MOST_LANDS = 8;
/** What an eye makes of light. */
const GAMMA = 1.6;
const WIDEST_DEG = 80;

/** Everything that is drawn in space. */
export interface SpaceScene {
  scene: THREE.Scene;
  /** Writes the light of these levels. */
  light: (levels: Float32Array) => void;
  mark: (selected: ReadonlySet<string>) => void;
  /** Where each fixture is. */
  positions: () => { id: string; at: THREE.Vector3 }[];
  floor: THREE.Plane;
  dispose: () => void;
}

type Rgb = readonly [number, number, number];

/** Light of a unit as a whole: how much, and its colour with that in it, 0…1. */
function shone(lamp: Lamp, levels: Float32Array): { level: number; rgb: Rgb } {
  const faces = shineOf(lamp, levels);
  const n = Math.max(1, faces.length);
  let [level, r, g, b] = [0, 0, 0, 0];
  for (const f of faces) {
    level += f.level / n;
    r += (f.rgb[0] * f.level) / 255 / n;
    g += (f.rgb[1] * f.level) / 255 / n;
    b += (f.rgb[2] * f.level) / 255 / n;
  }
  return { level, rgb: [r ** GAMMA, g ** GAMMA, b ** GAMMA] };
}

/** Where a unit's pattern stands in the atlas; -1 for none. */
function patternIn(lamp: Lamp, levels: Float32Array): number {
  const [picture] = patternsOf(lamp, levels);
  const at = picture?.startsWith('pattern:') ? PATTERN_NAMES.indexOf(picture.slice(8)) : -1;
  return at < ATLAS.columns * ATLAS.rows ? at : -1;
}

const tangent = (degrees: number): number => Math.tan((degrees * Math.PI) / 180);

/** Light on surfaces: a rectangle for each that a beam reaches. */
function poolsOf(most: number, atlas: THREE.Texture): Batch {
  const square = new THREE.BufferGeometry();
  const corners = new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]);
  square.setAttribute('position', new THREE.BufferAttribute(corners, 3));
  square.setIndex([0, 1, 2, 0, 2, 3]);
  const columns = { source: 3, axis: 3, light: 3, shape: 4 };
  const pools = batchOf(square, most, poolMaterial(atlas), columns);
  pools.mesh.renderOrder = 2;
  return pools;
}

/** Light in the air: a cone for each unit. */
function beamsOf(most: number): Batch {
  const cone = new THREE.ConeGeometry(1, 1, BEAM_SIDES, 1, true);
  // Its tip to the origin, along +y.
  cone.rotateX(Math.PI).translate(0, 0.5, 0);
  const beams = batchOf(cone, most, beamMaterial(), { light: 3, along: 1 });
  beams.mesh.renderOrder = 3;
  // How far along the beam each vertex of a cone is, the same for every copy.
  const alongs = beams.mesh.geometry.getAttribute('along');
  const tips = cone.getAttribute('position');
  for (let i = 0; i < alongs.count; i++) alongs.setX(i, tips.getY(i % tips.count));
  return beams;
}

const plainBodies = (most: number): Batch =>
  batchOf(
    new THREE.CylinderGeometry(0.09, 0.13, 0.34, 8).translate(0, 0.1, 0),
    most,
    new THREE.MeshBasicMaterial({ color: BODY }),
  );
const plainLenses = (most: number): Batch =>
  batchOf(
    new THREE.CircleGeometry(0.12, 10).rotateX(-Math.PI / 2).translate(0, LENS_M, 0),
    most,
    new THREE.MeshBasicMaterial({ vertexColors: true, side: THREE.DoubleSide }),
    { color: 3 },
  );

/** Rings round what is selected. */
function ringsOf(most: number): Batch {
  const rings = batchOf(
    new THREE.RingGeometry(0.24, 0.3, 20),
    most,
    new THREE.MeshBasicMaterial({ color: STANDBY, side: THREE.DoubleSide, depthTest: false }),
  );
  rings.mesh.renderOrder = 5;
  return rings;
}

const UP = new THREE.Vector3(0, 1, 0);

/** Units and their light, written from levels. */
class Lit {
  private readonly mostPools: number;
  private readonly pools: Batch;
  private readonly beams: Batch;
  private readonly bodies: Batch;
  private readonly lenses: Batch;
  private readonly shaped: Bodies;
  private readonly origins: readonly Vec[];
  /** Which way each unit was turned when it was last written. */
  private readonly turned = new Map<number, string>();
  private beam = 0;
  private pool = 0;
  // Of the unit that is being written.
  private readonly along = new THREE.Vector3();
  private readonly position = new THREE.Vector3();
  private readonly place = new THREE.Vector3();
  private readonly scale = new THREE.Vector3();
  private readonly turn = new THREE.Quaternion();
  private readonly matrix = new THREE.Matrix4();

  constructor(
    private readonly lamps: readonly Lamp[],
    private readonly landings: Landings,
    surfaces: number,
    atlas: THREE.Texture,
  ) {
    const most = Math.max(1, lamps.length);
    this.mostPools = most * Math.min(MOST_LANDS, surfaces);
    this.pools = poolsOf(this.mostPools, atlas);
    this.beams = beamsOf(most);
    this.bodies = plainBodies(most);
    this.lenses = plainLenses(most);
    this.shaped = bodiesOf(lamps, BODY);
    this.origins = lamps.map((lamp): Vec => {
      const { x, y, z } = beamOrigin(lamp);
      return [x, y, z];
    });
    this.bodies.show(lamps.length);
    this.lenses.show(lamps.length);
  }

  get meshes(): THREE.Object3D[] {
    const { shaped, pools, beams, bodies, lenses } = this;
    return [...shaped.meshes, ...[pools, beams, bodies, lenses].map((b) => b.mesh)];
  }

  readonly write = (levels: Float32Array): void => {
    [this.beam, this.pool] = [0, 0];
    this.lamps.forEach((lamp, i) => this.unit(lamp, i, levels));
    this.beams.show(this.beam);
    this.pools.show(this.pool);
  };

  private unit(lamp: Lamp, i: number, levels: Float32Array): void {
    const { level, rgb } = shone(lamp, levels);
    const way = beamDirection(lamp, levels);
    const from = this.origins[i] as Vec;
    this.along.set(...toWorld(way));
    this.position.set(...toWorld(from));
    this.turn.setFromUnitVectors(UP, this.along);
    this.body(i, way, levels);
    const [r, g, b] = rgb;
    this.lenses.set('color', i, [0.12 + r * 0.9, 0.14 + g * 0.9, 0.13 + b * 0.9]);
    if (level < NONE || lamp.shape === 'hazer') return;
    const half = beamAngle(lamp, levels) / 2;
    const landing = this.landings.of(i, from, way, half);
    if (lamp.shape !== 'house' && lamp.shape !== 'strip') this.inTheAir(landing, rgb);
    this.onSurfaces(lamp, from, landing, rgb, levels);
  }

  private body(i: number, way: Vec, levels: Float32Array): void {
    const key = way.join();
    if (this.turned.get(i) === key) return;
    this.turned.set(i, key);
    const { matrix, position, turn, scale, along, place } = this;
    const lens = this.shaped.turn(i, levels);
    // What is drawn with its own shape has no plain one; its lens is where its light comes out.
    matrix.compose(position, turn, scale.setScalar(lens === undefined ? 1 : 0));
    this.bodies.place(i, matrix);
    const out = lens === undefined ? 0 : lens - LENS_M;
    matrix.compose(place.copy(position).addScaledVector(along, out), turn, scale.setScalar(1));
    this.lenses.place(i, matrix);
  }

  private inTheAir({ half, reach }: Landing, rgb: Rgb): void {
    const wide = tangent(half) * reach;
    this.matrix.compose(this.position, this.turn, this.scale.set(wide, reach, wide));
    this.beams.place(this.beam, this.matrix);
    // A narrow beam is a bright one.
    const haze = Math.min(1.3, 14 / (half + 7));
    const light = rgb.map((v) => v * haze);
    this.beams.set('light', this.beam, light);
    this.beam++;
  }

  private onSurfaces(
    lamp: Lamp,
    from: Vec,
    { way, half, lands }: Landing,
    rgb: Rgb,
    levels: Float32Array,
  ): void {
    const brightest = Math.max(...rgb);
    const light = rgb.map((v) => v * 0.9);
    const opens = tangent(Math.min(WIDEST_DEG, half));
    const shape = [opens, edgeOf(lamp, levels), patternIn(lamp, levels), 0];
    for (const on of lands) {
      if (this.pool >= this.mostPools) break;
      // Too far away for its light to be seen there.
      if ((brightest * 14) / (14 + on.far * on.far) < SEEN) continue;
      this.pools.place(this.pool, this.rectangle(on));
      this.pools.set('source', this.pool, toWorld(from));
      this.pools.set('axis', this.pool, toWorld(way));
      this.pools.set('light', this.pool, light);
      this.pools.set('shape', this.pool, shape);
      this.pool++;
    }
  }

  /** From the square of one metre to where light lies. */
  private rectangle({ u, v, corner: c }: Land): THREE.Matrix4 {
    // prettier-ignore
    return this.matrix.set(
      u[0], v[0], 0, c[0],
      u[1], v[1], 0, c[1],
      u[2], v[2], 0, c[2],
      0, 0, 0, 1,
    );
  }
}

function throwAway(scene: THREE.Scene): void {
  scene.traverse((o) => {
    if (!(o instanceof THREE.Mesh || o instanceof THREE.Line)) return;
    if (o instanceof THREE.InstancedMesh) o.dispose();
    (o.geometry as THREE.BufferGeometry).dispose();
    for (const m of [o.material].flat() as THREE.Material[]) m.dispose();
  });
}

/** Builds it from a rig. */
export function buildScene(
  lamps: readonly Lamp[],
  pieces: readonly PieceRow[],
  bounds: { left: number; right: number; top: number; bottom: number },
): SpaceScene {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color(GROUND);
  const surfaces = surfacesOf(pieces, bounds);
  const atlas = patternAtlas();
  const lit = new Lit(lamps, new Landings(surfaces), surfaces.length, atlas);
  const rings = ringsOf(Math.max(1, lamps.length));
  scene.add(...setOf(pieces, surfaces), ...roomLights(), ...lit.meshes, rings.mesh);
  const where = lamps.map(({ fixture: { id, position } }) => ({
    id,
    at: toWorld([position.x, position.y, position.z]),
  }));
  const matrix = new THREE.Matrix4();
  return {
    scene,
    light: lit.write,
    mark: (selected) => {
      const marked = where.filter(({ id }) => selected.has(id));
      marked.forEach(({ at }, n) => rings.place(n, matrix.makeTranslation(...at)));
      rings.show(marked.length);
    },
    positions: () => where.map(({ id, at }) => ({ id, at: new THREE.Vector3(...at) })),
    floor: new THREE.Plane(UP.clone(), 0),
    dispose: () => {
      atlas.dispose();
      throwAway(scene);
    },
  };
}
