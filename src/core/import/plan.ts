/** A plan with its rig (MVR 1.6) into a show: what is new, what moved, what went; matched by what the plan knows things by. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { clamp } from '../numbers.ts';
import { insertRow, replaceRow } from '../edits/define-edit.ts';
import { absolute, formatPoints, parsePoint } from '../fixtures/points.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import { leanOf } from '../aim/beam.ts';
import { Oddities } from '../formats/odd.ts';
import { entryOf, readZip, type ZipLimits } from '../formats/unzip.ts';
import { decodeXml, readXml } from '../formats/xml.ts';
import { readGdtf } from '../gdtf/read.ts';
import { nameFor } from '../gdtf/names.ts';
import { lighter } from '../meshes/lighter.ts';
import { readMesh } from '../meshes/read.ts';
import { MOST_FACES } from '../meshes/rows.ts';
import type { Triangles } from '../meshes/triangles.ts';
import { readScene, type Plan, type PlanFixture } from '../mvr/scene.ts';
import { frameOf, hungAs, type Hung, type Vector } from '../mvr/space.ts';
import { given } from '../given.ts';
import { isUuid, uuidOf, uuidOfFixture } from '../mvr/uuid.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { channelCount, footprintOf } from '../rig/attributes.ts';
import { same } from '../same.ts';
import { LIMITS } from '../show/fields.ts';
import type { RowChange, Show } from '../show/show.ts';
import { takeNumber } from '../show/numbers.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import { plural } from '../words.ts';
import { routesForUnrouted } from '../fixtures/edits/patch.ts';
import { drawPlan } from './plan-drawing.ts';
import { idOfGdtf, typeOfFile } from './type.ts';
import type { ImportContext, Item, Proposed } from './proposed.ts';

const ZIP: ZipLimits = { entries: 20_000, one: 64 * 1024 * 1024, all: 200 * 1024 * 1024 };
const SCENE = 'generalscenedescription.xml';
const FARTHEST_M = 500;

/** Types as the plan names them, each read once. */
interface Types {
  /** By the name that the plan uses. */
  bySpec: Map<string, TypeRow>;
  fresh: TypeRow[];
}

const specOf = (f: PlanFixture): string => f.spec.replace(/\.gdtf$/i, '');

/** The fewest channels between two units of one kind: what nobody knows of a unit whose file is missing. */
function footprintBetween(units: readonly PlanFixture[]): number {
  const starts = units
    .flatMap((u) => u.addresses.slice(0, 1).map((a) => pointIn(a.text)))
    .flatMap((p) => (p ? [absolute(p)] : []))
    .sort((a, b) => a - b);
  const gaps = starts
    .slice(1)
    .map((s, i) => s - (starts[i] ?? 0))
    .filter((g) => g > 0 && g <= UNIVERSE_SLOTS);
  return gaps.length > 0 ? Math.min(...gaps) : 1;
}

/** A unit of so many channels of which nothing else is known. */
function unknownType(spec: string, mode: string, footprint: number): TypeRow {
  const channel = (n: number) => ({
    attribute: n === 1 ? 'Dimmer' : `Control${n}`,
    offset: [n],
    default: 0,
    physicalFrom: 0,
    physicalTo: 1,
  });
  return {
    id: `plan-${uuidOf(spec)}`,
    maker: 'Unknown maker',
    name: nameFor(spec) || 'Unknown type',
    shape: 'wash',
    modes: [
      {
        name: nameFor(mode) || 'As planned',
        footprint,
        channels: Array.from({ length: footprint }, (_, i) => channel(i + 1)),
      },
    ],
    emitters: {},
    watts: 0,
  };
}

const plainName = (t: Pick<TypeRow, 'maker' | 'name'>): string =>
  `${t.maker} ${t.name}`.toLowerCase().replaceAll(/[^a-z0-9]/g, '');

