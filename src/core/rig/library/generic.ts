/** Types without a maker: what most houses can start with before they know more. */
import type { TypeRow } from '../../show/rows.ts';
import { cellGrid, cellWords, makeType, mode } from '../make-type.ts';
import { SCROLL, SEVEN_COLOURS, STILL_PATTERNS, TURNING_PATTERNS } from './wheels.ts';

const RGB = ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B'];
const RGBW = [...RGB, 'ColorAdd_W'];
const RGBA = [...RGB, 'ColorAdd_RY'];
const SIX = [...RGB, 'ColorAdd_RY', 'ColorAdd_W', 'ColorAdd_UV'];
const wide = (words: readonly string[]): string[] => words.map((w) => `${w}:16`);

/** A par with and without intensity, in 8 and 16 bit. */
const par = (id: string, name: string, watts: number, colours: readonly string[], word: string): TypeRow =>
  makeType({
    id,
    maker: 'Generic',
    name,
    shape: 'wash',
    watts,
    weight_kg: 3.5,
    modes: [mode(word, colours), mode(`Dimmer ${word}`, ['Dimmer', ...colours]), mode(`Dimmer ${word} strobe`, ['Dimmer', ...colours, 'Shutter1']), mode(`${word} 16 bit`, wide(colours))],
  });

const MACROS = [
  { name: 'Lamp on', attribute: 'Control1', value: 130, hold_s: 3 },
  { name: 'Lamp off', attribute: 'Control1', value: 230, hold_s: 3 },
  { name: 'Reset', attribute: 'Control1', value: 200, hold_s: 5 },
];

