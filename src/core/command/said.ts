/** What several readers read alike: rows by number or name, families, times, points; and an edit that is tried before it is offered. */
import { planEdit } from '../edits/plan-edit.ts';
import type { LiveCommand } from '../live/commands.ts';
import type { PaletteRow } from '../palettes/rows.ts';
import { isRefusal } from '../refusal.ts';
import { plain } from '../rig/search.ts';
import { FAMILIES, type Family, type StagePoint } from '../show/fields.ts';
import type { Read } from './intent.ts';
import { Complaint, type Reader } from './reader.ts';
import type { Word } from './words.ts';

/** The family that a word names, in either spelling of colour. */
export const familyNamed = (word: Word | undefined): Family | undefined =>
  FAMILIES.find((f) => f === (word?.key === 'color' ? 'colour' : word?.key));

/** A family, where one is said. */
export function family(r: Reader): Family | undefined {
  const found = familyNamed(r.peek());
  if (found) r.next();
  return found;
}

/** A family as commands have it; nothing where none is said. */
export const ofFamily = (found: Family | undefined): { families?: Family[] } =>
  found ? { families: [found] } : {};

/** Done at once, and the line ends there. */
export function live(r: Reader, command: LiveCommand, says: string): Read {
  r.end();
  return { intent: { kind: 'live', command }, says };
}

/** A number, where one is said: of something that may be there or not. */
export const numberSaid = (r: Reader, what: string): number | undefined =>
  /^\d+$/.test(r.peek()?.text ?? '') ? r.whole(what) : undefined;

/** A row by its number or, in quotes, its name. */
export function named<T extends { number: number; name: string }>(
  r: Reader,
  rows: Iterable<T>,
  what: string,
): T {
  const word = r.next();
  const all = [...rows];
  const found =
    word &&
    (word.quoted
      ? all.find((x) => plain(x.name) === plain(word.text))
      : all.find((x) => String(x.number) === word.text));
  if (!word || (!word.quoted && !/^\d+$/.test(word.text)))
    throw new Complaint(
      word
        ? `“${word.text}” is not ${what} number; a name goes in quotes.`
        : `Here ${what} number is missing.`,
      word ?? r.previous(),
    );
  if (!found)
    throw new Complaint(
      `There is no ${what.replace(/^an? /, '')} ${word.quoted ? `“${word.text}”` : word.text}.`,
      word,
    );
  return found;
}

/** After `time` or `in`: so many seconds; undefined where neither is said. */
export const seconds = (r: Reader): number | undefined =>
  r.takeKey('time', 'in') ? r.seconds() : undefined;
/** ` in 4 s`; empty for none and for 0. */
export const inTime = (fade_s: number | undefined): string =>
  fade_s === undefined || fade_s === 0 ? '' : ` in ${fade_s} s`;
/** A fade time as commands have it; nothing where none is said. */
export const timed = (fade_s: number | undefined): { fade_s?: number } =>
  fade_s === undefined ? {} : { fade_s };

/** A number with a sign and an `m` for metres, as places are said. @param what it is, for the complaint */
export function decimal(r: Reader, what: string): number {
  const sign = r.takeKey('-') ? -1 : 1;
  const word = r.next();
  if (!word || !/^\d+(\.\d+)?(m|°|k|deg|%)?$/i.test(word.text))
    throw new Complaint(
      word ? `“${word.text}” is not ${what}.` : `Here ${what} is missing.`,
      word ?? r.previous(),
    );
  return sign * Number.parseFloat(word.text);
}

/** `0 3.4 1.6`, `"Bow rail"`, `palette 12`: a stage point in metres, or one that has a name; `high` where its height was said. */
export function point(r: Reader): {
  at: StagePoint;
  says: string;
  high: boolean;
  palette?: PaletteRow;
} {
  const points = [...r.context.show.palettes.values()].filter(
    (p) => p.family === 'position' && p.any?.point,
  );
  if (r.peek()?.quoted || r.takeKey('palette')) {
    const palette = named(r, points, 'a stage point’s');
    return {
      at: palette.any?.point ?? { x: 0, y: 0, z: 0 },
      says: `“${palette.name}”`,
      high: true,
      palette,
    };
  }
  const x = decimal(r, 'metres across');
  r.takeKey(',');
  const y = decimal(r, 'metres upstage');
  r.takeKey(',');
  const high = !r.done && /^[-\d]/.test(r.peek()?.text ?? '');
  const z = high ? decimal(r, 'metres up') : 0;
  return { at: { x, y, z }, says: `${x} ${y} ${z} m`, high };
}

/** An edit, once it is known that it can be done: what is wrong with it is said while it is typed. */
export function edit(r: Reader, name: string, params: Record<string, unknown>, says: string): Read {
  r.end();
  const planned = planEdit(r.context.show, 'owner', name, params, 'preview');
  if (isRefusal(planned)) throw new Complaint(planned.message, r.previous());
  return { intent: { kind: 'edit', edit: name, params }, says };
}