function typesOf(
  plan: Plan,
  files: ReadonlyMap<string, Uint8Array>,
  show: Show,
  odd: Oddities,
): Types {
  const types: Types = { bySpec: new Map(), fresh: [] };
  for (const spec of new Set(plan.fixtures.map(specOf))) {
    const bytes = entryOf(files, `${spec}.gdtf`);
    const read = bytes ? readGdtf(bytes) : undefined;
    const where = `type “${spec}”`;
    if (read && !isRefusal(read)) {
      for (const o of read.odd) odd.add(`${where}, ${o.where}`, o.text);
      const type: TypeRow = { id: idOfGdtf(read.type, `plan-${uuidOf(spec)}`), ...read.type };
      const own = typeOfFile(show, type);
      types.bySpec.set(spec, own ?? type);
      if (!own) types.fresh.push(type);
      continue;
    }
    // `Maker@Type@revision` is how files are called.
    const named = spec
      .split('@')
      .slice(0, 2)
      .join(' ')
      .toLowerCase()
      .replaceAll(/[^a-z0-9]/g, '');
    const own = [...show.types.values()].find(
      (t) => plainName(t) === named || t.id === `plan-${uuidOf(spec)}`,
    );
    const units = plan.fixtures.filter((f) => specOf(f) === spec);
    const type = own ?? unknownType(spec, units[0]?.mode ?? '', footprintBetween(units));
    types.bySpec.set(spec, type);
    if (own) continue;
    types.fresh.push(type);
    const why = isRefusal(read)
      ? `cannot be read (${read.message.replace(/\.$/, '')})`
      : 'is not in the plan';
    odd.add(
      where,
      `its file ${why}; its units have ${plural(channelCount(type.modes[0] ?? { name: '', footprint: 1, channels: [] }), 'channel')} of which nothing is known. Swap their type when you have it`,
    );
  }
  return types;
}

/** `513`, absolute from 1, or `2.1`; undefined for what is no address. */
function pointIn(text: string): PatchPoint | undefined {
  const point = parsePoint(text);
  return point && point.universe <= LIMITS.universes ? point : undefined;
}

const modeIn = (type: TypeRow, wanted: string): Mode | undefined =>
  type.modes.find((m) => m.name === wanted) ??
  type.modes.find((m) => m.name.toLowerCase() === wanted.toLowerCase());

/** Addresses that nobody has yet, as far as the plan has come. */
class Slots {
  private readonly owners = new Map<number, number>();

  /** @returns the number of the fixture that is there already, and takes none then */
  claim(points: readonly PatchPoint[], mode: Mode, number: number): number | undefined {
    const all = points.flatMap((p) => {
      const from = absolute(p);
      return Array.from({ length: footprintOf(mode, p.break ?? 1) }, (_, i) => from + i);
    });
    const taken = all.map((a) => this.owners.get(a)).find((o) => o !== undefined);
    if (taken === undefined) for (const a of all) this.owners.set(a, number);
    return taken;
  }
}

/** Addresses of one unit. */
const MOST_POINTS = 64;

function patchOf(unit: PlanFixture, mode: Mode, where: string, odd: Oddities): PatchPoint[] {
  const breaks = 1 + (mode.breaks?.length ?? 0);
  const sorted = [...unit.addresses].sort((a, b) => a.break - b.break);
  const named = [...new Set(sorted.map((a) => a.break))];
  // Several of one break are each its address; where a plan does not number the breaks of a type, they are counted.
  const breakOf = (n: number, at: number): number =>
    breaks > 1 && named.length === 1 ? at : named.indexOf(n);
  return sorted
    .map(({ text, break: n }, at) => ({ text, i: breakOf(n, at) }))
    .filter(({ i }) => i < breaks)
    .slice(0, MOST_POINTS)
    .flatMap(({ text, i }): PatchPoint[] => {
      if (text === '' || text === '0') return [];
      const point = pointIn(text);
      if (point && point.address + footprintOf(mode, i + 1) - 1 <= UNIVERSE_SLOTS)
        return [{ ...point, ...(i > 0 ? { break: i + 1 } : {}) }];
      odd.add(
        where,
        point
          ? `at ${text} it would end past 512; it is off the rig`
          : `“${text}” is no address; it is off the rig`,
      );
      return [];
    });
}

const clampM = (v: number, low = -FARTHEST_M, high = FARTHEST_M): number =>
  Math.round(clamp(v, low, high) * 1000) / 1000;
function positionOf(at: Vector, where: string, odd: Oddities): Vector {
  const position = { x: clampM(at.x), y: clampM(at.y), z: clampM(at.z, -100, 200) };
  if (Math.hypot(position.x - at.x, position.y - at.y, position.z - at.z) > 0.01)
    odd.add(where, 'lies further away than any stage is large; it was drawn nearer');
  return position;
}

interface Coming extends ImportContext {
  plan: Plan;
  types: Types;
  odd: Oddities;
  numbers: Set<number>;
  slots: Slots;
}

function numberOf(unit: PlanFixture, c: Coming, where: string): number {
  const [wanted] = [unit.number, unit.numeric]
    .map(Number)
    .filter((n) => Number.isInteger(n) && n >= 1 && n <= LIMITS.fixtureNumber);
  const number = takeNumber(c.numbers, wanted ?? 1);
  if (wanted === undefined && unit.number !== '')
    c.odd.add(where, `“${unit.number}” is no fixture number; it is ${number}`);
  else if (wanted !== undefined && wanted !== number)
    c.odd.add(where, `${wanted} is taken; it is ${number}`);
  return number;
}

