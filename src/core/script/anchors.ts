/** Places of calls in a script, and where they are in its next draft: found by what stands around them. */
import { clamp } from '../numbers.ts';
import type { CallRow } from './rows.ts';

/** Characters kept before and after a call. */
const CONTEXT = 60;
/** So much of what stood around it must stand there again for a call to need no look. */
const SURE = 12;
const ENOUGH = 6;
/** What is looked for when the words themselves are gone. */
const TRAIL = 24;

/** Where a call stands in a script, and what stood around it. */
export type Place = Pick<CallRow, 'from' | 'to' | 'quote' | 'before' | 'after'>;

/** A call on these characters, with what it is known by. */
export const placeAt = (text: string, from: number, to: number): Place => ({
  from,
  to,
  quote: text.slice(from, Math.min(to, from + 200)),
  before: text.slice(Math.max(0, from - CONTEXT), from),
  after: text.slice(to, to + CONTEXT),
});

/** The word at a place of the text; nothing between words. */
export function wordAt(text: string, at: number): { from: number; to: number } | undefined {
  const part = /[\p{L}\p{N}’'\-!?…]/u;
  if (!part.test(text[at] ?? '')) return undefined;
  let from = at;
  let to = at + 1;
  while (from > 0 && part.test(text[from - 1] ?? '')) from--;
  while (to < text.length && part.test(text[to] ?? '')) to++;
  return { from, to };
}

/** Text as it is compared: spaces and line ends alike, quotation marks plain, small letters. `at` leads back to the original. */
interface Plain {
  text: string;
  at: Uint32Array;
}
const PLAIN_QUOTES: Readonly<Record<string, string>> = { '’': "'", '‘': "'", '“': '"', '”': '"' };

function plain(text: string): Plain {
  const at = new Uint32Array(text.length + 1);
  let out = '';
  let space = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i] as string;
    if (/\s/.test(c)) {
      space = out.length > 0;
      continue;
    }
    if (space) {
      at[out.length] = i - 1;
      out += ' ';
      space = false;
    }
    at[out.length] = i;
    out += PLAIN_QUOTES[c] ?? c.toLowerCase()[0];
  }
  at[out.length] = text.length;
  return { text: out, at };
}

const commonEnd = (a: string, b: string): number => {
  let n = 0;
  while (n < a.length && n < b.length && a[a.length - 1 - n] === b[b.length - 1 - n]) n++;
  return n;
};
const commonStart = (a: string, b: string): number => {
  let n = 0;
  while (n < a.length && n < b.length && a[n] === b[n]) n++;
  return n;
};

/** Calls of a script as they stand in its new text; those that need a look say why. */
export function reanchor<C extends Place & Pick<CallRow, 'standby'>>(
  oldText: string,
  newText: string,
  calls: readonly C[],
): (C & Pick<CallRow, 'check'>)[] {
  const next = plain(newText);
  return calls.map((call) => {
    const found = find(next, call, oldText.length);
    const place = placeAt(newText, found.from, found.to);
    const { check, standby, ...rest } = call as C & Pick<CallRow, 'check'>;
    void check;
    const moved = { ...rest, ...place } as C & Pick<CallRow, 'check'>;
    // A stand-by keeps its distance to the call that it announces.
    if (standby !== undefined)
      moved.standby = Math.max(0, Math.min(newText.length, found.from - (call.from - standby)));
    if (found.check) moved.check = found.check;
    return moved;
  });
}

/** Places looked at on either side: a word that stands everywhere is looked for where it was. */
const PLACES_LOOKED_AT = 400;

/** Where some words stand, from a place outwards, in the order of the text. */
function placesNear(text: string, words: string, from: number): number[] {
  const places: number[] = [];
  for (
    let at = text.lastIndexOf(words, from);
    at >= 0 && places.length < PLACES_LOOKED_AT;
    at = at === 0 ? -1 : text.lastIndexOf(words, at - 1)
  )
    places.unshift(at);
  const before = places.length;
  for (
    let at = text.indexOf(words, from + 1);
    at >= 0 && places.length < before + PLACES_LOOKED_AT;
    at = text.indexOf(words, at + 1)
  )
    places.push(at);
  return places;
}

