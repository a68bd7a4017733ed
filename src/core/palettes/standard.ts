/** Palettes that a show can start with: said for any unit, so they reach what is patched later too. Names of our own. */
import { numberAfter } from '../show/numbered.ts';
import { hueSaturation, kelvin, type Chromaticity } from '../color/mix.ts';
import { hasVirtualDimmer, isEmitter } from '../rig/attributes.ts';
import type { Mode } from '../types/rows.ts';
import type { PaletteFamily, PaletteRow } from './rows.ts';
import type { Show } from '../show/show.ts';

const STANDARD_COLOURS: readonly (readonly [string, Chromaticity])[] = [
  ['Lantern', kelvin(2700)],
  ['Ember', hueSaturation(22, 0.72)],
  ['Port red', hueSaturation(4, 0.85)],
  ['Rose', hueSaturation(345, 0.45)],
  ['Dusk', hueSaturation(262, 0.42)],
  ['Night water', hueSaturation(212, 0.72)],
  ['Kelp', hueSaturation(172, 0.6)],
  ['Lichen', hueSaturation(95, 0.45)],
  ['Moon steel', kelvin(8500)],
];
/** Filters to pick from, by names of our own: the standard colours first, then more of each kind. Chromaticities, for any unit. */
export const SWATCHES: readonly (readonly [string, Chromaticity])[] = [
  ...STANDARD_COLOURS,
  ['Candle', kelvin(2100)],
  ['Tungsten', kelvin(3200)],
  ['Sail white', kelvin(4300)],
  ['Daylight', kelvin(5600)],
  ['Peach', hueSaturation(24, 0.35)],
  ['Signal amber', hueSaturation(38, 0.9)],
  ['Straw', hueSaturation(50, 0.45)],
  ['Moss', hueSaturation(128, 0.7)],
  ['Shoal', hueSaturation(190, 0.35)],
  ['Slate', hueSaturation(205, 0.3)],
  ['Fjord', hueSaturation(218, 0.55)],
  ['Deep water', hueSaturation(232, 0.92)],
  ['Heather', hueSaturation(280, 0.55)],
  ['Bramble', hueSaturation(318, 0.75)],
  ['Shell', hueSaturation(340, 0.22)],
  ['Brick', hueSaturation(12, 0.62)],
  ['Blood', hueSaturation(0, 0.96)],
  ['Ultramarine', hueSaturation(248, 0.95)],
];
/** Metres on the stage floor; a face is about 1.6 m up. */
const STANDARD_POINTS: readonly (readonly [string, { x: number; y: number; z: number }])[] = [
  ['Down centre', { x: 0, y: 1, z: 1.6 }],
  ['Centre', { x: 0, y: 3.4, z: 1.6 }],
  ['Up centre', { x: 0, y: 6, z: 1.6 }],
  ['Stage left', { x: 3.5, y: 3.4, z: 1.6 }],
  ['Stage right', { x: -3.5, y: 3.4, z: 1.6 }],
];
const STANDARD_LEVELS: readonly (readonly [string, number])[] = [
  ['Full', 1],
  ['Half', 0.5],
];

const round = ({ x, y }: Chromaticity): Chromaticity => ({
  x: Math.round(x * 1e5) / 1e5,
  y: Math.round(y * 1e5) / 1e5,
});

/** Those that units of this mode can do and the show has none of the name of, numbered after its last. */
export function standardPalettes(show: Show, mode: Mode, newId: () => string): PaletteRow[] {
  const has = (test: (attribute: string) => boolean): boolean =>
    mode.channels.some((c) => test(c.attribute));
  const wanted: [PaletteFamily, string, NonNullable<PaletteRow['any']>][] = [];
  if (has((a) => a === 'Dimmer') || hasVirtualDimmer(mode))
    for (const [name, level] of STANDARD_LEVELS) wanted.push(['intensity', name, { level }]);
  if (has((a) => isEmitter(a) || a.startsWith('ColorSub_') || a === 'Color1'))
    for (const [name, colour] of STANDARD_COLOURS)
      wanted.push(['colour', name, { colour: round(colour) }]);
  if (has((a) => a === 'Pan') && has((a) => a === 'Tilt'))
    for (const [name, point] of STANDARD_POINTS) wanted.push(['position', name, { point }]);
  const known = new Set(
    [...show.palettes.values()].map((p) => `${p.family}/${p.name.toLowerCase()}`),
  );
  let number = numberAfter(show.palettes.values());
  return wanted
    .filter(([family, name]) => !known.has(`${family}/${name.toLowerCase()}`))
    .map(([family, name, any]) => ({
      id: newId(),
      number: number++,
      family,
      name,
      fixtures: {},
      types: {},
      any,
    }));
}