/** A unit of the plan as a row, over what it is in the show already. */
function rowOf(unit: PlanFixture, old: FixtureRow | undefined, c: Coming): FixtureRow | undefined {
  const type = old ? c.show.types.get(old.typeId) : c.types.bySpec.get(specOf(unit));
  const where = `unit ${unit.number || unit.name || unit.uuid.slice(0, 8)}`;
  if (!type) return undefined;
  const mode =
    (old && type.modes.find((m) => m.name === old.mode)) ??
    modeIn(type, unit.mode) ??
    type.modes[0];
  if (!mode) return undefined;
  if (!old && !modeIn(type, unit.mode))
    c.odd.add(where, `its type has no mode “${unit.mode}”; it is in ${mode.name}`);
  const planned = c.types.bySpec.get(specOf(unit));
  if (old && planned && planned.id !== type.id)
    c.odd.add(
      where,
      `is a ${planned.maker} ${planned.name} in the plan and a ${type.maker} ${type.name} here: swap its type in the rig, so that its programming is converted`,
    );
  const number = old?.number ?? numberOf(unit, c, where);
  const wanted = patchOf(unit, mode, where, c.odd);
  const taken = c.slots.claim(wanted, mode, number);
  if (taken !== undefined) c.odd.add(where, `its address is taken by ${taken}; it is off the rig`);
  const patch = taken === undefined ? wanted : [];
  const hung = hungAs(unit.frame);
  if (hung.off_deg > 5) c.odd.add(where, 'is turned about its own beam as well, which is left out');
  const transforms = invertedBy(unit, old);
  const { wasAt, ...kept }: Partial<FixtureRow> = old ?? {};
  const place = placeOf(hung, type, old, positionOf(unit.frame.at, where, c.odd));
  return {
    noGrandMaster: type.shape === 'house',
    ...kept,
    id: old?.id ?? c.newId(),
    number,
    label: nameFor(unit.name) || old?.label || type.name,
    typeId: type.id,
    mode: mode.name,
    patch,
    ...(patch.length === 0
      ? given({ wasAt: old && old.patch.length > 0 ? old.patch : wasAt })
      : {}),
    ...place,
    hang: nameFor(c.plan.positions.get(unit.position) ?? ''),
    ...(transforms ? { transforms } : {}),
    plan: {
      uuid: unit.uuid,
      ...(unit.layer === '' ? {} : { layer: nameFor(unit.layer) }),
      ...(c.plan.classes.has(unit.class)
        ? { class: nameFor(c.plan.classes.get(unit.class) ?? '') }
        : {}),
      ...(/^0?$/.test(unit.unit) ? {} : { unit: unit.unit.slice(0, 40) }),
    },
  };
}

/** A plan says thousandths of a metre and tenths of a degree: what differs by less is as it was. */
const NEAR_M = 0.002;
const NEAR_DEG = 0.06;
type Placed = Pick<FixtureRow, 'position' | 'rotation' | 'lean'>;

/** Where a unit of the plan is and how it hangs; as it is in the show already, where the plan says the same. */
function placeOf(
  { rotation, lean }: Hung,
  type: TypeRow,
  old: FixtureRow | undefined,
  position: Vector,
): Placed {
  const planned: Placed = {
    position,
    rotation,
    ...(lean === 0 && type.shape === 'head' ? { lean: undefined } : { lean }),
  };
  if (!old) return planned;
  const { x, y, z } = old.position;
  const apart_m = Math.hypot(x - position.x, y - position.y, z - position.z);
  const was = hungAs(frameOf(old.position, old.rotation, leanOf(old, type)));
  const turned = Math.abs(((was.rotation - rotation + 540) % 360) - 180);
  const isAsItHung = turned < NEAR_DEG && Math.abs(was.lean - lean) < NEAR_DEG;
  return {
    ...planned,
    ...(apart_m < NEAR_M ? { position: old.position } : {}),
    ...(isAsItHung ? { rotation: old.rotation, lean: old.lean } : {}),
  };
}

function invertedBy(unit: PlanFixture, old: FixtureRow | undefined): FixtureRow['transforms'] {
  const all = { ...old?.transforms };
  for (const [attribute, inverts] of [
    ['Pan', unit.invertPan],
    ['Tilt', unit.invertTilt],
  ] as const)
    if (inverts) all[attribute] = { ...all[attribute], invert: true };
  return Object.keys(all).length > 0 ? all : undefined;
}

