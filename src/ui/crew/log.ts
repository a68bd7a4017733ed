/** A long log read from its newest end, page by page, while it grows. */

export interface Kept<T> {
  /** Newest first. */
  rows: readonly T[];
  /** Nothing is older than the last row. */
  ended: boolean;
}

/**
 * The newest page, put before what was read already. Where more happened meanwhile than a page holds, what was read is
 * let go: a log with a gap in it would lie.
 * @param newest newest first; fewer than `page` rows are the whole log
 */
export function withNewest<T>(
  kept: Kept<T> | undefined,
  newest: readonly T[],
  page: number,
  keyOf: (row: T) => number,
): Kept<T> {
  const last = newest[newest.length - 1];
  if (newest.length < page || !last) return { rows: newest, ended: true };
  const first = kept?.rows[0];
  if (!kept || !first || keyOf(first) < keyOf(last)) return { rows: newest, ended: false };
  return {
    rows: [...newest, ...kept.rows.filter((r) => keyOf(r) < keyOf(last))],
    ended: kept.ended,
  };
}

/** The next older page, put behind. */
export function withOlder<T>(
  kept: Kept<T>,
  older: readonly T[],
  page: number,
  keyOf: (row: T) => number,
): Kept<T> {
  const last = kept.rows[kept.rows.length - 1];
  return {
    rows: [...kept.rows, ...older.filter((r) => !last || keyOf(r) < keyOf(last))],
    ended: older.length < page,
  };
}
