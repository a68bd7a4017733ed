/** Quillon: moving heads and mirrors. A made-up maker. */
import type { TypeRow } from '../../show/rows.ts';
import { makeType, mode } from '../make-type.ts';
import { CORRECTIONS, FOUR_COLOURS, SEVEN_COLOURS, STILL_PATTERNS, TURNING_PATTERNS } from './wheels.ts';

const RGBW = ['ColorAdd_R:16', 'ColorAdd_G:16', 'ColorAdd_B:16', 'ColorAdd_W:16'];
const PLACE = ['Pan:16', 'Tilt:16'];
const BLADES = ['Blade1A', 'Blade1Rot', 'Blade2A', 'Blade2Rot', 'Blade3A', 'Blade3Rot', 'Blade4A', 'Blade4Rot', 'ShaperRot'];
const RESET = { name: 'Reset', attribute: 'Control1', value: 200, hold_s: 5 };
const FAN = { name: 'Quiet fans', attribute: 'Control1', value: 60, hold_s: 2 };
const LAMP = [
  { name: 'Lamp on', attribute: 'Control1', value: 130, hold_s: 3 },
  { name: 'Lamp off', attribute: 'Control1', value: 230, hold_s: 3 },
];

const head = (id: string, name: string, watts: number, weight_kg: number, more: Partial<TypeRow> & Pick<TypeRow, 'modes'>): TypeRow =>
  makeType({ id: `quillon-${id}`, maker: 'Quillon', name, shape: 'head', watts, idle_W: Math.round(watts * 0.1), weight_kg, panSpeed_deg_s: 200, tiltSpeed_deg_s: 150, macros: [RESET, FAN], ...more });

export const QUILLON: readonly TypeRow[] = [
  head('wash', 'Wash 19', 460, 15.5, {
    modes: [mode('Full', [...PLACE, 'Dimmer:16', 'Shutter1Strobe', ...RGBW, 'Zoom:16']), mode('Short', ['Pan', 'Tilt', 'Dimmer', 'Shutter1', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W', 'Zoom']), mode('Full with control', [...PLACE, 'Dimmer:16', 'Shutter1', ...RGBW, 'CTO', 'Zoom:16', 'Control1'])],
  }),
  head('wash-7', 'Wash 7', 180, 7.5, { panSpeed_deg_s: 280, modes: [mode('Short', ['Pan', 'Tilt', 'Dimmer', 'Shutter1', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W']), mode('Full', [...PLACE, 'Dimmer', 'Shutter1', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W', 'Zoom', 'Control1'])] }),
  head('lens', 'Lens 31', 520, 22, {
    lamp_K: 6500,
    wheels: [FOUR_COLOURS, STILL_PATTERNS, TURNING_PATTERNS],
    modes: [
      mode('Basic', [...PLACE, 'Dimmer:16', 'Shutter1Strobe', 'Iris', 'Focus1', 'Zoom']),
      mode('Wide', [...PLACE, 'Dimmer:16', 'Shutter1', 'ColorSub_C', 'ColorSub_M', 'ColorSub_Y', 'Color1', 'Gobo1', 'Gobo2', 'Gobo2Pos', 'Iris', 'Focus1', 'Zoom', 'Control1']),
      mode('Full', [...PLACE, 'Dimmer:16', 'Shutter1', 'ColorSub_C:16', 'ColorSub_M:16', 'ColorSub_Y:16', 'CTO', 'Color1', 'Gobo1', 'Gobo1Pos:16', 'Gobo2', 'Gobo2Pos:16', 'Prism1', 'Frost1', 'Iris', 'Focus1:16', 'Zoom:16', 'Control1']),
    ],
  }),
  head('lens-cut', 'Lens 31 cut', 540, 25, {
    lamp_K: 6500,
    wheels: [FOUR_COLOURS, STILL_PATTERNS],
    modes: [mode('Shutters', [...PLACE, 'Dimmer:16', 'Shutter1', 'ColorSub_C', 'ColorSub_M', 'ColorSub_Y', 'CTO', 'Color1', 'Gobo1', ...BLADES, 'Frost1', 'Iris', 'Focus1', 'Zoom:16', 'Control1']), mode('Shutters 16 bit', [...PLACE, 'Dimmer:16', 'Shutter1', 'ColorSub_C:16', 'ColorSub_M:16', 'ColorSub_Y:16', 'CTO:16', 'Color1', 'Gobo1', ...BLADES.map((b) => `${b}:16`), 'Frost1:16', 'Iris:16', 'Focus1:16', 'Zoom:16', 'Control1'])],
  }),
  head('spot-old', 'Sceptre 575', 750, 33, {
    lamp_K: 6000,
    idle_W: 700,
    panSpeed_deg_s: 140,
    tiltSpeed_deg_s: 110,
    macros: [...LAMP, RESET],
    wheels: [SEVEN_COLOURS, CORRECTIONS, STILL_PATTERNS, TURNING_PATTERNS],
    modes: [mode('16 channel', ['Pan', 'Tilt', 'Shutter1', 'Dimmer', 'Color1', 'Color2', 'Gobo1', 'Gobo2', 'Gobo2Pos', 'Prism1', 'Iris', 'Focus1', 'Zoom', 'Frost1', 'Control1', '-']), mode('20 channel', ['Pan:16', 'Tilt:16', 'Shutter1', 'Dimmer:16', 'Color1', 'Color2', 'Gobo1', 'Gobo1Pos', 'Gobo2', 'Gobo2Pos', 'Prism1', 'Iris', 'Focus1', 'Zoom', 'Frost1', 'Control1', '-'])],
  }),
  head('dart', 'Dart beam', 230, 12, { lamp_K: 7200, panSpeed_deg_s: 320, tiltSpeed_deg_s: 260, wheels: [SEVEN_COLOURS, STILL_PATTERNS], modes: [mode('Standard', [...PLACE, 'Dimmer', 'Shutter1', 'Color1', 'Gobo1', 'Prism1', 'Focus1', 'Control1'])] }),
  makeType({ id: 'quillon-pivot', maker: 'Quillon', name: 'Pivot mirror', shape: 'head', lamp_K: 5600, watts: 380, idle_W: 320, weight_kg: 14, panSpeed_deg_s: 420, tiltSpeed_deg_s: 240, macros: LAMP, wheels: [FOUR_COLOURS, STILL_PATTERNS], ranges: { Pan: [-85, 85], Tilt: [-42, 42] }, modes: [mode('Standard', ['Shutter1', 'Color1', 'Gobo1', 'Dimmer', ...PLACE, 'Control1'])] }),
  makeType({ id: 'quillon-rail', maker: 'Quillon', name: 'Rail 5', shape: 'strip', watts: 350, idle_W: 35, weight_kg: 12, tiltSpeed_deg_s: 160, macros: [RESET], ranges: { Tilt: [-95, 95], Zoom: [4, 40] }, modes: [mode('As one', ['Tilt:16', 'Dimmer', 'ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W', 'Zoom', 'Control1']), mode('5 cells', ['Tilt:16', 'Dimmer', ...[1, 2, 3, 4, 5].flatMap((n) => ['R', 'G', 'B', 'W'].map((c) => `ColorAdd_${c}@${n}`)), 'Zoom', 'Control1'], [1, 2, 3, 4, 5].map((n) => ({ name: `Cell ${n}`, x: (n - 0.5) / 5, y: 0.5 })))] }),
];