/** What differs between two rows of a unit, in a few words. */
function sayMoved(old: FixtureRow, next: FixtureRow): string {
  const moved = Math.hypot(
    old.position.x - next.position.x,
    old.position.y - next.position.y,
    old.position.z - next.position.z,
  );
  const before = formatPoints(old.patch) || 'off the rig';
  const after = formatPoints(next.patch) || 'off the rig';
  return [
    ...(moved >= 0.005 ? [`moved ${moved.toFixed(2)} m`] : []),
    ...(old.rotation !== next.rotation || old.lean !== next.lean ? ['turned'] : []),
    ...(before === after ? [] : [`${before} → ${after}`]),
    ...(old.label === next.label ? [] : [`“${old.label}” → “${next.label}”`]),
    ...(old.hang === next.hang ? [] : [`hangs on ${next.hang || 'nothing'}`]),
  ].join(', ');
}

interface Rows {
  items: Item[];
  changes: RowChange[];
}

/**
 * Units, no two known by one uuid: one that has none of its own is known by its number and name from now on, several alike
 * in their order.
 */
function toldApart(units: readonly PlanFixture[], odd: Oddities): PlanFixture[] {
  const seen = new Set<string>();
  const alike = new Map<string, number>();
  return units.map((unit) => {
    const hasOwn = isUuid(unit.uuid);
    const isTwice = hasOwn && seen.has(unit.uuid);
    seen.add(unit.uuid);
    if (hasOwn && !isTwice) return unit;
    odd.add(
      `unit ${unit.number || unit.name}`,
      `has ${isTwice ? 'the uuid of another unit' : 'no uuid'}; a later plan knows it by its number and its name`,
    );
    const named = `${unit.uuid} ${unit.number} ${unit.name}`;
    const nth = (alike.get(named) ?? 0) + 1;
    alike.set(named, nth);
    return { ...unit, uuid: uuidOf(nth > 1 ? `${named} ${nth}` : named) };
  });
}

function bringUnits(c: Coming, known: ReadonlyMap<string, FixtureRow>, rows: Rows): void {
  for (const unit of c.plan.fixtures) {
    const old = known.get(unit.uuid);
    const next = rowOf(unit, old, c);
    if (!next) continue;
    const name = `${next.number} ${next.label}`;
    if (!old) {
      rows.items.push({
        what: 'unit',
        name,
        does: 'new',
        says: formatPoints(next.patch) || 'off the rig',
      });
      rows.changes.push(insertRow('fixtures', next));
    } else if (!same(plainRow(old), plainRow(next))) {
      const says = sayMoved(old, next);
      const isOnlyNamed = same(plainRow(old), plainRow({ ...next, plan: old.plan }));
      rows.items.push(
        isOnlyNamed
          ? { what: 'unit', name, does: 'same', says: 'is known by this plan from now on' }
          : { what: 'unit', name, does: 'changed', says },
      );
      rows.changes.push(replaceRow('fixtures', old, next));
    }
  }
}
/** Without keys that say nothing. */
const plainRow = (row: FixtureRow): unknown => JSON.parse(JSON.stringify(row));

interface Holders {
  cues: Set<string>;
  groups: number;
}

/** What would have nothing of units any more, found in one walk over the values, of which there are hundreds of thousands. */
function holdersOf(show: Show, gone: ReadonlySet<string>): Map<string, Holders> {
  const held = new Map(
    [...gone].map((id): [string, Holders] => [id, { cues: new Set(), groups: 0 }]),
  );
  if (gone.size === 0) return held;
  for (const value of show.values.values()) held.get(value.fixtureId)?.cues.add(value.cueId);
  for (const group of show.groups.values())
    for (const id of new Set(group.fixtures)) {
      const of = held.get(id);
      if (of) of.groups++;
    }
  return held;
}

/** Units of an earlier plan that are not in this one: they leave the rig and keep their programming. */
function leave(c: Coming, gone: readonly FixtureRow[], rows: Rows): void {
  const holders = holdersOf(c.show, new Set(gone.map((f) => f.id)));
  for (const old of gone) {
    const { cues, groups } = holders.get(old.id) ?? { cues: new Set(), groups: 0 };
    const used = [
      ...(cues.size > 0 ? [plural(cues.size, 'cue')] : []),
      ...(groups > 0 ? [plural(groups, 'group')] : []),
    ].join(' and ');
    rows.items.push({
      what: 'unit',
      name: `${old.number} ${old.label}`,
      does: 'gone',
      says: `goes off the rig${used === '' ? '' : `; ${used} keep it`}`,
    });
    if (old.patch.length > 0)
      rows.changes.push(replaceRow('fixtures', old, { ...old, patch: [], wasAt: old.patch }));
  }
}

