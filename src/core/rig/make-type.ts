/** Writes a fixture type down in a few words; the shipped library is made with it. */
import type {
  Channel,
  ChannelFunction,
  Emitter,
  Mode,
  TypeRow,
  Wheel,
  WheelSlot,
} from '../types/rows.ts';
import { baseOf, cellOf } from './attributes.ts';

/**
 * Emitter data when a maker gives none: typical LED primaries, CIE 1931 xy and luminous flux relative to the green.
 * Values are ours, rounded from the spectral locus at common dominant wavelengths.
 */
const EMITTERS: Record<string, Emitter> = {
  ColorAdd_R: { x: 0.694, y: 0.306, Y: 0.42 },
  ColorAdd_RY: { x: 0.573, y: 0.426, Y: 0.5 },
  ColorAdd_GY: { x: 0.408, y: 0.56, Y: 1.1 },
  ColorAdd_G: { x: 0.18, y: 0.715, Y: 0.95 },
  ColorAdd_C: { x: 0.085, y: 0.46, Y: 0.6 },
  ColorAdd_B: { x: 0.148, y: 0.047, Y: 0.17 },
  ColorAdd_UV: { x: 0.169, y: 0.012, Y: 0.01 },
  ColorAdd_W: { x: 0.38, y: 0.377, Y: 1.3 },
  ColorAdd_WW: { x: 0.46, y: 0.411, Y: 1.2 },
  ColorAdd_CW: { x: 0.313, y: 0.329, Y: 1.3 },
  ColorAdd_A: { x: 0.573, y: 0.426, Y: 0.5 },
  ColorAdd_L: { x: 0.408, y: 0.56, Y: 1.1 },
  ColorAdd_Y: { x: 0.45, y: 0.5, Y: 0.9 },
  ColorAdd_M: { x: 0.32, y: 0.15, Y: 0.25 },
  ColorAdd_GC: { x: 0.13, y: 0.6, Y: 0.8 },
  ColorAdd_BC: { x: 0.1, y: 0.25, Y: 0.35 },
  ColorAdd_BM: { x: 0.22, y: 0.08, Y: 0.15 },
  ColorAdd_RM: { x: 0.52, y: 0.22, Y: 0.25 },
};

/** Of an emitter that nothing is known of: an even white. */
const ANY_EMITTER: Emitter = { x: 0.333, y: 0.333, Y: 1 };
/** The light that an emitter of this name usually gives. */
export const usualEmitter = (attribute: string): Emitter => EMITTERS[attribute] ?? ANY_EMITTER;

const RANGES: Record<string, [number, number]> = {
  Pan: [-270, 270],
  Tilt: [-135, 135],
  Zoom: [6, 50],
  Shutter1Strobe: [0, 25],
  CTO: [6500, 2700],
  Gobo1Pos: [0, 540],
  Gobo2Pos: [0, 540],
  ShaperRot: [-60, 60],
  Blade1Rot: [-30, 30],
  Blade2Rot: [-30, 30],
  Blade3Rot: [-30, 30],
  Blade4Rot: [-30, 30],
};

const CENTRED = new Set([
  'Pan',
  'Tilt',
  'Zoom',
  'Focus1',
  'ShaperRot',
  'Blade1Rot',
  'Blade2Rot',
  'Blade3Rot',
  'Blade4Rot',
]);
/** Wheels, shutters and modes do not fade: in between lies another picture. */
const SNAPS = /^(Shutter1|Color[12]|Gobo[12]|Prism1|Control1)$/;

/** A part of a channel's range in 8 bit values, whatever the channel's resolution. */
export interface Part {
  name: string;
  from: number;
  to: number;
  physical?: [number, number];
  wheel?: string;
  sets?: { name: string; from: number; to: number; slot?: number }[];
}

const SHUTTER: Part[] = [
  { name: 'Closed', from: 0, to: 15, sets: [{ name: 'Closed', from: 0, to: 15 }] },
  { name: 'Open', from: 16, to: 47, sets: [{ name: 'Open', from: 16, to: 47 }] },
  { name: 'Strobe', from: 48, to: 255, physical: [0.5, 25] },
];
const PRISM: Part[] = [
  { name: 'Out', from: 0, to: 31, sets: [{ name: 'Out', from: 0, to: 31 }] },
  { name: 'Prism', from: 32, to: 255, sets: [{ name: 'In', from: 32, to: 255 }] },
];
const CONTROL: Part[] = [
  { name: 'Idle', from: 0, to: 9, sets: [{ name: 'Idle', from: 0, to: 9 }] },
  { name: 'Commands', from: 10, to: 255 },
];
const STANDARD: Record<string, Part[]> = { Shutter1: SHUTTER, Prism1: PRISM, Control1: CONTROL };

/** Eight values a slot from 0, then a function that spins the wheel. */
function wheelParts(wheel: Wheel): Part[] {
  const step = Math.min(16, Math.floor(192 / wheel.slots.length));
  const end = step * wheel.slots.length;
  return [
    {
      name: 'Slots',
      from: 0,
      to: end - 1,
      wheel: wheel.name,
      sets: wheel.slots.map((s, i) => ({
        name: s.name,
        from: i * step,
        to: (i + 1) * step - 1,
        slot: i + 1,
      })),
    },
    { name: 'Spin', from: end, to: 255, physical: [5, 180], wheel: wheel.name },
  ];
}

