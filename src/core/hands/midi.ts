/** MIDI 1.0 channel messages as what a hand does, and back (MIDI 1.0 Detailed Specification 4.2). */
import { clamp } from '../numbers.ts';
import type { ControlId } from './rows.ts';

/** A control of a hand at this moment. */
export interface Moved {
  control: ControlId;
  /** 0…1. */
  value: number;
  /** Pressed rather than lifted; of what is turned or slid: off its foot. */
  on: boolean;
  /** It is pressed and lifted, not slid. */
  isKey: boolean;
}

const TOP_7 = 127;
const TOP_14 = 16_383;
/** Controls of the fine half stand so many above their coarse ones; there are as many. */
const FINE = 32;
/** A fine half belongs to the coarse one that came at most so long before. */
const PAIR_MS = 20;
/** Message that ends all notes of a channel, sent by hands that are switched off. */
const ALL_NOTES_OFF = 123;

/** What a reader remembers between messages: coarse halves of control changes, and keys that are down. */
export interface MidiState {
  coarse: Map<string, { value: number; at_ms: number }>;
  down: Set<ControlId>;
}
/** A port of which nothing has been heard. */
export const freshMidi = (): MidiState => ({ coarse: new Map(), down: new Set() });

const key = (state: MidiState, control: ControlId, on: boolean, velocity: number): Moved => {
  if (on) state.down.add(control);
  else state.down.delete(control);
  return { control, value: on ? velocity / TOP_7 : 0, on, isKey: true };
};

function change(
  state: MidiState,
  channel: number,
  number: number,
  value: number,
  now_ms: number,
): Moved {
  const at = (n: number): ControlId => `cc.${channel}.${n}`;
  const coarse = state.coarse.get(at(number - FINE));
  if (number >= FINE && number < FINE * 2 && coarse && now_ms - coarse.at_ms <= PAIR_MS) {
    const both = (coarse.value << 7) | value;
    return { control: at(number - FINE), value: both / TOP_14, on: both > 0, isKey: false };
  }
  if (number < FINE) state.coarse.set(at(number), { value, at_ms: now_ms });
  return { control: at(number), value: value / TOP_7, on: value > 0, isKey: false };
}

/**
 * One message.
 * @param now_ms when it came, for the halves of 14 bit controls
 * @returns nothing for what no hand does (clock, system messages) and for what is no whole message
 */
export function readMidi(state: MidiState, bytes: ArrayLike<number>, now_ms: number): Moved[] {
  const [status = 0, a = -1, b = -1] = Array.from(bytes);
  const channel = (status & 0x0f) + 1;
  const isData = (v: number): boolean => v >= 0 && v <= TOP_7;
  switch (status & 0xf0) {
    case 0x80:
      return isData(a) ? [key(state, `note.${channel}.${a}`, false, 0)] : [];
    case 0x90:
      // A note with no velocity is its lifting.
      return isData(a) && isData(b) ? [key(state, `note.${channel}.${a}`, b > 0, b)] : [];
    case 0xb0:
      if (!isData(a) || !isData(b)) return [];
      return a === ALL_NOTES_OFF ? liftAll(state) : [change(state, channel, a, b, now_ms)];
    case 0xc0:
      return isData(a)
        ? [{ control: `program.${channel}.${a}`, value: 1, on: true, isKey: true }]
        : [];
    case 0xe0: {
      if (!isData(a) || !isData(b)) return [];
      const value = (b << 7) | a;
      return [{ control: `bend.${channel}`, value: value / TOP_14, on: value > 0, isKey: false }];
    }
    default:
      return [];
  }
}

/** Everything that is down is lifted: the device was pulled out, or says so. */
export const liftAll = (state: MidiState): Moved[] =>
  [...state.down].map((control) => key(state, control, false, 0));

/** What a hand is told: a motor's or a ring's place, a key's light. Undefined for parts that are told nothing. */
export function tellMidi(control: ControlId, level: number): number[] | undefined {
  const [kind, channel = '1', number = '0'] = control.split('.');
  const [c, n] = [Number(channel) - 1, Number(number)];
  const value = Math.round(clamp(level) * TOP_7);
  if (kind === 'note') return [0x90 | c, n, value];
  if (kind === 'cc') return [0xb0 | c, n, value];
  if (kind !== 'bend') return undefined;
  const fine = Math.round(clamp(level) * TOP_14);
  return [0xe0 | c, fine & TOP_7, fine >> 7];
}
