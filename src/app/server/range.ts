/** The part of a file that is asked for (RFC 9110, 14.1.2): one range of bytes; several at once are answered with the whole. */

/**
 * @param size of the file, in bytes
 * @returns undefined for the whole; null where it lies beyond the file
 */
export function rangeOf(
  header: string | null,
  size: number,
): { from: number; to: number } | undefined | null {
  const asked = /^bytes=(\d*)-(\d*)$/.exec(header ?? '');
  if (!asked) return undefined;
  const [, first = '', last = ''] = asked;
  if (first === '' && last === '') return undefined;
  if (first === '') {
    const length = Math.min(Number(last), size);
    return length > 0 ? { from: size - length, to: size } : null;
  }
  const from = Number(first);
  if (last !== '' && Number(last) < from) return undefined;
  const to = last === '' ? size : Math.min(size, Number(last) + 1);
  return from < size ? { from, to } : null;
}
