/** What a unit looks like: the meshes of its parts, by what moves them (GDTF 1.2, Models and Geometries). */
import { attr, childOf, childrenOf, numberIn, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import { entryOf } from '../formats/unzip.ts';
import { lighter } from '../meshes/lighter.ts';
import { readMesh } from '../meshes/read.ts';
import { MOVES, type BodyPart } from '../meshes/rows.ts';
import {
  boxOf,
  joinedTriangles,
  meshOf,
  movedTriangles,
  type Triangles,
} from '../meshes/triangles.ts';
import type { Place } from './geometry.ts';
import type { Matrix } from './values.ts';

/** Triangles of one unit, all its parts together: a rig has hundreds of them. */
const MOST_FACES = 900;
const LEAST_FACES = 12;
/** Where meshes lie in the archive, the usual ones first. */
const FOLDERS = ['gltf', 'gltf_low', 'gltf_high', '3ds', '3ds_low', '3ds_high'].map((folder) => ({
  folder: `models/${folder}/`,
  end: folder.startsWith('gltf') ? '.glb' : '.3ds',
}));
/** Whether a file of an archive is a model that is read: glTF or 3DS. */
export const isModel = (name: string): boolean => /^models\/.*\.(glb|3ds)$/i.test(name);

/** Sizes that differ by less are the same. */
const AS_LARGE = 1e-4;

/** As large as its model says, where it does. */
function sized(mesh: Triangles, model: Element): Triangles {
  const box = boxOf(mesh);
  if (!box) return mesh;
  const by = ['Length', 'Width', 'Height'].map((name, k) => {
    const said = numberIn(attr(model, name)) ?? 0;
    const own = (box.high[k] ?? 0) - (box.low[k] ?? 0);
    const scale = said > 0.001 && said <= 50 && own > 1e-6 ? said / own : 1;
    return Math.abs(scale - 1) < AS_LARGE ? 1 : scale;
  });
  const [sx = 1, sy = 1, sz = 1] = by;
  return movedTriangles(mesh, (x, y, z) => [x * sx, y * sy, z * sz]);
}

function placed(mesh: Triangles, at: Matrix): Triangles {
  const m = (i: number): number => at[i] ?? 0;
  return movedTriangles(mesh, (x, y, z) => [
    m(0) * x + m(1) * y + m(2) * z + m(3),
    m(4) * x + m(5) * y + m(6) * z + m(7),
    m(8) * x + m(9) * y + m(10) * z + m(11),
  ]);
}

/** Names of the parts that pan and tilt turn, by the channels of a mode. */
function axesOf(mode: Element | undefined): Map<string, 'pan' | 'tilt'> {
  const axes = new Map<string, 'pan' | 'tilt'>();
  for (const channel of childrenOf(childOf(mode, 'DMXChannels'), 'DMXChannel'))
    for (const logical of childrenOf(channel, 'LogicalChannel')) {
      const moves = { Pan: 'pan', Tilt: 'tilt' } as const;
      const move = moves[attr(logical, 'Attribute') as keyof typeof moves];
      if (move) axes.set(attr(channel, 'Geometry'), move);
    }
  return axes;
}

/** What moves a part: the innermost of the axes that it hangs on. */
function movedBy(place: Place, axes: ReadonlyMap<string, 'pan' | 'tilt'>): BodyPart['moves'] {
  for (let at: Place | undefined = place; at; at = at.above) {
    const move = axes.get(at.name);
    if (move) return move;
  }
  return 'still';
}

/**
 * @param files of the archive: its models
 * @param tooLarge names of models that were not unpacked
 * @returns undefined where the file has no mesh that can be read
 */
export function bodyPartsOf(
  type: Element,
  mode: Element | undefined,
  places: readonly Place[],
  { files, tooLarge }: { files: ReadonlyMap<string, Uint8Array>; tooLarge: readonly string[] },
  odd: Oddities,
): BodyPart[] | undefined {
  const models = new Map(
    childrenOf(childOf(type, 'Models'), 'Model').map((m) => [attr(m, 'Name'), m]),
  );
  const read = new Map<string, Triangles | undefined>();
  const meshNamed = (file: string): Triangles | undefined => {
    const names = FOLDERS.map((f) => `${f.folder}${file}${f.end}`);
    const bytes = names.map((n) => entryOf(files, n)).find((b) => b !== undefined);
    const mesh = bytes && readMesh(bytes);
    const isLarge = tooLarge.some((n) => names.includes(n.toLowerCase()) || names.includes(n));
    const isTorn = bytes !== undefined && !(mesh && mesh.faces.length > 0);
    const torn = isTorn ? 'cannot be read' : undefined;
    const why = isLarge ? 'is too large' : torn;
    if (why !== undefined)
      odd.add(`mesh “${file}”`, `${why} and was left out; the unit is drawn plainly there`);
    return mesh && mesh.faces.length > 0 ? lighter(mesh, MOST_FACES) : undefined;
  };
  const axes = axesOf(mode);
  const parts = new Map<BodyPart['moves'], Triangles[]>();
  for (const place of places) {
    const model = models.get(attr(place.element, 'Model'));
    const file = attr(model, 'File');
    if (!model || file === '') continue;
    if (!read.has(file)) read.set(file, meshNamed(file));
    const mesh = read.get(file);
    if (!mesh) continue;
    const moves = movedBy(place, axes);
    parts.set(moves, [...(parts.get(moves) ?? []), placed(sized(mesh, model), place.at)]);
  }
  const whole = MOVES.flatMap((moves) => {
    const own = parts.get(moves);
    return own ? [{ moves, all: joinedTriangles(own) }] : [];
  });
  const count = whole.reduce((n, w) => n + w.all.faces.length, 0);
  const body = whole.flatMap(({ moves, all }): BodyPart[] => {
    const share = Math.floor((MOST_FACES * all.faces.length) / Math.max(1, count));
    const isHeavy = count / 3 > MOST_FACES;
    const mesh = meshOf(isHeavy ? lighter(all, Math.max(LEAST_FACES, share)) : all);
    return mesh && isInReach(mesh) ? [{ moves, mesh }] : [];
  });
  return body.length > 0 ? body : undefined;
}

/** No unit is larger than this, in metres. */
const MOST_M = 50;
const isInReach = ({ low, high }: BodyPart['mesh']): boolean =>
  [...low, ...high].every((v) => Math.abs(v) <= MOST_M);
