/** What a level of a channel means: its raw value, its function, its physical value, the wheel slot that it brings in. */
import { clamp } from '../numbers.ts';
import type { Channel, ChannelFunction, ChannelSet, TypeRow, WheelSlot } from '../types/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { attributeInfo, baseOf } from './attributes.ts';

/** Highest raw value of a channel: 255, 65535 or 16777215. */
export const topOf = (channel: Pick<Channel, 'offset'>): number => 256 ** channel.offset.length - 1;

/** Raw values that level 0 and level 1 stand for: from the first function's start to the last one's end. */
export function rawRange(channel: Channel): { from: number; to: number } {
  const functions = channel.functions ?? [];
  if (functions.length === 0) return { from: 0, to: topOf(channel) };
  return {
    from: Math.min(...functions.map((f) => f.from)),
    to: Math.max(...functions.map((f) => f.to)),
  };
}

/** A level, 0 to 1, as the whole number that goes into a channel's bytes. */
export function rawOf(channel: Channel, level: number): number {
  const { from, to } = rawRange(channel);
  return Math.round(from + (to - from) * level);
}

/** The level whose raw value this is. */
export function levelOfRaw(channel: Channel, raw: number): number {
  const { from, to } = rawRange(channel);
  return to === from ? 0 : clamp((raw - from) / (to - from));
}

/** Levels of other channels of the same unit, by their attributes; undefined where nothing says. */
export type Others = (attribute: string) => number | undefined;

/** Nearer than this a level is on the edge of a range. */
const NEAR = 1e-6;

/** Whether a function counts as the other channels stand (GDTF 1.2 ModeMaster); where nothing says how, those with a condition do not. */
export function counts({ when }: ChannelFunction, others?: Others): boolean {
  if (!when) return true;
  const level = others?.(when.attribute);
  return level !== undefined && level >= when.from - NEAR && level <= when.to + NEAR;
}

/** The function at a raw value: one whose condition holds before one without, before one whose condition does not. */
export function functionAt(
  functions: readonly ChannelFunction[],
  raw: number,
  others?: Others,
): ChannelFunction | undefined {
  const here = functions.filter((f) => raw >= f.from && raw <= f.to);
  return here.length < 2
    ? here[0]
    : (here.find((f) => f.when && counts(f, others)) ?? here.find((f) => !f.when) ?? here[0]);
}

/** `only while Unit control is at 10 to 20 %`: why a function does not count. */
export const sayWhen = ({ attribute, from, to }: NonNullable<ChannelFunction['when']>): string =>
  `only while ${attributeInfo(attribute).label} is at ${Math.round(from * 100)} to ${Math.round(to * 100)} %`;

/** What a raw value does. */
export interface Meaning {
  raw: number;
  function: ChannelFunction | undefined;
  set: ChannelSet | undefined;
  physical: number;
}

/**
 * Which function and set a level stands in, and what it comes to in the unit's own measure. @param others levels of
 * the same unit, where one channel changes what another means
 */
export function meaningOf(channel: Channel, level: number, others?: Others): Meaning {
  const raw = rawOf(channel, level);
  const found = functionAt(channel.functions ?? [], raw, others);
  if (!found)
    return {
      raw,
      function: undefined,
      set: undefined,
      physical: channel.physicalFrom + (channel.physicalTo - channel.physicalFrom) * level,
    };
  const share = found.to === found.from ? 0 : (raw - found.from) / (found.to - found.from);
  return {
    raw,
    function: found,
    set: found.sets?.find((s) => raw >= s.from && raw <= s.to),
    physical: found.physicalFrom + (found.physicalTo - found.physicalFrom) * share,
  };
}

/** The wheel slot that a level brings in, with what this fixture says of its own about it. */
export function wheelSlotAt(
  type: TypeRow,
  channel: Channel,
  level: number,
  fixture?: Pick<FixtureRow, 'wheels'>,
  others?: Others,
): { wheel: string; slot: number; is: WheelSlot } | undefined {
  const { function: found, set } = meaningOf(channel, level, others);
  const wheel = type.wheels?.find((w) => w.name === found?.wheel);
  const number = set?.slot;
  if (!wheel || number === undefined) return undefined;
  const is = fixture?.wheels?.[wheel.name]?.[String(number)] ?? wheel.slots[number - 1];
  return is ? { wheel: wheel.name, slot: number, is } : undefined;
}

/** The level in the middle of a named range. */
export const levelOfSet = (channel: Channel, set: Pick<ChannelSet, 'from' | 'to'>): number =>
  levelOfRaw(channel, Math.floor((set.from + set.to) / 2));

/**
 * The level whose physical value this is, held within what the unit can do. A channel with several functions takes the
 * one whose range has it: 12 Hz is within Strobe.
 */
export function levelOfPhysical(channel: Channel, physical: number, others?: Others): number {
  const real = (channel.functions ?? []).filter(
    (f) =>
      counts(f, others) &&
      f.physicalFrom !== f.physicalTo &&
      !(f.physicalFrom === 0 && f.physicalTo === 1),
  );
  const [only] = real;
  if ((channel.functions?.length ?? 0) > 1 && only) {
    const fit =
      real.find(
        (f) =>
          physical >= Math.min(f.physicalFrom, f.physicalTo) &&
          physical <= Math.max(f.physicalFrom, f.physicalTo),
      ) ?? only;
    const share = clamp((physical - fit.physicalFrom) / (fit.physicalTo - fit.physicalFrom));
    return levelOfRaw(channel, fit.from + (fit.to - fit.from) * share);
  }
  const span = channel.physicalTo - channel.physicalFrom;
  return span === 0 ? 0 : clamp((physical - channel.physicalFrom) / span);
}

/** A level in the words of the trade: `54 %`, `-32°`, `Shell`, `Strobe 12 Hz`. */
export function sayLevel(
  type: TypeRow | undefined,
  channel: Channel,
  level: number,
  fixture?: Pick<FixtureRow, 'wheels'>,
  others?: Others,
): string {
  const info = attributeInfo(baseOf(channel.attribute));
  const own = type ? wheelSlotAt(type, channel, level, fixture, others) : undefined;
  if (own) return own.is.name;
  const { function: found, set, physical } = meaningOf(channel, level, others);
  if (set) return set.name;
  const functions = channel.functions ?? [];
  if (functions.length > 1 && found) {
    const plain =
      found.physicalFrom === found.physicalTo ||
      (found.physicalFrom === 0 && found.physicalTo === 1);
    return plain ? found.name : `${found.name} ${round(physical)}`;
  }
  if (info.unit === '%' || info.unit === 'slot') return `${Math.round(level * 100)} %`;
  return `${round(physical)}${info.unit === '°' ? '°' : ` ${info.unit}`}`;
}
const round = (v: number): string =>
  (Math.abs(v) >= 100 ? v.toFixed(0) : v.toFixed(1).replace(/\.0$/, '')).replace(/^-0$/, '0');
