/**
 * Which units put light on a spot, with how much of it, and which could. Light is worked out as what falls on something
 * there that faces it: luminous flux over the cone of the beam, less towards its edge, by the square of the distance.
 */
import { clamp } from '../numbers.ts';
import { modeOf } from '../fixtures/points.ts';
import { colourOf, colourParts, type ColourPart } from '../color/unit-colour.ts';
import { isOpen } from '../rig/shutter.ts';
import { transformed } from '../rig/transform.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { StagePoint } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import type { Direction, Point } from './aim.ts';
import { beamEdge, beamFrom, beamWay, beamWidth } from './beam.ts';
import { aimUnit, degreesOf } from './unit.ts';

/** Level 0…1 of an attribute of a unit as it plays; undefined where nothing says. */
export type LevelOf = (fixtureId: string, attribute: string) => number | undefined;

/** What one unit puts on a place. */
export interface Gives {
  fixtureId: string;
  /** Of all the light there, 0…1. */
  share: number;
  /** On what faces it, about. */
  lux: number;
}
/** Who lights a place, and who could. */
export interface Lighting {
  /** Units that put light there, brightest first. */
  gives: Gives[];
  /** Dark units whose beams fall there already; then units that can be turned there; each the nearest first. */
  could: string[];
}

/** Lumens from a watt: of emitters, and of a lamp behind lenses. */
const EMITTER_LM_W = 45;
const LAMP_LM_W = 14;
/** Less of it than this nobody sees. */
const SEEN_LUX = 1;
/** Nearer than this, nobody stands. */
const NEAREST_M = 0.3;
const rad = (deg: number): number => (deg * Math.PI) / 180;

interface Optics {
  from: Point;
  way: Direction;
  /** From the axis to the edge, in degrees. */
  half_deg: number;
  /** Where it begins to fall off. */
  even_deg: number;
  /** At these levels, and with everything open at full. */
  lumens: number;
  full_lm: number;
}

/** Levels of one unit as they reach it, its own curves and limits in them. */
type Own = (attribute: string) => number | undefined;

const rangeOf = (mode: Mode, attribute: string): readonly [number, number] | undefined => {
  const channel = mode.channels.find((c) => c.attribute === attribute);
  return channel && [channel.physicalFrom, channel.physicalTo];
};

const suffix = (cell: number): string => (cell > 0 ? `@${cell}` : '');

/** Relative luminous flux of one face, dimmer left out: 1 with all emitters at full, or with nothing in the lamp's way. */
function faceFlux(type: TypeRow, part: ColourPart | undefined, own: Own, unit: FixtureRow): number {
  if (!part) return 1;
  const [, Y] = colourOf(type, part, (a) => own(a) ?? 0, unit);
  const most = part.emitters.reduce((sum, { emitter }) => sum + emitter.Y, 0);
  return part.emitters.length > 0 ? Y / Math.max(most, 1e-6) : Y;
}

/** A closed shutter lets nothing through; a strobe counts as light. */
function throughShutter(mode: Mode, own: Own): number {
  const shutter = mode.channels.find((c) => c.attribute === 'Shutter1');
  const level = own('Shutter1');
  if (!shutter?.functions || level === undefined) return 1;
  return isOpen(shutter, level) ? 1 : 0;
}

/** 0…1 of all that the unit has. */
function fluxOf(type: TypeRow, mode: Mode, own: Own, unit: FixtureRow): number {
  const parts = colourParts(type, mode);
  const cells = new Set(mode.channels.map((c) => Number(c.attribute.split('@')[1] ?? 0)));
  const faces = [...cells].filter((c) => c > 0);
  const whole = own('Dimmer') ?? (faces.some((c) => own(`Dimmer@${c}`) !== undefined) ? 1 : 0);
  const each = (faces.length > 0 ? faces : [0]).map((cell) => {
    const part = parts.find((p) => p.cell === cell) ?? parts.find((p) => p.cell === 0);
    const dimmer = cell > 0 ? (own(`Dimmer${suffix(cell)}`) ?? 1) : 1;
    return dimmer * faceFlux(type, part, own, unit);
  });
  const mean = each.reduce((a, b) => a + b, 0) / each.length;
  return whole * throughShutter(mode, own) * mean;
}