const sayPlan = (items: readonly Item[]): string => {
  const count = (does: Item['does']): number =>
    items.filter((i) => i.what === 'unit' && i.does === does).length;
  return `Took in a plan: ${plural(count('new'), 'new unit')}, ${count('changed')} changed, ${count('gone')} off the rig`;
};

/** What an MVR (DIN SPEC 15801) would bring: types, units with their places and addresses, the plan. */
export function importMvr(bytes: Uint8Array, c: ImportContext): Result<Proposed> {
  const zip = readZip(bytes, (name) => /\.(xml|gdtf)$/i.test(name), ZIP);
  if (isRefusal(zip)) return zip;
  // By themselves, so that heavy meshes take no room from what the plan is.
  const meshes = readZip(bytes, (name) => /\.(glb|3ds)$/i.test(name), ZIP);
  if (isRefusal(meshes)) return meshes;
  const description = entryOf(zip.files, SCENE);
  if (!description)
    return refuse('invalid', 'It has no GeneralSceneDescription.xml, so it is no plan.');
  const root = readXml(decodeXml(description));
  if (isRefusal(root)) return root;
  const odd = new Oddities();
  for (const name of [...zip.tooLarge, ...meshes.tooLarge])
    odd.add(`“${name}”`, 'is too large and was left out');
  const scene = readScene(root, odd);
  const plan = { ...scene, fixtures: toldApart(scene.fixtures, odd) };
  const { show } = c;
  const known = new Map([...show.fixtures.values()].map((f) => [uuidOfFixture(f), f]));
  const inPlan = new Set(plan.fixtures.map((f) => f.uuid));
  // By uuids of the plan itself: a number and a name that are alike do not make it the same plan.
  const isOurs = scene.fixtures.some((f) => known.has(f.uuid));
  // Units that never were of a plan are no part of it.
  const gone = isOurs
    ? [...show.fixtures.values()].filter((f) => f.plan && !inPlan.has(f.plan.uuid))
    : [];
  const types = typesOf(plan, zip.files, show, odd);
  const slots = new Slots();
  const goes = new Set(gone.map((f) => f.id));
  for (const f of show.fixtures.values()) {
    const mode = show.types.get(f.typeId)?.modes.find((m) => m.name === f.mode);
    if (mode && !goes.has(f.id) && !inPlan.has(uuidOfFixture(f)))
      slots.claim(f.patch, mode, f.number);
  }
  const numbers = new Set([...show.fixtures.values()].map((f) => f.number));
  const coming: Coming = { ...c, plan, types, odd, numbers, slots };
  const rows: Rows = { items: [], changes: [] };
  bringUnits(coming, known, rows);
  leave(coming, gone, rows);
  drawPlan({ show, plan, odd, newId: c.newId, meshIn: meshesIn(meshes.files) }, rows);
  const patches = rows.changes.flatMap((x) =>
    x.table === 'fixtures' && x.after ? [x.after.patch] : [],
  );
  const used = new Set(
    rows.changes.flatMap((x) =>
      x.table === 'fixtures' && x.after ? [x.after.typeId as string] : [],
    ),
  );
  const fresh = types.fresh.filter((t) => used.has(t.id));
  const items: Item[] = fresh.map((t) => ({
    what: 'type',
    name: `${t.maker} ${t.name}`,
    does: 'new',
    says: plural(t.modes.length, 'mode'),
  }));
  const changes = [
    ...fresh.map((t) => insertRow('types', t)),
    ...rows.changes,
    ...routesForUnrouted(show, patches).changes,
  ];
  if (plan.fixtures.length === 0 && plan.things.length === 0 && rows.items.length === 0)
    return refuse('invalid', 'There is no unit and no piece in this plan.');
  const all = [...items, ...rows.items];
  return {
    kind: 'mvr',
    items: all,
    problems: odd.all(),
    changes,
    summary: sayPlan(all),
    types: fresh.filter((t) => t.gdtf),
  };
}

/** Meshes of an archive, each read once and light enough for one thing, however many things show it. */
function meshesIn(files: ReadonlyMap<string, Uint8Array>): (file: string) => Triangles | undefined {
  const known = new Map<string, Triangles | undefined>();
  return (file) => {
    if (file === '') return undefined;
    if (!known.has(file)) {
      const bytes =
        entryOf(files, file) ?? entryOf(files, `${file}.glb`) ?? entryOf(files, `${file}.3ds`);
      const mesh = bytes && readMesh(bytes);
      known.set(file, mesh && mesh.faces.length > 0 ? lighter(mesh, MOST_FACES) : mesh);
    }
    return known.get(file);
  };
}
