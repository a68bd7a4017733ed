/**
 * The colour of a unit from its levels, and the levels that give a colour, whatever it mixes with: emitters (added),
 * filters (taken away from its lamp), a wheel (one of its slots). Chromaticities are CIE 1931 xy.
 */
import { clamp } from '../numbers.ts';
import { cellOf, isEmitter } from '../rig/attributes.ts';
import { levelOfSet, wheelSlotAt } from '../rig/channel.ts';
import type { Channel, Emitter, Mode, TypeRow } from '../types/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { chromaticityDeltaE } from './delta-e.ts';
import {
  chromaticity,
  fromLinearRGB,
  kelvin,
  mixXYZ,
  solveEmitters,
  toLinearRGB,
  toUv,
  toXYZ,
  type Chromaticity,
  type XYZ,
} from './mix.ts';

const DEFAULT_LAMP_K = 3200;
/** What a filter at full lets through of the primary that it takes away. */
const FILTER_LEAK = 0.03;
const FILTERS = ['ColorSub_C', 'ColorSub_M', 'ColorSub_Y'] as const;

/** One thing that has a colour: the whole unit, or one of its cells. */
export interface ColourPart {
  /** 0 for the whole unit. */
  cell: number;
  emitters: { attribute: string; emitter: Emitter }[];
  filters: string[];
  wheels: Channel[];
}

/** The parts of a unit that have a colour of their own; none when its light cannot change colour. */
export function colourParts(type: TypeRow, mode: Mode): ColourPart[] {
  const parts = new Map<number, ColourPart>();
  const part = (cell: number): ColourPart => {
    const known = parts.get(cell) ?? { cell, emitters: [], filters: [], wheels: [] };
    parts.set(cell, known);
    return known;
  };
  for (const channel of mode.channels) {
    const cell = cellOf(channel.attribute);
    const base =
      cell > 0 ? channel.attribute.slice(0, channel.attribute.indexOf('@')) : channel.attribute;
    const emitter = isEmitter(base) ? type.emitters[base] : undefined;
    if (emitter) part(cell).emitters.push({ attribute: channel.attribute, emitter });
    else if ((FILTERS as readonly string[]).includes(base))
      part(cell).filters.push(channel.attribute);
    else if (
      channel.functions?.some((f) =>
        type.wheels?.some((w) => w.name === f.wheel && w.slots.some((s) => s.color)),
      )
    )
      part(cell).wheels.push(channel);
  }
  return [...parts.values()].sort((a, b) => a.cell - b.cell);
}

/** The light of a type's own lamp, at luminance 1. */
export const lampXYZ = (type: TypeRow): XYZ =>
  toXYZ({ ...kelvin(type.lamp_K ?? DEFAULT_LAMP_K), Y: 1 });

/** What a filter at full lets through of red, green and blue: as it was measured, or all but the one that it takes away. */
function passesOf(type: Pick<TypeRow, 'filters'>, i: number): readonly number[] {
  const measured = type.filters?.[FILTERS[i] ?? ''];
  if (!measured) return [0, 1, 2].map((k) => (k === i ? FILTER_LEAK : 1));
  const white = toLinearRGB(toXYZ({ x: 0.3127, y: 0.329, Y: 1 }));
  return toLinearRGB(toXYZ(measured)).map((v, k) => clamp(v / (white[k] ?? 1)));
}

/** A lamp's light behind its filters. @param amounts cyan, magenta, yellow 0…1 */
export function filtered(
  lamp: XYZ,
  amounts: readonly [number, number, number],
  type: Pick<TypeRow, 'filters'> = {},
): XYZ {
  const light = amounts.reduce<readonly number[]>((behind, amount, i) => {
    const passes = passesOf(type, i);
    return behind.map((v, k) => v * (1 - amount * (1 - (passes[k] ?? 1))));
  }, toLinearRGB(lamp));
  return fromLinearRGB([light[0] ?? 0, light[1] ?? 0, light[2] ?? 0]);
}

const STEPS = [0.25, 0.1, 0.03, 0.01, 0.003, 0.001];
/** Of each step, at most. */
const ROUNDS = 12;

/** Amounts that come nearer to a colour, filter by filter and ever finer: measured ones take a little of every primary. */
function nearer(
  from: readonly [number, number, number],
  offAt: (amounts: readonly [number, number, number]) => number,
): [number, number, number] {
  let best: [number, number, number] = [...from];
  let off = offAt(best);
  const tryAll = (step: number): void => {
    for (const i of [0, 1, 2])
      for (const way of [-step, step]) {
        const tried: [number, number, number] = [...best];
        tried[i] = clamp((tried[i] ?? 0) + way);
        const there = offAt(tried);
        if (there < off - 1e-9) [best, off] = [tried, there];
      }
  };
  for (const step of STEPS)
    for (let round = 0; round < ROUNDS; round++) {
      const before = off;
      tryAll(step);
      if (off === before) break;
    }
  return best;
}

/** Light behind a wheel's filter, whose chromaticity is given for equal-energy white. */
function behindSlot(lamp: XYZ, color: Emitter): XYZ {
  const [X, Y, Z] = toXYZ(color);
  return [lamp[0] * (X / 0.9505), lamp[1] * Y, lamp[2] * (Z / 1.089)];
}

