/** Small words that sentences everywhere are made of. */

export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${n} ${n === 1 ? one : many}`;

/** The first of them, and how many there are besides: `Bow, Stern and 3 more`. */
export function listed(words: readonly string[], most: number, between = ', '): string {
  const more = words.length - most;
  const said = words.slice(0, most).join(between);
  return more > 0 ? `${said} and ${more} more` : said;
}

const MOST_RUNS = 6;

/** `1–4, 9, 11–12`; of many runs the first ones, and how many numbers there are besides (words.test.ts). */
export function numberRanges(numbers: readonly number[]): string {
  const sorted = [...numbers].sort((a, b) => a - b);
  const runs: { says: string; count: number }[] = [];
  for (let i = 0; i < sorted.length;) {
    let j = i;
    while (j + 1 < sorted.length && (sorted[j + 1] ?? 0) === (sorted[j] ?? 0) + 1) j++;
    runs.push({ says: i === j ? `${sorted[i]}` : `${sorted[i]}–${sorted[j]}`, count: j - i + 1 });
    i = j + 1;
  }
  if (runs.length <= MOST_RUNS) return runs.map((r) => r.says).join(', ');
  const shown = runs.slice(0, MOST_RUNS - 1);
  const more = runs.slice(MOST_RUNS - 1).reduce((n, r) => n + r.count, 0);
  return `${shown.map((r) => r.says).join(', ')} and ${more} more`;
}

/** As a sentence or a label begins. */
export const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** Words over several lines, with tabs and double spaces, as one line. */
export const oneLine = (words: string): string => words.replace(/\s+/g, ' ').trim();
