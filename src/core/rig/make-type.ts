/** Writes a fixture type down in a few words; the library and the demo's makers are made with it. */
import type { Channel, Emitter, Mode, TypeRow } from '../show/rows.ts';

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
  ColorAdd_W: { x: 0.38, y: 0.377, Y: 1.3 },
};

const RANGES: Record<string, [number, number]> = {
  Pan: [-270, 270],
  Tilt: [-135, 135],
  Zoom: [6, 50],
  Shutter1Strobe: [0, 25],
  CTO: [6500, 2700],
};

const CENTRED = new Set(['Pan', 'Tilt', 'Zoom', 'Iris', 'Focus1']);

/**
 * A mode from attribute words in channel order. `Pan:16` takes two channels, coarse then fine; `Pan:24` three.
 * @param name the mode's name
 * @param attributes e.g. `['Dimmer', 'Pan:16', 'Tilt:16']`
 */
export function mode(name: string, attributes: readonly string[]): Mode {
  let next = 1;
  const channels = attributes.map((word): Channel => {
    const [attribute = '', bits = '8'] = word.split(':');
    const bytes = Number(bits) / 8;
    const offset = Array.from({ length: bytes }, () => next++);
    const [physicalFrom, physicalTo] = RANGES[attribute] ?? [0, 1];
    return { attribute, offset, default: CENTRED.has(attribute) ? 0.5 : attribute.startsWith('ColorAdd_') ? 1 : 0, physicalFrom, physicalTo, ...(attribute.startsWith('Shutter') ? { snap: true } : {}) };
  });
  return { name, footprint: next - 1, channels };
}

/** A type; its emitters are taken from its modes, with documented default chromaticities. */
export function makeType(row: Omit<TypeRow, 'emitters'> & { emitters?: TypeRow['emitters'] }): TypeRow {
  const used = new Set(row.modes.flatMap((m) => m.channels.map((c) => c.attribute)));
  const emitters = Object.fromEntries(Object.entries(EMITTERS).filter(([attribute]) => used.has(attribute)));
  return { ...row, emitters: { ...emitters, ...row.emitters } };
}
