/** How cues are called where there are several lists. */
import { firstList, type Show } from '../show/show.ts';
import { formatCueNumber } from './number.ts';

/** `list 2 ` before a cue; nothing in the show's first list, whose cues go by their number alone. */
export function listBefore(show: Pick<Show, 'lists'>, listId: string): string {
  const list = show.lists.get(listId);
  return !list || list.id === firstList(show)?.id ? '' : `list ${list.number} `;
}

/** `6, 7 and 9`, `6, 7, list 2 8, 9 and 12 more`. */
export function sayNumbers(
  show: Pick<Show, 'lists'>,
  cues: readonly { listId: string; number: number }[],
): string {
  const numbers = cues
    .slice(0, 4)
    .map((c) => `${listBefore(show, c.listId)}${formatCueNumber(c.number)}`);
  if (cues.length > 4) return `${numbers.join(', ')} and ${cues.length - 4} more`;
  return numbers.length > 1
    ? `${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`
    : (numbers[0] ?? '');
}

/** `cue 5 “Bell”`, `list 2 cue 5 “Bell”`. @param number in thousandths */
export const cueCalled = (
  show: Pick<Show, 'lists'>,
  cue: { listId: string; number: number; name?: string },
): string =>
  `${listBefore(show, cue.listId)}cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}`;

/** The same at the start of a sentence. */
export const cueFirst = (
  show: Pick<Show, 'lists'>,
  cue: { listId: string; number: number; name?: string },
): string => cueCalled(show, cue).replace(/^./, (first) => first.toUpperCase());
