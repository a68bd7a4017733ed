/** Reading words, numbers, times and cue numbers; what is wrong is a Complaint that knows its word. */
import { seconds, timeProblem } from '../cues/clock.ts';
import { parseCueNumber } from '../cues/number.ts';
import { LIMITS, type Family, type FixtureRow } from '../show/rows.ts';
import type { Show } from '../show/show.ts';
import type { Word } from './words.ts';

export interface CommandContext {
  show: Show;
  /** Selected fixture ids in order. */
  selection: readonly string[];
  /** The cue on stage. */
  cueId: string | null;
  /** Values that the operator holds and has not recorded. */
  unrecorded: number;
  /** Values held, of a family or all. */
  held: (family?: Family) => number;
  /** Fixtures that are lit now, by number. */
  lit: () => readonly string[];
}

/** Not understood, with the word to point at. */
export class Complaint extends Error {
  constructor(
    message: string,
    readonly word: Word | undefined,
  ) {
    super(message);
  }
}

export const THRU = new Set(['thru', 'through', 'to']);
export const SELECTION_END = new Set(['at', 'time', 'delay', 'full', 'out', 'patch', 'number', 'copy', 'park', 'palette', 'look', 'effect', 'colour', 'color', 'white', 'hue', 'aim', 'flip', 'home', 'take', 'let', 'letgo', 'hold', 'place', 'rotate', 'lean', 'hang', 'align', 'distribute', 'record', 'by', 'fan']);

/** Goes along the words of a line. */
export class Reader {
  private n = 0;
  constructor(
    private readonly words: Word[],
    readonly context: CommandContext,
    private readonly text: string,
  ) {}

  /** All that is left, as it was typed. */
  rest(): string {
    const word = this.peek();
    this.n = this.words.length;
    return word ? (word.quoted ? word.text : this.text.slice(word.at).trim()) : '';
  }

  peek(ahead = 0): Word | undefined {
    return this.words[this.n + ahead];
  }
  next(): Word | undefined {
    return this.words[this.n++];
  }
  takeKey(...keys: string[]): Word | undefined {
    const word = this.peek();
    return word && keys.includes(word.key) ? this.next() : undefined;
  }
  get done(): boolean {
    return this.n >= this.words.length;
  }
  /** Back to a word that was read. */
  backTo(word: Word): void {
    this.n = Math.max(0, this.words.indexOf(word));
  }
  previous(): Word | undefined {
    return this.words[Math.min(this.n, this.words.length) - 1];
  }

  end(): void {
    const word = this.peek();
    if (word) throw new Complaint(`“${word.text}” is not understood here.`, word);
  }

  whole(what: string): number {
    const word = this.next();
    if (!word || !/^\d{1,9}$/.test(word.text)) throw new Complaint(word ? `“${word.text}” is not ${what}.` : `Here ${what} is missing.`, word ?? this.previous());
    return Number(word.text);
  }

  fixture(): FixtureRow {
    const number = this.whole('a fixture number');
    const fixture = this.context.show.fixtureByNumber(number);
    if (!fixture) throw new Complaint(`There is no fixture ${number}.`, this.previous());
    return fixture;
  }

  seconds(): number {
    const word = this.next();
    if (!word) throw new Complaint('Here a time in seconds is missing.', this.previous());
    const value = seconds(word.text);
    if (value === undefined) throw new Complaint(timeProblem(word.text) ?? 'This is no time.', word);
    if (value > LIMITS.time_s) throw new Complaint(`A time is at most ${LIMITS.time_s / 3600} hours.`, word);
    return value;
  }

  cueNumber(): number {
    const word = this.next();
    const number = word ? parseCueNumber(word.text) : undefined;
    if (number === undefined) throw new Complaint(word ? `“${word.text}” is not a cue number; they look like 2, 2.5 or 10.125.` : 'Here a cue number is missing.', word ?? this.previous());
    return number;
  }

  /** `up/down`, or one time for both. */
  upDown(): { up_s: number; down_s: number } {
    const up_s = this.seconds();
    return this.takeKey('/') ? { up_s, down_s: this.seconds() } : { up_s, down_s: up_s };
  }
}
