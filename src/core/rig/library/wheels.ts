/** Wheels of the shipped types: filters and patterns of our own. Chromaticities are of the filter in white light, Y its transmission. */
import type { WheelSlot } from '../../types/rows.ts';
import { wheel } from '../make-type.ts';

const filter = (name: string, x: number, y: number, Y: number): WheelSlot => ({
  name,
  color: { x, y, Y },
});
const pattern = (name: string, drawing: string): WheelSlot => ({
  name,
  picture: `pattern:${drawing}`,
});

const OPEN = filter('Open', 0.3127, 0.329, 1);

/** A wheel of saturated filters. */
export const SEVEN_COLOURS = wheel('Color1', [
  OPEN,
  filter('Brick', 0.62, 0.345, 0.16),
  filter('Hull orange', 0.545, 0.405, 0.42),
  filter('Straw', 0.43, 0.47, 0.78),
  filter('Kelp', 0.26, 0.52, 0.3),
  filter('Sound blue', 0.185, 0.205, 0.14),
  filter('Violet hour', 0.255, 0.165, 0.09),
  filter('Shell pink', 0.39, 0.315, 0.5),
]);
/** A small wheel of filters. */
export const FOUR_COLOURS = wheel('Color1', [
  OPEN,
  filter('Ember', 0.56, 0.39, 0.3),
  filter('Lagoon', 0.21, 0.33, 0.35),
  filter('Ink', 0.17, 0.1, 0.05),
  filter('Candle', 0.44, 0.405, 0.8),
]);
/** A second wheel, of corrections. */
export const CORRECTIONS = wheel('Color2', [
  OPEN,
  filter('Half warm', 0.38, 0.377, 0.82),
  filter('Warm', 0.44, 0.405, 0.68),
  filter('Cool', 0.285, 0.296, 0.8),
  filter('Minus green', 0.33, 0.31, 0.75),
]);
/** A wheel whose patterns stand. */
export const STILL_PATTERNS = wheel('Gobo1', [
  pattern('Open', 'open'),
  pattern('Portholes', 'portholes'),
  pattern('Rigging', 'rigging'),
  pattern('Leaves', 'leaves'),
  pattern('Window', 'window'),
  pattern('Waves', 'waves'),
]);
/** A wheel whose patterns turn. */
export const TURNING_PATTERNS = wheel('Gobo2', [
  pattern('Open', 'open'),
  pattern('Ripple', 'waves'),
  pattern('Dots', 'dots'),
  pattern('Shards', 'shards'),
  pattern('Stars', 'stars'),
  pattern('Bars', 'bars'),
]);
/** A string of filters that winds past the lamp. */
export const SCROLL = wheel('Color1', [
  OPEN,
  filter('Pale gold', 0.42, 0.4, 0.8),
  filter('Amber', 0.53, 0.42, 0.5),
  filter('Rose', 0.41, 0.3, 0.42),
  filter('Red', 0.66, 0.32, 0.12),
  filter('Steel', 0.28, 0.29, 0.6),
  filter('Blue', 0.18, 0.16, 0.1),
  filter('Green', 0.25, 0.58, 0.25),
]);
