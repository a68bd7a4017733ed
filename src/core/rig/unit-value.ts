/** Values in the unit that people use for an attribute (percent, degrees, kelvin, hertz), as levels of one unit's channel. */
import { clamp } from '../numbers.ts';
import type { Channel } from '../types/rows.ts';
import { attributeInfo, baseOf } from './attributes.ts';
import { levelOfPhysical, meaningOf } from './channel.ts';
import { openLevel, strobeLevel, strobeOf } from './shutter.ts';

const inPercent = (attribute: string): boolean =>
  ['%', 'slot'].includes(attributeInfo(baseOf(attribute)).unit);

/** @param channel absent for a virtual intensity */
export function levelInUnit(
  attribute: string,
  channel: Channel | undefined,
  value: number,
): number {
  if (!channel || inPercent(attribute)) return clamp(value / 100);
  return levelOfPhysical(channel, value);
}

/** A difference in the unit as a difference of levels. */
export function stepInUnit(attribute: string, channel: Channel | undefined, value: number): number {
  if (!channel || inPercent(attribute)) return value / 100;
  const span = channel.physicalTo - channel.physicalFrom;
  return span === 0 ? 0 : value / span;
}

/** A level in the unit. */
export function unitOfLevel(
  attribute: string,
  channel: Channel | undefined,
  level: number,
): number {
  if (!channel || inPercent(attribute)) return level * 100;
  return meaningOf(channel, level).physical;
}

/** `Shutter1` of units that strobe with their shutter, where the strobe in hertz is asked for; 0 Hz opens it. */
export function strobeChannel(
  channels: readonly Channel[],
  hz: number,
): { attribute: string; level: number } | undefined {
  const own = channels.find((c) => c.attribute === 'Shutter1Strobe');
  if (own) return { attribute: own.attribute, level: levelOfPhysical(own, hz) };
  const shutter = channels.find((c) => c.attribute === 'Shutter1' && strobeOf(c));
  if (!shutter) return undefined;
  const level = (hz <= 0 ? openLevel(shutter) : undefined) ?? strobeLevel(shutter, hz);
  return level === undefined ? undefined : { attribute: shutter.attribute, level };
}
