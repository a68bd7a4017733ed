/** Who gives a slot its value, as numbers that another thread reads (`Shared.winner`): -1 the default, n a list. */

/** OPERATOR + n is a programmer. */
export const OPERATOR = 1000;
/** Stays whatever plays. */
export const PARKED = -2;
/** A control macro is running on it. */
export const COMMANDED = -3;
/** Somebody looks which one it is. */
export const HIGHLIT = -4;
/** Stays where it was, whatever plays; hands still move it. */
export const GUARDED = -6;
/** Held for focus: somebody is up a ladder. */
export const FOCUS = -5;
