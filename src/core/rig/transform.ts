/**
 * What lies between a level and the wire: level -> invert -> limits -> offset -> curve (docs/playback.md). The player
 * applies it before the channel's range; the plan and the tables apply it to show what the unit really does.
 */
import { clamp } from '../numbers.ts';
import type { FixtureRow, Transform } from '../fixtures/rows.ts';

/** A dimmer curve, 0…1 to 0…1. A table is joined by straight lines. */
export function curveAt(curve: Transform['curve'], level: number): number {
  if (curve === undefined) return level;
  if (curve === 'square') return level * level;
  if (curve === 's') return level * level * (3 - 2 * level);
  const place = level * (curve.length - 1);
  const i = Math.min(curve.length - 2, Math.floor(place));
  const a = curve[i] ?? 0;
  return a + ((curve[i + 1] ?? a) - a) * (place - i);
}

/** @param level 0…1 @returns 0…1 */
export function transformed(t: Transform | undefined, level: number): number {
  if (!t) return level;
  const min = t.min ?? 0;
  let v = t.invert ? 1 - level : level;
  v = min + ((t.max ?? 1) - min) * v;
  return curveAt(t.curve, clamp(v + (t.offset ?? 0)));
}

/**
 * The level that comes out as `wanted` between the limits; undefined when they do not let it through. Invert, offset and
 * swap are left alone: they make a unit that hangs otherwise do what an upright one would, so an aim is not to undo them.
 */
export function withinLimits(t: Transform | undefined, wanted: number): number | undefined {
  const min = t?.min ?? 0;
  const max = t?.max ?? 1;
  const slack = 1e-9;
  if (wanted < Math.min(min, max) - slack || wanted > Math.max(min, max) + slack) return undefined;
  return max === min ? 0 : clamp((wanted - min) / (max - min));
}

const SWAPPED: Readonly<Record<string, string>> = { Pan: 'Tilt', Tilt: 'Pan' };

/** Which attribute's transform and value a channel's attribute takes, with pan and tilt swapped or not. */
export const sourceAttribute = (
  fixture: Pick<FixtureRow, 'swapPanTilt'>,
  attribute: string,
): string => (fixture.swapPanTilt ? (SWAPPED[attribute] ?? attribute) : attribute);

/** Whether a transform leaves every level as it is. */
export const isPlain = (t: Transform | undefined): boolean =>
  !t ||
  (!t.invert &&
    (t.min ?? 0) === 0 &&
    (t.max ?? 1) === 1 &&
    (t.offset ?? 0) === 0 &&
    t.curve === undefined);

/** Samples of a transform, evenly from 0 to 1, for reading on a clock's thread. */
export const TABLE_SIZE = 1025;
/** A transform as a table, from 0 to 1, for reading on the clock's thread. */
export const tableOf = (t: Transform): Float32Array =>
  Float32Array.from({ length: TABLE_SIZE }, (_, i) => transformed(t, i / (TABLE_SIZE - 1)));

/** In a word or two, for the table of fixtures. */
export function sayCurve(t: Transform | undefined): string {
  if (!t?.curve) return 'Linear';
  if (t.curve === 'square') return 'Square law';
  return t.curve === 's' ? 'S' : 'Own table';
}
