/** What a plan has beside its units: bars that they hang on, set pieces and trusses, points that they are focused on, classes. */
import { clamp } from '../numbers.ts';
import { insertRow, replaceRow } from '../edits/define-edit.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Oddities } from '../formats/odd.ts';
import { nameFor } from '../gdtf/names.ts';
import { lighter } from '../meshes/lighter.ts';
import { MOST_FACES } from '../meshes/rows.ts';
import {
  boxOf,
  boxTriangles,
  joinedTriangles,
  meshOf,
  movedTriangles,
  type Triangles,
} from '../meshes/triangles.ts';
import type { Plan, PlanThing } from '../mvr/scene.ts';
import { placed, within, type Vector } from '../mvr/space.ts';
import { isUuid, uuidOf, uuidOfPiece } from '../mvr/uuid.ts';
import type { PieceRow } from '../plan/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { takeNumber } from '../show/numbers.ts';
import { same } from '../same.ts';
import { plural } from '../words.ts';
import type { Item } from './proposed.ts';

interface Drawing {
  show: Show;
  plan: Plan;
  odd: Oddities;
  newId: () => string;
  /** A mesh, by its file; undefined where that is not there. */
  meshIn: (file: string) => Triangles | undefined;
}
interface Rows {
  items: Item[];
  changes: RowChange[];
}

const MOST_PIECES = 2000;
const cm = (v: number): number => Math.round(v * 100) / 100 + 0;
const inside = (v: number, most = 500): number => cm(clamp(v, -most, most));

/** A line through where units hang, a little longer than they need. */
function lineThrough(at: readonly Vector[]): PieceRow['points'] {
  const along = (of: (v: Vector) => number): number =>
    Math.max(...at.map(of)) - Math.min(...at.map(of));
  const axis = along((v) => v.x) >= along((v) => v.y) ? 'x' : 'y';
  const sorted = [...at].sort((a, b) => a[axis] - b[axis]);
  const [a, b] = [sorted[0], sorted.at(-1)];
  if (!a || !b) return [];
  const beyond = 0.5;
  return axis === 'x'
    ? [
        { x: inside(a.x - beyond), y: inside(a.y) },
        { x: inside(b.x + beyond), y: inside(b.y) },
      ]
    : [
        { x: inside(a.x), y: inside(a.y - beyond) },
        { x: inside(b.x), y: inside(b.y + beyond) },
      ];
}

/** Bars that units say they hang on and that nobody has drawn yet. */
function bars(d: Drawing, units: readonly FixtureRow[], rows: Rows): void {
  const drawn = new Set([...d.show.pieces.values()].map((p) => p.name));
  for (const hang of new Set(units.map((f) => f.hang))) {
    if (hang === '' || drawn.has(hang)) continue;
    const at = units.filter((f) => f.hang === hang).map((f) => f.position);
    const heights = at.map((p) => p.z).sort((a, b) => a - b);
    const z = heights[Math.floor(heights.length / 2)] ?? 0;
    const piece: PieceRow = {
      id: d.newId(),
      name: hang,
      kind: 'bar',
      points: lineThrough(at),
      z: clamp(cm(z), -20, 100),
    };
    rows.items.push({
      what: 'bar',
      name: hang,
      does: 'new',
      says: `with ${plural(at.length, 'unit')}`,
    });
    rows.changes.push(insertRow('pieces', piece));
  }
}

/** Triangles of all things of a plan together: a show takes its rows along everywhere. */
const MOST_IN_ALL = 60_000;
const LEAST_FACES = 12;

/** Where the corners of its box are: of a mesh whose triangles could not be read. */
const asBox = (mesh: Triangles): Triangles => {
  const box = boxOf(mesh);
  return mesh.faces.length > 0 || !box ? mesh : boxTriangles(box);
};

/** All of a thing's meshes, where they stand on the stage. */
function meshesOf(d: Drawing, thing: PlanThing): Triangles {
  return joinedTriangles(
    thing.meshes.flatMap(({ file, frame }) => {
      const mesh = d.meshIn(file);
      if (!mesh) {
        if (file !== '')
          d.odd.add(
            `“${thing.name || file}”`,
            `its mesh “${file}” is not in the plan, or none; it is drawn a metre wide`,
          );
        return [];
      }
      const outer = within(thing.frame, frame);
      return movedTriangles(asBox(mesh), (x, y, z) => {
        const at = placed(outer, { x, y, z });
        return [at.x, at.y, at.z];
      });
    }),
  );
}

/** Further away nothing is drawn as it looks. */
const FAR_M = 500;
const isOnStage = (corners: readonly number[]): boolean =>
  corners.every((v) => Math.abs(v) <= FAR_M);

/** What fills its box as its outline does needs no mesh. */
function isItsBox({ points, faces }: Triangles): boolean {
  const box = boxOf({ points });
  return (
    box !== undefined &&
    faces.length / 3 <= 12 &&
    points.every((v, i) =>
      [box.low[i % 3], box.high[i % 3]].some((side) => Math.abs(v - (side ?? NaN)) < 1e-4),
    )
  );
}

