/** Moments of a track as people write and read them. */

/** 72.5 -> `1:12.50`, 3725 -> `1:02:05.00`. */
export function formatMoment(at_s: number): string {
  const hundredths = Math.round(at_s * 100);
  const [h, m, s] = [
    Math.floor(hundredths / 360_000),
    Math.floor(hundredths / 6000) % 60,
    (hundredths % 6000) / 100,
  ];
  const minutes = h > 0 ? `${h}:${String(m).padStart(2, '0')}` : String(m);
  return `${minutes}:${s.toFixed(2).padStart(5, '0')}`;
}

/** Moments are kept to the millisecond: finer is no hand and no frame. */
export const toMillisecond = (at_s: number): number => Math.round(at_s * 1000) / 1000;
