/** What is odd in a file from elsewhere: mended or left out, and said line by line. */

export interface Odd {
  /** In the file: a mode, a channel, a line. */
  where: string;
  /** What is odd, and what was made of it. */
  text: string;
}

/** More lines than this nobody reads. */
const MOST_LINES = 500;

/** What was odd in a file, each said once, and not more of them than people read. */
export class Oddities {
  readonly list: Odd[] = [];
  private more = 0;
  private readonly known = new Set<string>();

  /** Said once, however often it happens in one place. */
  add(where: string, text: string): void {
    const key = `${where}\n${text}`;
    if (this.known.has(key)) return;
    if (this.list.length >= MOST_LINES) {
      this.more++;
      return;
    }
    this.known.add(key);
    this.list.push({ where, text });
  }

  /** All of them, and how many more there were. */
  all(): Odd[] {
    return this.more === 0
      ? this.list
      : [...this.list, { where: 'the file', text: `and ${this.more} more of this kind` }];
  }
}
