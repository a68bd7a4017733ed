/** What the simulated desk and a show's window say to each other: bytes of MIDI, and that they are there. */

export const DESK_CHANNEL = 'wingman-desk';
/** As a port is called. */
export const DESK_PORT = 'Simulated desk';

export type DeskWord =
  | { says: 'who' }
  | { says: 'here' }
  | { says: 'gone' }
  | { says: 'bytes'; from: 'desk' | 'show'; bytes: number[] };

/** Its parts: control changes 1 to 8 are faders, 16 to 19 knobs, notes 36 to 51 keys, all on channel 1. */
export const DESK = { faders: 8, firstFader: 1, knobs: 4, firstKnob: 16, keys: 16, firstKey: 36 };
