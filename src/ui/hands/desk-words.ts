/** What the simulated desk and a show's window say to each other: bytes of MIDI, and that they are there. */

export const DESK_CHANNEL = 'wingman-desk';
/** As a port is called. */
export const DESK_PORT = 'Simulated desk';

/** What the simulated hand and other windows say to each other. */
export type DeskWord =
  | { says: 'who' }
  | { says: 'here' }
  | { says: 'gone' }
  | { says: 'bytes'; from: 'desk' | 'show'; bytes: number[] };

/** How its displays are written, under the number that the standard keeps for what is no product (MIDI 1.0, 7D). */
export const DESK_DISPLAYS = { bytes: 'F0 7D 01 nn tt F7', letters: 12 } as const;

/** Its parts: control changes 1 to 8 are faders, 16 to 19 knobs, notes 36 to 51 keys, all on channel 1. */
export const DESK = { faders: 8, firstFader: 1, knobs: 4, firstKnob: 16, keys: 16, firstKey: 36 };