function find(
  next: Plain,
  call: Place,
  oldLength: number,
): { from: number; to: number; check?: 'changed' | 'lost' } {
  const quote = plain(call.quote).text;
  // A mark on the side of the call keeps the space that stands there.
  const before = plain(`${call.before}|`).text.slice(0, -1);
  const after = plain(`|${call.after}`).text.slice(1);
  const share = call.from / Math.max(1, oldLength);
  const span = (from: number, length: number): { from: number; to: number } => ({
    from: next.at[from] ?? 0,
    to: (next.at[from + Math.max(1, length) - 1] ?? 0) + 1,
  });
  let best: { from: number; score: number; far: number } | undefined;
  const places =
    quote === '' ? [] : placesNear(next.text, quote, Math.round(share * next.text.length));
  for (const at of places) {
    const score =
      commonEnd(before, next.text.slice(Math.max(0, at - CONTEXT), at)) +
      commonStart(after, next.text.slice(at + quote.length, at + quote.length + CONTEXT));
    const far = Math.abs(at / Math.max(1, next.text.length) - share);
    if (!best || score > best.score || (score === best.score && far < best.far))
      best = { from: at, score, far };
  }
  const count = places.length;
  const around = Math.min(SURE, before.length + after.length);
  if (best && (best.score >= around || (count === 1 && quote.length >= ENOUGH && best.score >= 1)))
    return span(best.from, quote.length);
  // The words have changed: what stood right before or after them may still be there.
  const trail = before.slice(-TRAIL).trim();
  const at = trail.length >= ENOUGH ? next.text.indexOf(trail) : -1;
  if (at >= 0 && (!best || best.score < ENOUGH))
    return {
      ...span(
        clamp(next.text.length - 1, 0, at + trail.length + 1),
        wordLength(next.text, at + trail.length + 1),
      ),
      check: 'changed',
    };
  const head = after.slice(0, TRAIL).trim();
  const ahead = head.length >= ENOUGH ? next.text.indexOf(head) : -1;
  if (ahead >= 0 && (!best || best.score < ENOUGH)) {
    const last = /\S+\s*$/.exec(next.text.slice(Math.max(0, ahead - 60), ahead))?.[0] ?? '';
    const start = ahead - last.length;
    return {
      ...span(start, last.length > 0 ? last.trimEnd().length : wordLength(next.text, ahead)),
      check: 'changed',
    };
  }
  if (best) return { ...span(best.from, quote.length), check: 'changed' };
  const guess = Math.min(Math.max(0, next.text.length - 1), Math.round(share * next.text.length));
  return { ...span(guess, wordLength(next.text, guess)), check: 'lost' };
}

const wordLength = (text: string, at: number): number =>
  Math.max(1, (/^\S*/.exec(text.slice(at, at + 60))?.[0] ?? '').length);

/** A file's bytes as text: UTF-8, UTF-16 with its mark, else Windows-1252; undefined for what is no text. */
export function decodeText(
  bytes: Uint8Array,
): { text: string; encoding: 'UTF-8' | 'UTF-16' | 'Windows-1252' } | undefined {
  const clean = (text: string): string => text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n');
  const [a, b] = bytes;
  if ((a === 0xff && b === 0xfe) || (a === 0xfe && b === 0xff))
    return {
      text: clean(new TextDecoder(a === 0xff ? 'utf-16le' : 'utf-16be').decode(bytes)),
      encoding: 'UTF-16',
    };
  if (bytes.includes(0)) return undefined;
  try {
    return {
      text: clean(new TextDecoder('utf-8', { fatal: true }).decode(bytes)),
      encoding: 'UTF-8',
    };
  } catch {
    return { text: clean(new TextDecoder('windows-1252').decode(bytes)), encoding: 'Windows-1252' };
  }
}

/** What a file looks like to be written in, by its name and its first lines. */
export function guessFormat(
  name: string,
  text: string,
): 'plain' | 'markdown' | 'fountain' | 'order' {
  if (/\.fountain$/i.test(name)) return 'fountain';
  if (/\.(md|markdown)$/i.test(name)) return 'markdown';
  const lines = text.split('\n', 200).filter((l) => l.trim() !== '');
  if (
    lines.length > 0 &&
    lines.filter((l) => /\|.*\|\s*\d*:?\d*/.test(l)).length > lines.length / 2
  )
    return 'order';
  if (/^(title|credit|author)\s*:/i.test(text) || lines.some((l) => /^(@\S|INT\.|EXT\.)/.test(l)))
    return 'fountain';
  if (lines.some((l) => /^#{1,6}\s|^\*\*.+\*\*$/.test(l))) return 'markdown';
  return 'plain';
}