/** Light of a part at these levels, dimmer left out. */
export function colourOf(
  type: TypeRow,
  part: ColourPart,
  levelOf: (attribute: string) => number,
  fixture?: Pick<FixtureRow, 'wheels'>,
): XYZ {
  if (part.emitters.length > 0)
    return mixXYZ(
      part.emitters.map((e) => e.emitter),
      part.emitters.map((e) => levelOf(e.attribute)),
    );
  let light = lampXYZ(type);
  if (part.filters.length > 0) {
    const amount = (name: string): number => {
      const attribute = part.filters.find((f) => f.startsWith(name));
      return attribute ? levelOf(attribute) : 0;
    };
    light = filtered(light, [amount(FILTERS[0]), amount(FILTERS[1]), amount(FILTERS[2])], type);
  }
  for (const wheel of part.wheels) {
    const slot = wheelSlotAt(type, wheel, levelOf(wheel.attribute), fixture);
    if (slot?.is.color) light = behindSlot(light, slot.is.color);
  }
  return light;
}

/** What a unit is set to for a colour, and how near it comes. */
export interface ColourAnswer {
  levels: { attribute: string; level: number }[];
  /** How far off it is, as distance in CIE 1976 u'v'; 0.01 is about what an eye notices side by side. */
  off_uv: number;
  /** The same as a CIEDE2000 difference at one brightness. */
  deltaE: number;
}

const distance = (a: Chromaticity, b: Chromaticity): number => {
  const [u, v] = toUv(a);
  const [s, t] = toUv(b);
  return Math.hypot(u - s, v - t);
};

const SAME = { off_uv: 0, deltaE: 0 };
const differs = (at: Chromaticity, target: Chromaticity): { off_uv: number; deltaE: number } => ({
  off_uv: distance(at, target),
  deltaE: chromaticityDeltaE(at, target),
});

/** Levels that bring a part to a chromaticity, or as near as it can come. Ultraviolet is left to the programmer. */
export function colourLevels(
  type: TypeRow,
  part: ColourPart,
  target: Chromaticity,
  fixture?: Pick<FixtureRow, 'wheels'>,
): ColourAnswer {
  if (part.emitters.length > 0) {
    const seen = part.emitters.filter((e) => !e.attribute.startsWith('ColorAdd_UV'));
    const solution = solveEmitters(
      seen.map((e) => e.emitter),
      target,
    );
    const levels = part.emitters.map((e) => ({
      attribute: e.attribute,
      level: solution.weights[seen.indexOf(e)] ?? 0,
    }));
    return { levels, ...(solution.outside ? differs(solution.at, target) : SAME) };
  }
  if (part.filters.length === 3) return byFilters(type, part, target);
  const best = bySlot(type, part, target, fixture);
  return best ?? { levels: [], ...differs(chromaticity(lampXYZ(type)) ?? target, target) };
}

function byFilters(type: TypeRow, part: ColourPart, target: Chromaticity): ColourAnswer {
  const lamp = toLinearRGB(lampXYZ(type));
  const wanted = toLinearRGB(toXYZ({ ...target, Y: 1 })).map((v) => Math.max(0, v));
  // Brightest: the primary that needs most of the lamp is let through whole, the others in proportion.
  const shares = wanted.map((v, i) => v / Math.max(1e-6, lamp[i] ?? 1));
  const top = Math.max(...shares, 1e-9);
  const plain = shares.map((s) => clamp((1 - s / top) / (1 - FILTER_LEAK))) as [
    number,
    number,
    number,
  ];
  const behind = (amounts: readonly [number, number, number]): Chromaticity =>
    chromaticity(filtered(lampXYZ(type), amounts, type)) ?? target;
  const amounts = type.filters ? nearer(plain, (a) => distance(behind(a), target)) : plain;
  const at = behind(amounts);
  const levels = part.filters.map((attribute) => ({
    attribute,
    level: amounts[FILTERS.findIndex((f) => attribute.startsWith(f))] ?? 0,
  }));
  // Wheels in the same path stand open.
  for (const wheel of part.wheels) levels.push({ attribute: wheel.attribute, level: 0 });
  return { levels, ...differs(at, target) };
}

function bySlot(
  type: TypeRow,
  part: ColourPart,
  target: Chromaticity,
  fixture?: Pick<FixtureRow, 'wheels'>,
): ColourAnswer | undefined {
  let best: ColourAnswer | undefined;
  for (const channel of part.wheels) {
    for (const set of channel.functions?.flatMap((f) => f.sets ?? []) ?? []) {
      const level = levelOfSet(channel, set);
      const slot = wheelSlotAt(type, channel, level, fixture);
      const at = slot?.is.color
        ? chromaticity(behindSlot(lampXYZ(type), slot.is.color))
        : undefined;
      if (!at) continue;
      const off = differs(at, target);
      if (best && best.deltaE <= off.deltaE) continue;
      best = {
        ...off,
        levels: part.wheels.map((w) => ({
          attribute: w.attribute,
          level: w === channel ? level : 0,
        })),
      };
    }
  }
  return best;
}
