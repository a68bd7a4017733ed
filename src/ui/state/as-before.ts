/** What comes anew from the player, with all that is as it was before as the very same objects: who shows that is not drawn again. */

/**
 * Plain data, as JSON brings it; anything else (a map, a date) is another wherever it is another object.
 * @returns `before` itself where nothing differs; else `after`, with the parts of `before` that are equal
 */
export function asBefore<T>(before: T, after: T): T;
export function asBefore(before: unknown, after: unknown): unknown {
  if (Object.is(before, after)) return before;
  if (Array.isArray(before) && Array.isArray(after)) return listAsBefore(before, after);
  if (!isRecord(before) || !isRecord(after)) return after;
  const keys = Object.keys(after);
  const shared = Object.fromEntries(keys.map((k) => [k, asBefore(before[k], after[k])]));
  const isSame =
    keys.length === Object.keys(before).length &&
    keys.every((k) => k in before && Object.is(shared[k], before[k]));
  return isSame ? before : shared;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;

function listAsBefore(before: readonly unknown[], after: readonly unknown[]): readonly unknown[] {
  const shared = after.map((item, i) => asBefore(before[i], item));
  const isSame =
    shared.length === before.length && shared.every((item, i) => Object.is(item, before[i]));
  return isSame ? before : shared;
}
