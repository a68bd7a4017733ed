/** Numbers within their bounds. */

/** A number no lower and no higher than may be; what is no number stays none. @param high not below `low` */
export const clamp = (v: number, low = 0, high = 1): number => Math.min(high, Math.max(low, v));
