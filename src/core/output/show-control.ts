/** MIDI Show Control for lighting (MIDI 1.0 Recommended Practice RP-002): `F0 7F device 02 01 command data F7`. */

const HEAD = { universal: 0xf0, realtime: 0x7f, subId: 0x02, end: 0xf7 } as const;
/** Command format 01 is lighting, 7F all types of machine. */
const LIGHTING = 0x01;
const ALL_TYPES = 0x7f;
/** Everybody who hears it. */
export const ALL_DEVICES = 0x7f;

const CODES = {
  go: 0x01,
  stop: 0x02,
  resume: 0x03,
  'timed-go': 0x04,
  set: 0x06,
  'all-off': 0x08,
  restore: 0x09,
  reset: 0x0a,
  'go-off': 0x0b,
} as const;
/** Commands of MIDI Show Control 1.1 that a cue may send. */
export const SHOW_CONTROL_COMMANDS = [
  'go',
  'stop',
  'resume',
  'timed-go',
  'set',
  'all-off',
  'restore',
  'reset',
  'go-off',
] as const satisfies readonly (keyof typeof CODES)[];
export type ShowControlCommand = (typeof SHOW_CONTROL_COMMANDS)[number];

/** One message of MIDI Show Control. */
export interface ShowControl {
  /** 0 to 111 is one machine, 112 to 126 a group, 127 all. */
  device: number;
  command: ShowControlCommand;
  /** As it is written: `12.5`. */
  cue?: string;
  list?: string;
  /** Of a timed GO. */
  time_s?: number;
  /** Of a set: a control’s number and its value, 0 to 16383 each. */
  control?: number;
  value?: number;
}

const NUMBER = /^\d{1,5}(?:\.\d{1,3})?$/;
const TOP_7 = 127;
const fourteen = (n: number): number[] => [n & TOP_7, (n >> 7) & TOP_7];
const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0));

/** Standard time code of five bytes: hours with its type (3: 30 frames), minutes, seconds, frames, hundredths of a frame. */
function timeBytes(time_s: number): number[] {
  const hundredths = Math.round(time_s * 3000);
  const frames = Math.floor(hundredths / 100);
  const s = Math.floor(frames / 30);
  return [
    (3 << 5) | Math.floor(s / 3600),
    Math.floor(s / 60) % 60,
    s % 60,
    frames % 30,
    hundredths % 100,
  ];
}

/** Frames a second by the type in the hours byte. */
const RATES = [24, 25, 30, 30] as const;
function secondsOf([
  hours = 0,
  minutes = 0,
  seconds = 0,
  frames = 0,
  parts = 0,
]: readonly number[]): number {
  const rate = RATES[(hours >> 5) & 3] ?? 30;
  return (
    (hours & 0x1f) * 3600 +
    (minutes & 0x3f) * 60 +
    (seconds & 0x3f) +
    ((frames & 0x1f) + parts / 100) / rate
  );
}

/** @returns the whole system exclusive message, F0 and F7 included */
export function showControlMessage(m: ShowControl): Uint8Array {
  const data: number[] = [];
  if (m.command === 'set') data.push(...fourteen(m.control ?? 0), ...fourteen(m.value ?? 0));
  if (m.command === 'timed-go') data.push(...timeBytes(m.time_s ?? 0));
  if (m.command !== 'set') {
    data.push(...ascii(m.cue ?? ''));
    if (m.list !== undefined) data.push(0, ...ascii(m.list));
  }
  return Uint8Array.of(
    HEAD.universal,
    HEAD.realtime,
    m.device,
    HEAD.subId,
    LIGHTING,
    CODES[m.command],
    ...data,
    HEAD.end,
  );
}

/** Fields of digits with 00 between them; undefined where one is no number. */
function numbersIn(data: readonly number[]): string[] | undefined {
  const fields = String.fromCharCode(...data).split('\0');
  return fields.every((f) => f === '' || NUMBER.test(f)) ? fields : undefined;
}

/** @returns undefined for what is no command to lights, what is cut short, and commands of other machines */
export function readShowControl(bytes: ArrayLike<number>): ShowControl | undefined {
  const all = Array.from(bytes);
  const [start, realtime, device = -1, sub, format, code, ...rest] = all;
  if (start !== HEAD.universal || realtime !== HEAD.realtime || sub !== HEAD.subId)
    return undefined;
  if (format !== LIGHTING && format !== ALL_TYPES) return undefined;
  const command = SHOW_CONTROL_COMMANDS.find((c) => CODES[c] === code);
  const data = rest.slice(0, -1);
  const isWhole = rest.at(-1) === HEAD.end && data.every((b) => b <= TOP_7);
  if (!command || !isWhole || device < 0 || device > ALL_DEVICES) return undefined;
  if (command === 'set') {
    if (data.length < 4) return undefined;
    const [a = 0, b = 0, c = 0, d = 0] = data;
    return { device, command, control: (b << 7) | a, value: (d << 7) | c };
  }
  const timed = command === 'timed-go';
  if (timed && data.length < 5) return undefined;
  const numbers = numbersIn(timed ? data.slice(5) : data);
  if (!numbers) return undefined;
  const [cue = '', list = ''] = numbers;
  return {
    device,
    command,
    ...(timed ? { time_s: secondsOf(data) } : {}),
    ...(cue ? { cue } : {}),
    ...(list ? { list } : {}),
  };
}
