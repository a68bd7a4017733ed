/** Words of a line: split, with their places; and verbs that several readers know. */
/** Words that set something of the picture: a line may say several of them one after the other. */
export const SETTING_VERBS = [
  'palette',
  'look',
  'effect',
  'colour',
  'color',
  'white',
  'hue',
  'aim',
  'home',
  'like',
] as const;
/** What may follow a selection besides a level. */
export const STAGE_VERBS: ReadonlySet<string> = new Set([
  ...SETTING_VERBS,
  'flip',
  'take',
  'let',
  'letgo',
  'place',
  'rotate',
  'lean',
  'hang',
  'align',
  'distribute',
  'record',
  'hold',
  'guard',
]);

/** A piece of a line, with where it begins. */
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
