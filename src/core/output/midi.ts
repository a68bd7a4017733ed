/** MIDI 1.0 channel voice messages (MIDI 1.0 Detailed Specification, table II). */
import type { CueAction } from '../cues/rows.ts';

type MidiAction = Omit<Extract<CueAction, { do: 'midi' }>, 'do'>;
const STATUS: Record<MidiAction['kind'], number> = {
  'note-off': 0x80,
  'note-on': 0x90,
  control: 0xb0,
  program: 0xc0,
};

/** A channel message of MIDI 1.0. @returns two or three bytes */
export function midiMessage({ kind, channel, number, value }: MidiAction): Uint8Array {
  const status = STATUS[kind] | (channel - 1);
  return kind === 'program' ? Uint8Array.of(status, number) : Uint8Array.of(status, number, value);
}

/** Bytes that are written in hexadecimal, with spaces or without. */
export const bytesOf = (hex: string): Uint8Array =>
  Uint8Array.from((hex.match(/[0-9a-fA-F]{2}/g) ?? []).map((b) => parseInt(b, 16)));

/** A message in words, for the simulated port; undefined for what is not one. */
export function readMidi(bytes: Uint8Array): MidiAction | undefined {
  const [status = 0, number = 0, value = 0] = bytes;
  const kind = (Object.keys(STATUS) as MidiAction['kind'][]).find(
    (k) => STATUS[k] === (status & 0xf0),
  );
  if (!kind || bytes.length !== (kind === 'program' ? 2 : 3) || number > 127 || value > 127)
    return undefined;
  return { kind, channel: (status & 15) + 1, number, value };
}