function pieceOf(d: Drawing, thing: PlanThing, uuid: string, id: string): PieceRow {
  const { at } = thing.frame;
  const half = 0.5;
  const all = meshesOf(d, thing);
  const box = boxOf(all);
  const { low, high } =
    box && [...box.low, ...box.high].every(Number.isFinite)
      ? box
      : {
          low: [at.x - half, at.y - half, at.z] as const,
          high: [at.x + half, at.y + half, at.z + half] as const,
        };
  const most = Math.floor(MOST_IN_ALL / Math.max(1, d.plan.things.length));
  const light = lighter(all, clamp(most, LEAST_FACES, MOST_FACES));
  const mesh = isItsBox(light) || !isOnStage([...low, ...high]) ? undefined : meshOf(light);
  const [l, r, f, b] = [inside(low[0]), inside(high[0]), inside(low[1]), inside(high[1])];
  const height = Math.min(50, cm(high[2] - low[2]));
  return {
    id,
    name: nameFor(thing.name),
    kind: 'set',
    points: [
      { x: l, y: f },
      { x: r, y: f },
      { x: r, y: b },
      { x: l, y: b },
      { x: l, y: f },
    ],
    z: clamp(cm(low[2]), -20, 100),
    ...(height > 0 ? { height } : {}),
    ...(mesh && height > 0 ? { mesh } : {}),
    uuid,
  };
}

const bound = (p: PieceRow): number[] => {
  const [xs, ys] = [p.points.map((q) => q.x), p.points.map((q) => q.y)];
  return [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys), p.z, p.height ?? 0];
};
/** A piece that takes up the same place is the same: its outline may be finer than the box of its mesh. */
const liesAs = (a: PieceRow, b: PieceRow): boolean =>
  a.name === b.name && bound(a).every((v, i) => Math.abs(v - (bound(b)[i] ?? 0)) < 0.015);
/** Its box aside, which says where it lies. */
const looksAs = (a: PieceRow, b: PieceRow): boolean =>
  a.mesh?.points === b.mesh?.points && a.mesh?.faces === b.mesh?.faces;

function things(d: Drawing, rows: Rows): void {
  const known = new Map(
    [...d.show.pieces.values()].flatMap((p) =>
      p.kind === 'set' || p.uuid !== undefined ? [[uuidOfPiece(p), p] as const] : [],
    ),
  );
  if (d.plan.things.length > MOST_PIECES)
    d.odd.add('the plan', `has ${d.plan.things.length} pieces; the first ${MOST_PIECES} came in`);
  const seen = new Set<string>();
  for (const thing of d.plan.things.slice(0, MOST_PIECES)) {
    const uuid =
      isUuid(thing.uuid) && !seen.has(thing.uuid)
        ? thing.uuid
        : uuidOf(`${thing.name} ${seen.size}`);
    seen.add(uuid);
    const old = known.get(uuid);
    const next = pieceOf(d, thing, uuid, old?.id ?? d.newId());
    const what = thing.kind === 'truss' ? 'truss' : 'piece';
    const name = next.name || 'without a name';
    if (!old) {
      rows.items.push({ what, name, does: 'new' });
      rows.changes.push(insertRow('pieces', next));
    } else if (!liesAs(old, next) || !looksAs(old, next)) {
      const says = liesAs(old, next) ? 'another shape' : 'moved';
      rows.items.push({ what, name, does: 'changed', says });
      // An outline that somebody drew finer stays where only what it looks like is new.
      const outline = liesAs(old, next) ? { points: old.points } : {};
      rows.changes.push(replaceRow('pieces', old, { ...next, ...outline }));
    }
  }
}

/** Points that units are focused on become palettes that aim there. */
function points(d: Drawing, rows: Rows): void {
  const all = [...d.show.palettes.values()];
  const own = all.filter((p) => p.family === 'position');
  const numbers = new Set(all.map((p) => p.number));
  for (const { name: written, frame } of d.plan.points) {
    const name = nameFor(written) || 'Focus point';
    const point = {
      x: inside(frame.at.x),
      y: inside(frame.at.y),
      z: clamp(cm(frame.at.z), -100, 200),
    };
    const old = own.find((p) => p.name === name && p.any?.point);
    if (old && same(old.any?.point, point)) continue;
    const next = old
      ? { ...old, any: { ...old.any, point } }
      : {
          id: d.newId(),
          number: takeNumber(numbers, 1),
          family: 'position' as const,
          name,
          fixtures: {},
          types: {},
          any: { point },
        };
    rows.items.push({ what: 'stage point', name, does: old ? 'changed' : 'new' });
    rows.changes.push(old ? replaceRow('palettes', old, next) : insertRow('palettes', next));
  }
}

/** A class with several units is a group, where none is called so. */
function classes(d: Drawing, units: readonly FixtureRow[], rows: Rows): void {
  const names = new Set([...d.show.groups.values()].map((g) => g.name));
  const numbers = new Set([...d.show.groups.values()].map((g) => g.number));
  for (const name of new Set(units.flatMap((f) => f.plan?.class ?? []))) {
    const members = units.filter((f) => f.plan?.class === name);
    if (name === '' || names.has(name) || members.length < 2) continue;
    const group = {
      id: d.newId(),
      number: takeNumber(numbers, 1),
      name,
      fixtures: members.map((f) => f.id),
    };
    rows.items.push({
      what: 'group',
      name,
      does: 'new',
      says: `the class, ${plural(members.length, 'unit')}`,
    });
    rows.changes.push(insertRow('groups', group));
  }
}

/** Pieces of the plan from the drawing of an MVR: bars, booms, set. */
export function drawPlan(d: Drawing, rows: Rows): void {
  const units = rows.changes.flatMap((c) => (c.table === 'fixtures' && c.after ? [c.after] : []));
  bars(d, units, rows);
  classes(d, units, rows);
  things(d, rows);
  points(d, rows);
}
