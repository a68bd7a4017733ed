/** Small words that sentences everywhere are made of. */

export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${n} ${n === 1 ? one : many}`;

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

/** As a sentence or a label begins. */
export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** Words over several lines, with tabs and double spaces, as one line. */
export const oneLine = (words: string): string => words.replace(/\s+/g, ' ').trim();
