/** Rates of timecode, in the order of MIDI time code and Art-Net: film, EBU, drop-frame, SMPTE. */
export const RATES = ['24', '25', '29.97 drop', '30'] as const;
export type Rate = (typeof RATES)[number];