export const GENERIC: readonly TypeRow[] = [
  makeType({ id: 'generic-dimmer', maker: 'Generic', name: 'Dimmer', shape: 'profile', lamp_K: 3000, watts: 750, modes: [mode('8 bit', ['Dimmer']), mode('16 bit', ['Dimmer:16'])] }),
  makeType({
    id: 'generic-relay-switch',
    maker: 'Generic',
    name: 'Relay',
    shape: 'house',
    lamp_K: 2700,
    watts: 1000,
    modes: [mode('1 channel', ['Dimmer'])],
    parts: { Dimmer: [{ name: 'Off', from: 0, to: 127, sets: [{ name: 'Off', from: 0, to: 127 }] }, { name: 'On', from: 128, to: 255, sets: [{ name: 'On', from: 128, to: 255 }] }] },
  }),
  par('generic-rgb', 'RGB par', 120, RGB, 'RGB'),
  par('generic-rgbw', 'RGBW par', 150, RGBW, 'RGBW'),
  par('generic-rgba', 'RGBA par', 150, RGBA, 'RGBA'),
  par('generic-six', 'RGBAW+UV par', 180, SIX, 'RGBAW+UV'),
  makeType({
    id: 'generic-tunable',
    maker: 'Generic',
    name: 'Tunable white',
    shape: 'wash',
    watts: 200,
    weight_kg: 5,
    modes: [mode('Warm cool', ['ColorAdd_WW', 'ColorAdd_CW']), mode('Dimmer warm cool', ['Dimmer', 'ColorAdd_WW', 'ColorAdd_CW']), mode('16 bit', ['Dimmer:16', 'ColorAdd_WW:16', 'ColorAdd_CW:16'])],
  }),
  makeType({
    id: 'generic-wash',
    maker: 'Generic',
    name: 'Moving wash',
    shape: 'head',
    watts: 400,
    idle_W: 45,
    weight_kg: 14,
    panSpeed_deg_s: 210,
    tiltSpeed_deg_s: 150,
    macros: MACROS,
    modes: [
      mode('16 bit', ['Pan:16', 'Tilt:16', 'Dimmer:16', 'Shutter1Strobe', 'ColorAdd_R:16', 'ColorAdd_G:16', 'ColorAdd_B:16', 'ColorAdd_W:16', 'Zoom:16']),
      mode('8 bit', ['Pan', 'Tilt', 'Dimmer', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W', 'Zoom']),
      mode('16 bit control', ['Pan:16', 'Tilt:16', 'Dimmer:16', 'Shutter1', ...wide(RGBW), 'CTO', 'Zoom:16', 'Control1']),
    ],
  }),
  makeType({
    id: 'generic-spot-cmy',
    maker: 'Generic',
    name: 'CMY spot',
    shape: 'head',
    lamp_K: 6500,
    watts: 700,
    idle_W: 280,
    weight_kg: 24,
    panSpeed_deg_s: 190,
    tiltSpeed_deg_s: 140,
    macros: MACROS,
    wheels: [SEVEN_COLOURS, STILL_PATTERNS, TURNING_PATTERNS],
    modes: [
      mode('Basic', ['Pan:16', 'Tilt:16', 'Dimmer', 'Shutter1', 'ColorSub_C', 'ColorSub_M', 'ColorSub_Y', 'Color1', 'Gobo1', 'Gobo2', 'Gobo2Pos', 'Focus1', 'Zoom', 'Control1']),
      mode('Full', ['Pan:16', 'Tilt:16', 'Dimmer:16', 'Shutter1', 'ColorSub_C:16', 'ColorSub_M:16', 'ColorSub_Y:16', 'CTO', 'Color1', 'Gobo1', 'Gobo1Pos:16', 'Gobo2', 'Gobo2Pos:16', 'Prism1', 'Frost1', 'Iris', 'Focus1:16', 'Zoom:16', 'Control1']),
    ],
  }),
  makeType({
    id: 'generic-profile-led',
    maker: 'Generic',
    name: 'LED profile, shutters',
    shape: 'profile',
    watts: 280,
    idle_W: 20,
    weight_kg: 11,
    modes: [
      mode('Five emitters', ['Dimmer:16', 'ColorAdd_R', 'ColorAdd_RY', 'ColorAdd_GY', 'ColorAdd_C', 'ColorAdd_B']),
      mode('With shutters', ['Dimmer:16', ...wide(['ColorAdd_R', 'ColorAdd_RY', 'ColorAdd_GY', 'ColorAdd_C', 'ColorAdd_B']), 'Shutter1', 'Blade1A', 'Blade1Rot', 'Blade2A', 'Blade2Rot', 'Blade3A', 'Blade3Rot', 'Blade4A', 'Blade4Rot', 'ShaperRot', 'Focus1', 'Zoom']),
    ],
  }),
  makeType({
    id: 'generic-strip',
    maker: 'Generic',
    name: 'LED strip',
    shape: 'strip',
    watts: 220,
    weight_kg: 6,
    modes: [
      mode('RGB as one', RGB),
      mode('4 cells RGB', cellWords(4, RGB), cellGrid(4)),
      mode('8 cells RGB', ['Dimmer', ...cellWords(8, RGB)], cellGrid(8)),
      mode('12 cells RGBW', ['Dimmer', ...cellWords(12, RGBW)], cellGrid(12)),
    ],
  }),
  makeType({
    id: 'generic-blinder',
    maker: 'Generic',
    name: 'Blinder 3x3',
    shape: 'wash',
    lamp_K: 2900,
    watts: 5850,
    weight_kg: 16,
    modes: [mode('As one', ['Dimmer']), mode('9 cells', cellWords(9, ['Dimmer']), cellGrid(3, 3)), mode('Master and 9 cells', ['Dimmer', ...cellWords(9, ['Dimmer'])], cellGrid(3, 3))],
  }),
  makeType({ id: 'generic-blinder-2', maker: 'Generic', name: 'Blinder 2', shape: 'wash', lamp_K: 2900, watts: 1300, weight_kg: 5, modes: [mode('As one', ['Dimmer']), mode('2 cells', cellWords(2, ['Dimmer']), cellGrid(2))] }),
  makeType({
    id: 'generic-mirror',
    maker: 'Generic',
    name: 'Moving mirror',
    shape: 'head',
    lamp_K: 5600,
    watts: 350,
    idle_W: 300,
    weight_kg: 13,
    panSpeed_deg_s: 400,
    tiltSpeed_deg_s: 220,
    macros: MACROS.slice(0, 2),
    wheels: [SEVEN_COLOURS, STILL_PATTERNS],
    ranges: { Pan: [-90, 90], Tilt: [-40, 40] },
    modes: [mode('8 bit', ['Shutter1', 'Color1', 'Gobo1', 'Dimmer', 'Pan', 'Tilt', 'Control1']), mode('16 bit', ['Shutter1', 'Color1', 'Gobo1', 'Dimmer', 'Pan:16', 'Tilt:16', 'Iris', 'Control1'])],
  }),
  makeType({ id: 'generic-scroller', maker: 'Generic', name: 'Profile with scroller', shape: 'profile', lamp_K: 3100, watts: 780, weight_kg: 9, wheels: [SCROLL], modes: [mode('Dimmer and scroller', ['Dimmer', '|', 'Color1', 'Fan1']), mode('Dimmer and 16 bit scroller', ['Dimmer', '|', 'Color1:16', 'Fan1'])] }),
  makeType({ id: 'generic-strobe', maker: 'Generic', name: 'Strobe', shape: 'wash', lamp_K: 5600, watts: 1500, weight_kg: 8, modes: [mode('2 channel', ['Dimmer', 'Shutter1Strobe'])] }),
  makeType({ id: 'generic-relay', maker: 'Generic', name: 'House light', shape: 'house', lamp_K: 2700, watts: 1200, modes: [mode('Dimmed', ['Dimmer'])] }),
  makeType({ id: 'generic-haze', maker: 'Generic', name: 'Hazer', shape: 'hazer', watts: 900, idle_W: 600, weight_kg: 12, modes: [mode('2 channel', ['Fog1', 'Fan1']), mode('1 channel', ['Fog1'])] }),
];
