/** DMX512 (ANSI E1.11). */

/** Slots of one universe (clause 8.5). */
export const UNIVERSE_SLOTS = 512;
