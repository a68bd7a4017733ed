/** Aldersund: LED pars, profiles, battens, cyclorama lights and a hazer. A made-up maker. */
import type { TypeRow } from '../../types/rows.ts';
import { cellGrid, cellWords, makeType, mode } from '../make-type.ts';

const RGB = ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B'];
const RGBW = [...RGB, 'ColorAdd_W'];
const FIVE = ['ColorAdd_R', 'ColorAdd_RY', 'ColorAdd_GY', 'ColorAdd_C', 'ColorAdd_B'];
const SIX = [...RGB, 'ColorAdd_RY', 'ColorAdd_W', 'ColorAdd_UV'];
const wide = (words: readonly string[]): string[] => words.map((w) => `${w}:16`);
const make = (
  id: string,
  name: string,
  shape: TypeRow['shape'],
  [watts, weight_kg]: readonly [number, number],
  modes: TypeRow['modes'],
  more: Partial<TypeRow> = {},
): TypeRow =>
  makeType({
    id: `aldersund-${id}`,
    maker: 'Aldersund',
    name,
    shape,
    watts,
    weight_kg,
    idle_W: Math.round(watts * 0.07),
    modes,
    ...more,
  });

const BLADES = [
  'Blade1A',
  'Blade1Rot',
  'Blade2A',
  'Blade2Rot',
  'Blade3A',
  'Blade3Rot',
  'Blade4A',
  'Blade4Rot',
  'ShaperRot',
];

/** All types of Aldersund. */
export const ALDERSUND: readonly TypeRow[] = [
  make(
    'tern',
    'Tern par',
    'wash',
    [140, 3.2],
    [mode('RGBW', RGBW), mode('Dimmer RGBW', ['Dimmer', ...RGBW]), mode('RGBW 16 bit', wide(RGBW))],
  ),
  make(
    'tern-six',
    'Tern six',
    'wash',
    [180, 3.6],
    [mode('Six', SIX), mode('Dimmer six', ['Dimmer', ...SIX, 'Shutter1'])],
  ),
  make(
    'plover',
    'Plover mini par',
    'wash',
    [45, 1.4],
    [mode('RGB', RGB), mode('Dimmer RGB', ['Dimmer', ...RGB])],
  ),
  make(
    'eider',
    'Eider wash',
    'wash',
    [320, 8],
    [
      mode('Basic', ['Dimmer', ...RGBW]),
      mode('Wide', ['Dimmer:16', ...wide(RGBW), 'Shutter1', 'CTO']),
      mode('Zoom', ['Dimmer:16', ...wide(RGBW), 'Shutter1', 'CTO', 'Zoom']),
    ],
  ),
  make(
    'batten',
    'Batten 12',
    'strip',
    [320, 7.5],
    [
      mode('RGB', RGB),
      mode('4 cells', cellWords(4, RGB), cellGrid(4)),
      mode('12 cells', ['Dimmer', ...cellWords(12, RGB)], cellGrid(12)),
    ],
  ),
  make(
    'batten-6',
    'Batten 6',
    'strip',
    [160, 4],
    [mode('RGBW', RGBW), mode('6 cells', cellWords(6, RGBW), cellGrid(6))],
  ),
  make(
    'horizon',
    'Horizon cyc',
    'strip',
    [480, 12],
    [
      mode('Five', ['Dimmer:16', ...FIVE]),
      mode('2 cells', ['Dimmer:16', ...cellWords(2, FIVE)], cellGrid(2)),
    ],
  ),
  make(
    'skerry',
    'Skerry profile',
    'profile',
    [260, 9.8],
    [
      mode('Direct', ['Dimmer:16', ...FIVE]),
      mode('Direct 16 bit', ['Dimmer:16', ...wide(FIVE), 'Shutter1']),
      mode('Shutters', ['Dimmer:16', ...wide(FIVE), 'Shutter1', ...BLADES, 'Focus1', 'Zoom']),
    ],
  ),
  make(
    'fairway',
    'Fairway white profile',
    'profile',
    [240, 9.2],
    [
      mode('Warm cool', ['Dimmer:16', 'ColorAdd_WW', 'ColorAdd_CW']),
      mode('8 bit', ['Dimmer', 'ColorAdd_WW', 'ColorAdd_CW', 'Shutter1']),
    ],
  ),
  make(
    'lightship',
    'Lightship fresnel',
    'wash',
    [220, 7],
    [mode('White', ['Dimmer:16']), mode('White with zoom', ['Dimmer:16', 'Zoom'])],
    { lamp_K: 3200 },
  ),
  make(
    'shoal',
    'Shoal blinder',
    'wash',
    [400, 9],
    [
      mode('As one', ['Dimmer', 'ColorAdd_WW', 'ColorAdd_RY']),
      mode('4 cells', cellWords(4, ['Dimmer']), cellGrid(2, 2)),
    ],
    { lamp_K: 3000 },
  ),
  make('fret', 'Fret hazer', 'hazer', [1100, 15], [mode('Fan', ['Fog1', 'Fan1'])], { idle_W: 700 }),
];
