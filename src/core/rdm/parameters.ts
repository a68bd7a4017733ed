/** Parameters of RDM that are asked (ANSI E1.20-2010 clause 10, table A-3), and what their bytes say. */

export const PARAMETER = {
  deviceInfo: 0x0060,
  model: 0x0080,
  maker: 0x0081,
  label: 0x0082,
  software: 0x00c0,
  mode: 0x00e0,
  modeDescription: 0x00e1,
  address: 0x00f0,
  sensorDefinition: 0x0200,
  sensorValue: 0x0201,
  hours: 0x0400,
  lampHours: 0x0401,
  identify: 0x1000,
} as const;

/** Why a responder refuses (table A-17). */
const REASONS: Readonly<Record<number, string>> = {
  0x0000: 'it does not know this parameter',
  0x0001: 'the question was not well formed',
  0x0002: 'its hardware has a fault',
  0x0004: 'it is write protected',
  0x0005: 'it cannot do this with this parameter',
  0x0006: 'the value is out of its range',
};
/** Why a device says no, in words (ANSI E1.20, table A-17). */
export function reasonOf(data: Uint8Array): string {
  const code = ((data[0] ?? 0) << 8) | (data[1] ?? 0);
  return REASONS[code] ?? `it refuses (reason ${code})`;
}

const word = (d: Uint8Array, at: number): number => ((d[at] ?? 0) << 8) | (d[at + 1] ?? 0);
const signed = (d: Uint8Array, at: number): number => {
  const w = word(d, at);
  return w > 0x7fff ? w - 0x10000 : w;
};
const long = (d: Uint8Array, at: number): number => word(d, at) * 0x10000 + word(d, at + 2);
/** Control characters are no part of a name. */
const text = (d: Uint8Array): string =>
  [...new TextDecoder('latin1').decode(d.subarray(0, 32))]
    .filter((c) => c >= ' ' && c !== '\u007f')
    .join('')
    .trim();

/** Nothing that a responder says is larger than a universe. */
const MOST_SLOTS = 512;
const NO_ADDRESS = 0xffff;
const INFO_LENGTH = 0x13;

/** What a device is (ANSI E1.20, DEVICE_INFO). */
export interface DeviceInfo {
  model: number;
  /** Slots of its mode, 0-512. */
  footprint: number;
  /** The mode at hand, and how many it has, from 1. */
  mode: number;
  modes: number;
  /** 1-512; null where it takes none. */
  address: number | null;
  sensors: number;
}

/** Undefined where it is not what the standard says, or says what cannot be. */
export function readDeviceInfo(d: Uint8Array): DeviceInfo | undefined {
  if (d.length !== INFO_LENGTH) return undefined;
  const footprint = word(d, 10);
  const address = word(d, 14);
  const [mode = 0, modes = 0] = [d[12], d[13]];
  if (footprint > MOST_SLOTS || mode > modes) return undefined;
  if (address !== NO_ADDRESS && (address < 1 || address > MOST_SLOTS)) return undefined;
  return {
    model: word(d, 2),
    footprint,
    mode,
    modes,
    address: address === NO_ADDRESS || footprint === 0 ? null : address,
    sensors: d[18] ?? 0,
  };
}

/** Text of a parameter, up to 32 characters. */
export const readText = text;
/** A mode: its number, slots and name. */
export function readMode(
  d: Uint8Array,
): { mode: number; footprint: number; name: string } | undefined {
  if (d.length < 3 || word(d, 1) > MOST_SLOTS) return undefined;
  return { mode: d[0] ?? 0, footprint: word(d, 1), name: text(d.subarray(3)) };
}
/** Hours of a device or lamp. */
export const readHours = (d: Uint8Array): number | undefined =>
  d.length === 4 ? long(d, 0) : undefined;

/** Units and prefixes of sensors (tables ). */
const UNITS: Readonly<Record<number, string>> = {
  0x01: '°C',
  0x02: 'V',
  0x03: 'V',
  0x04: 'V',
  0x05: 'A',
  0x06: 'A',
  0x07: 'A',
  0x08: 'Hz',
  0x09: 'Ω',
  0x0a: 'W',
};
const PREFIXES: Readonly<Record<number, number>> = {
  0x01: -1,
  0x02: -2,
  0x03: -3,
  0x11: 1,
  0x12: 2,
  0x13: 3,
};

/** What a sensor measures. */
export interface SensorKind {
  name: string;
  unit: string;
  /** What a value is multiplied by. */
  scale: number;
}
/** What a sensor measures, in which unit and range; undefined for what is too short. */
export function readSensorKind(d: Uint8Array): SensorKind | undefined {
  if (d.length < 13) return undefined;
  return {
    name: text(d.subarray(13)) || 'Sensor',
    unit: UNITS[d[2] ?? 0] ?? '',
    scale: 10 ** (PREFIXES[d[3] ?? 0] ?? 0),
  };
}
/** What a sensor shows now; undefined for what is too short. */
export const readSensorValue = (d: Uint8Array): number | undefined =>
  d.length >= 3 ? signed(d, 1) : undefined;
