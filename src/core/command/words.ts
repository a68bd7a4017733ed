/** Splits what was typed into words with their places, so that an error can point at one. */
export interface Word {
  text: string;
  /** Lower case, for keywords. */
  key: string;
  at: number;
  quoted: boolean;
}

/** Quoted text is one word; `+`, `-`, `,` and `/` between numbers stand alone; `1-4` is not a number but three words. */
export function splitWords(text: string): Word[] {
  const words: Word[] = [];
  const pattern = /"([^"]*)"?|“([^”]*)”?|[+,\-/]|[^\s+,\-/"“]+/g;
  for (const match of text.matchAll(pattern)) {
    const quoted = match[0].startsWith('"') || match[0].startsWith('“');
    const value = quoted ? (match[1] ?? match[2] ?? '') : match[0];
    words.push({ text: value, key: quoted ? '' : value.toLowerCase(), at: match.index, quoted });
  }
  return words;
}