/** A wheel's slots and its spin as the functions of a channel of so many bytes. */
export const wheelFunctions = (wheel: Wheel, bytes: number): ChannelFunction[] =>
  atResolution(wheelParts(wheel), bytes);

/** 8 bit parts at the resolution of a channel of so many bytes. */
function atResolution(parts: readonly Part[], bytes: number): ChannelFunction[] {
  const fine = 256 ** (bytes - 1);
  const low = (v: number): number => v * fine;
  const high = (v: number): number => v * fine + fine - 1;
  return parts.map((p) => ({
    name: p.name,
    from: low(p.from),
    to: high(p.to),
    physicalFrom: p.physical?.[0] ?? 0,
    physicalTo: p.physical?.[1] ?? 1,
    ...(p.wheel ? { wheel: p.wheel } : {}),
    ...(p.sets ? { sets: p.sets.map((s) => ({ ...s, from: low(s.from), to: high(s.to) })) } : {}),
  }));
}

function defaultOf(base: string): number {
  if (CENTRED.has(base)) return 0.5;
  // An open shutter: the middle of its named range.
  if (base === 'Shutter1') return 31 / 255;
  return base.startsWith('ColorAdd_') && base !== 'ColorAdd_UV' ? 1 : 0;
}

/**
 * A mode from attribute words in channel order. `Pan:16` takes two channels, coarse then fine; `Pan:24` three; `-`
 * leaves one out; `|` begins the next break. A cell's attribute is written `ColorAdd_R@3`.
 * @param name the mode's name
 * @param words e.g. `['Dimmer', 'Pan:16', 'Tilt:16']`
 */
export function mode(name: string, words: readonly string[], cells?: Mode['cells']): Mode {
  const footprints = [0];
  const channels: Channel[] = [];
  for (const word of words) {
    const at = footprints.length - 1;
    if (word === '|') footprints.push(0);
    else if (word === '-') footprints[at] = (footprints[at] ?? 0) + 1;
    else {
      const [attribute = '', bits = '8'] = word.split(':');
      const base = baseOf(attribute);
      const bytes = Number(bits) / 8;
      const start = footprints[at] ?? 0;
      footprints[at] = start + bytes;
      const [physicalFrom, physicalTo] = RANGES[base] ?? [0, 1];
      channels.push({
        attribute,
        offset: Array.from({ length: bytes }, (_, i) => start + i + 1),
        ...(at > 0 ? { break: at + 1 } : {}),
        // A cell's own dimmer stands open under the unit's.
        default: cellOf(attribute) > 0 && base === 'Dimmer' ? 1 : defaultOf(base),
        ...(base === 'Dimmer' ? { highlight: 1 } : {}),
        ...(SNAPS.test(base) || base === 'Shutter1Strobe' ? { snap: true } : {}),
        physicalFrom,
        physicalTo,
      });
    }
  }
  const [footprint = 1, ...breaks] = footprints;
  return {
    name,
    footprint,
    ...(breaks.length > 0 ? { breaks } : {}),
    ...(cells ? { cells } : {}),
    channels,
  };
}

/** Words for so many cells in a row: every attribute of cell 1, then of cell 2 … */
export const cellWords = (count: number, attributes: readonly string[]): string[] =>
  Array.from({ length: count }, (_, i) =>
    attributes.map((a) => a.replace(/(:|$)/, `@${i + 1}$1`)),
  ).flat();

/** Cells side by side, or in rows. */
export const cellGrid = (columns: number, rows = 1): NonNullable<Mode['cells']> =>
  Array.from({ length: columns * rows }, (_, i) => ({
    name: `Cell ${i + 1}`,
    x: ((i % columns) + 0.5) / columns,
    y: (Math.floor(i / columns) + 0.5) / rows,
  }));

/** A wheel of slots. */
export const wheel = (name: string, slots: readonly WheelSlot[]): Wheel => ({
  name,
  slots: [...slots],
});

type Draft = Omit<TypeRow, 'emitters'> & {
  emitters?: TypeRow['emitters'];
  /** Functions of an attribute that differ from the usual ones, in 8 bit values. */
  parts?: Record<string, readonly Part[]>;
  /** Physical ranges that differ from the usual ones. */
  ranges?: Record<string, [number, number]>;
};

/** A type; emitters that its modes use get documented default chromaticities, wheels their slots' ranges. */
export function makeType({ parts = {}, ranges = {}, ...row }: Draft): TypeRow {
  const used = new Set(row.modes.flatMap((m) => m.channels.map((c) => baseOf(c.attribute))));
  const emitters = Object.fromEntries(
    Object.entries(EMITTERS).filter(([attribute]) => used.has(attribute)),
  );
  const modes = row.modes.map((m) => {
    // An unwritten dimmer that scales emitters needs them open; so does a real one.
    return {
      ...m,
      channels: m.channels.map((c): Channel => {
        const base = baseOf(c.attribute);
        const own = row.wheels?.find((w) => w.name === base);
        const functions = parts[base] ?? (own ? wheelParts(own) : STANDARD[base]);
        const range = ranges[base];
        return {
          ...c,
          ...(range ? { physicalFrom: range[0], physicalTo: range[1] } : {}),
          ...(functions ? { functions: atResolution(functions, c.offset.length) } : {}),
        };
      }),
    };
  });
  return { ...row, modes, emitters: { ...emitters, ...row.emitters } };
}
