/** Which back-ups stay: the newest ones, and for some time one of each day. */
export const NEWEST_KEPT = 24;
/** Days of each of which the last backup stays. */
export const DAYS_KEPT = 14;

/** Those of `made` (milliseconds since 1970) that may go. Of each day its last one stays. */
export function outdated(made: readonly number[], now: number): number[] {
  const newest = [...made].sort((a, b) => b - a);
  const kept = new Set(newest.slice(0, NEWEST_KEPT));
  const days = new Set<string>();
  for (const at of newest) {
    const day = new Date(at).toISOString().slice(0, 10);
    if (days.has(day) || now - at > DAYS_KEPT * 24 * 3600 * 1000) continue;
    days.add(day);
    kept.add(at);
  }
  return newest.filter((at) => !kept.has(at));
}