/** Undefined for what makes no light, or hangs nowhere. */
function opticsOf(show: Show, unit: FixtureRow, levelOf: LevelOf): Optics | undefined {
  const type = show.types.get(unit.typeId);
  const mode = modeOf(show, unit);
  if (!type || !mode || unit.patch.length === 0 || type.shape === 'hazer') return undefined;
  const own: Own = (attribute) => {
    const level = levelOf(unit.id, attribute);
    return level === undefined ? undefined : transformed(unit.transforms?.[attribute], level);
  };
  const raw = (a: string): number => levelOf(unit.id, a) ?? 0.5;
  const turn = degreesOf(unit, mode, { Pan: raw('Pan'), Tilt: raw('Tilt') });
  const zoom = rangeOf(mode, 'Zoom');
  const zoom_deg = zoom && zoom[0] + (zoom[1] - zoom[0]) * (own('Zoom') ?? 0.5);
  // What a unit has not takes nothing of its beam, whatever is said of it.
  const has = (attribute: string): number | undefined => rangeOf(mode, attribute) && own(attribute);
  const half_deg = beamWidth(type, zoom_deg, has('Iris')) / 2;
  const focus = rangeOf(mode, 'Focus1') ? (own('Focus1') ?? 0.5) : undefined;
  const hasEmitters = Object.keys(type.emitters).length > 0;
  const full_lm = type.lumens ?? type.watts * (hasEmitters ? EMITTER_LM_W : LAMP_LM_W);
  return {
    from: beamFrom(unit, type, turn !== undefined),
    way: beamWay(unit, type.shape, turn),
    half_deg,
    even_deg: half_deg * (1 - beamEdge(type.shape, has('Frost1') ?? 0, focus)),
    lumens: full_lm * fluxOf(type, mode, own, unit),
    full_lm,
  };
}

/** Candela of a beam towards its axis: flux over the cone's solid angle. */
const candela = (lumens: number, half_deg: number): number =>
  lumens / (2 * Math.PI * (1 - Math.cos(rad(Math.max(1, half_deg)))));

/** 1 in the even part of a beam, 0 from its edge on. */
function falloff({ half_deg, even_deg }: Optics, off_deg: number): number {
  if (off_deg <= even_deg) return 1;
  if (off_deg >= half_deg) return 0;
  return (1 + Math.cos((Math.PI * (off_deg - even_deg)) / (half_deg - even_deg))) / 2;
}

/** Lux at a point, at these levels and at full; both 0 outside of the beam. */
function at(optics: Optics, p: StagePoint): { lux: number; full: number } {
  const { x, y, z } = optics.from;
  const [dx, dy, dz] = [p.x - x, p.y - y, p.z - z];
  const far = Math.max(NEAREST_M, Math.hypot(dx, dy, dz));
  const [wx, wy, wz] = optics.way;
  const cosine = clamp((dx * wx + dy * wy + dz * wz) / far, -1);
  const share = falloff(optics, (Math.acos(cosine) * 180) / Math.PI) / (far * far);
  return {
    lux: candela(optics.lumens, optics.half_deg) * share,
    full: candela(optics.full_lm, optics.half_deg) * share,
  };
}

/** Whether a unit can be turned towards all of some points, or their middle. */
function canTurn(show: Show, unit: FixtureRow, middle: StagePoint): boolean {
  const mode = modeOf(show, unit);
  const type = show.types.get(unit.typeId);
  return mode && type ? aimUnit({ fixture: unit, mode, type }, middle) !== undefined : false;
}

const middleOf = (points: readonly StagePoint[]): StagePoint => {
  const sum = points.reduce((a, p) => ({ x: a.x + p.x, y: a.y + p.y, z: a.z + p.z }), {
    x: 0,
    y: 0,
    z: 0,
  });
  const n = Math.max(1, points.length);
  return { x: sum.x / n, y: sum.y / n, z: sum.z / n };
};

/**
 * @param points one spot, or places all over an area, whose mean counts
 * @returns units by how much they give; nobody where there are no points
 */
export function lightsOn(show: Show, points: readonly StagePoint[], levelOf: LevelOf): Lighting {
  if (points.length === 0) return { gives: [], could: [] };
  const middle = middleOf(points);
  const gives: Gives[] = [];
  const dark: { id: string; far: number }[] = [];
  const turns: { id: string; far: number }[] = [];
  for (const unit of show.fixtures.values()) {
    const optics = opticsOf(show, unit, levelOf);
    if (!optics) continue;
    const here = points.map((p) => at(optics, p));
    const lux = here.reduce((sum, h) => sum + h.lux, 0) / points.length;
    const { x, y, z } = unit.position;
    const far = Math.hypot(middle.x - x, middle.y - y, middle.z - z);
    if (lux >= SEEN_LUX) gives.push({ fixtureId: unit.id, share: 0, lux });
    else if (here.some((h) => h.full >= SEEN_LUX)) dark.push({ id: unit.id, far });
    else if (canTurn(show, unit, middle)) turns.push({ id: unit.id, far });
  }
  const all = gives.reduce((sum, g) => sum + g.lux, 0);
  const number = (id: string): number => show.fixtures.get(id)?.number ?? 0;
  const byDistance = (a: { id: string; far: number }, b: { id: string; far: number }): number =>
    a.far - b.far || number(a.id) - number(b.id);
  return {
    gives: gives
      .map((g) => ({ ...g, share: g.lux / all }))
      .sort((a, b) => b.lux - a.lux || number(a.fixtureId) - number(b.fixtureId)),
    could: [...dark.sort(byDistance), ...turns.sort(byDistance)].map((u) => u.id),
  };
}
