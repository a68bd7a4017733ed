/** Reading words, numbers, times and cue numbers; what is wrong is a Complaint that knows its word. */
import { seconds, timeProblem } from '../cues/clock.ts';
import { formatCueNumber, parseCueNumber } from '../cues/number.ts';
import type { LevelOf } from '../aim/lights.ts';
import { LIMITS, type Family } from '../show/fields.ts';
import type { CueRow } from '../cues/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { ListRow } from '../lists/rows.ts';
import { firstList, type Show } from '../show/show.ts';
import { STAGE_VERBS, type Word } from './words.ts';

/** What words of a line may mean, where and by whom it is typed. */
export interface CommandContext {
  show: Show;
  /** Selected fixture ids in order. */
  selection: readonly string[];
  /** The list that is shown where the line is typed; null where none is: the show’s first. */
  listId: string | null;
  /** The cue of a list that is on stage. */
  cueOn: (listId: string) => string | null;
  /** Values that the operator holds and has not recorded. */
  unrecorded: number;
  /** Values held, of a family or all. */
  held: (family?: Family) => number;
  /** Fixtures that are lit now, by number. */
  lit: () => readonly string[];
  /** Level of a unit’s attribute as it plays now. */
  levelOf: LevelOf;
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

/** Words between the ends of a range. */
export const THRU = new Set(['thru', 'through', 'to']);
/** Words with which a selection is over and something is done with it. */
export const SELECTION_END: ReadonlySet<string> = new Set([
  ...STAGE_VERBS,
  'at',
  'time',
  'delay',
  'full',
  'out',
  'patch',
  'number',
  'copy',
  'park',
  'play',
  'by',
  'fan',
]);

/** Goes along the words of a line. */
export class Reader {
  private n = 0;
  /** What is said of cues is said of this list: the one that is shown, or the one that the line begins with. */
  list: ListRow | undefined;
  listSaid = false;
  /** Instead of the numbers of what was chosen. */
  chosenSays: string | undefined;
  /** Where a line may say another thing after one that is whole: what such a thing begins with. */
  goesOn: (word: Word) => boolean = () => false;
  constructor(
    private readonly words: Word[],
    readonly context: CommandContext,
    private readonly text: string,
  ) {
    this.list = context.show.lists.get(context.listId ?? '') ?? firstList(context.show);
  }

  /** The cue on stage of the list in question. */
  get onStage(): CueRow | undefined {
    return this.context.show.cues.get(this.context.cueOn(this.list?.id ?? '') ?? '');
  }

  /** ` of list 2 “Lanterns”` where there are several lists, so that a line says which one it is about. */
  get ofList(): string {
    return this.list && this.context.show.lists.size > 1
      ? ` of list ${this.list.number} “${this.list.name}”`
      : '';
  }

  /** `list 2`, `list "Lanterns"`: what follows is said of this list. @returns whether one was named */
  takeList(): boolean {
    if (!this.takeKey('list')) return false;
    const word = this.next();
    const found = [...this.context.show.lists.values()].find((l) =>
      word?.quoted
        ? l.name.toLowerCase() === word.text.toLowerCase()
        : String(l.number) === word?.text,
    );
    if (!word || !found)
      throw new Complaint(
        word
          ? `There is no list ${word.quoted ? `“${word.text}”` : word.text}.`
          : 'Here a list number is missing.',
        word ?? this.previous(),
      );
    this.list = found;
    this.listSaid = true;
    return true;
  }

  /** A cue of the list in question, by the number that comes next. */
  cue(): CueRow {
    const number = this.cueNumber();
    const cue = this.list
      ? this.context.show.cuesOf(this.list.id).find((c) => c.number === number)
      : undefined;
    if (!cue)
      throw new Complaint(
        `There is no cue ${formatCueNumber(number)}${this.ofList}.`,
        this.previous(),
      );
    return cue;
  }

  /** All that is left, as it was typed. */
  rest(): string {
    const word = this.peek();
    this.n = this.words.length;
    if (!word) return '';
    return word.quoted ? word.text : this.text.slice(word.at).trim();
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
    if (word && !this.goesOn(word))
      throw new Complaint(`“${word.text}” is not understood here.`, word);
  }

  whole(what: string): number {
    const word = this.next();
    if (!word || !/^\d{1,9}$/.test(word.text))
      throw new Complaint(
        word ? `“${word.text}” is not ${what}.` : `Here ${what} is missing.`,
        word ?? this.previous(),
      );
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
    if (value === undefined)
      throw new Complaint(timeProblem(word.text) ?? 'This is no time.', word);
    if (value > LIMITS.time_s)
      throw new Complaint(`A time is at most ${LIMITS.time_s / 3600} hours.`, word);
    return value;
  }

  cueNumber(): number {
    const word = this.next();
    const number = word ? parseCueNumber(word.text) : undefined;
    if (number === undefined)
      throw new Complaint(
        word
          ? `“${word.text}” is not a cue number; they look like 2, 2.5 or 10.125.`
          : 'Here a cue number is missing.',
        word ?? this.previous(),
      );
    return number;
  }

  /** `up/down`, or one time for both. */
  upDown(): { up_s: number; down_s: number } {
    const up_s = this.seconds();
    return this.takeKey('/') ? { up_s, down_s: this.seconds() } : { up_s, down_s: up_s };
  }
}
