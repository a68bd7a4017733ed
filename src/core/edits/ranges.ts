/** Numbers in words. */

/** `1–4, 7` for numbers in any order. */
export function numberRanges(numbers: readonly number[]): string {
  const sorted = [...numbers].sort((a, b) => a - b);
  const parts: string[] = [];
  for (let i = 0; i < sorted.length;) {
    let j = i;
    while (j + 1 < sorted.length && (sorted[j + 1] ?? 0) === (sorted[j] ?? 0) + 1) j++;
    parts.push(i === j ? `${sorted[i]}` : `${sorted[i]}–${sorted[j]}`);
    i = j + 1;
  }
  return parts.length > 6
    ? `${parts.slice(0, 5).join(', ')} and ${sorted.length - 5} more`
    : parts.join(', ');
}
