/**
 * Words on a hand's displays. Each device has a message of its own for that, so that a hand says how its is made: bytes in
 * hex from F0 to F7, with `nn` for the number of the part, `cc` for its channel from 0, and `tt` for the letters.
 */
import type { Show } from '../show/show.ts';
import { partsOn, type ControlId, type HandRow } from './rows.ts';
import { sayAct } from './words.ts';

/** Letters of 7 bits, as displays have them: marks go, what has no letter there is a question mark. */
const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replaceAll(/\p{M}/gu, '')
    .replaceAll(/[“”„]/g, '"')
    .replaceAll(/[‘’]/g, "'")
    .replaceAll(/[–—]/g, '-')
    .replaceAll('…', '...')
    .replaceAll('→', '>')
    .replaceAll(/[^\x20-\x7e]/gu, '?');

/** Letters from the left, filled up with spaces: what stood there before goes. */
const lettersOf = (text: string, count: number): number[] =>
  [...plain(text).slice(0, count).padEnd(count)].map((c) => c.charCodeAt(0));

/**
 * The message that writes a text for a part of a hand. @returns undefined for parts that are no note, control or bend, and
 * for a hand without displays
 */
export function wordsMidi(
  hand: Pick<HandRow, 'displays'>,
  control: ControlId,
  text: string,
): number[] | undefined {
  const { displays } = hand;
  const [kind = '', channel = '1', number = '0'] = control.split('.');
  if (!displays || !['note', 'cc', 'bend'].includes(kind)) return undefined;
  return displays.bytes.split(' ').flatMap((byte) => {
    if (byte === 'tt') return lettersOf(text, displays.letters);
    if (byte === 'nn') return [Number(number)];
    return [byte === 'cc' ? Number(channel) - 1 : Number.parseInt(byte, 16)];
  });
}

/** What stands on each part of a hand on a page of it: what it does there, or nothing. */
export function wordsOfParts(show: Show, hand: HandRow, page: number): Map<ControlId, string> {
  const words = new Map<ControlId, string>();
  if (!hand.displays) return words;
  for (const [control, act] of partsOn(hand, page))
    words.set(control, act ? (sayAct(show, act) ?? 'deleted') : '');
  return words;
}
