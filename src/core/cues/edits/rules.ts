/** What every edit of cues keeps to: numbers are free, nothing loops in no time, what leans on a deleted cue goes with it. */
import { formatCueNumber } from '../number.ts';
import { listBefore } from '../called.ts';
import { bookAfter } from '../after.ts';
import { cueTotal, rounds } from '../loops.ts';
import { refuse, type Refusal, type Result } from '../../refusal.ts';
import type { CueRow } from '../rows.ts';
import type { RowChange, Show } from '../../show/show.ts';

/** Said where cues that were chosen are not there any more. */
export const GONE = 'One of these cues has been deleted meanwhile. Nothing was changed.';

/** The cues with these ids in list order, or a refusal when one is gone or they are of several lists. */
export function cuesById(show: Show, ids: readonly string[]): Result<CueRow[]> {
  const cues = [...new Set(ids)].flatMap((id) => show.cues.get(id) ?? []);
  if (cues.length !== new Set(ids).size) return refuse('not-found', GONE);
  if (new Set(cues.map((c) => c.listId)).size > 1)
    return refuse('invalid', 'These cues are in different lists: choose those of one list.');
  return cues.sort((a, b) => a.number - b.number);
}

/** `cue 5`, `cues 5, 6 and 8`, `cues 5 to 12`, `list 2 cue 5`: cues of one list. */
export function sayCues(cues: readonly Pick<CueRow, 'number' | 'listId'>[], show: Show): string {
  const numbers = cues.map((c) => formatCueNumber(c.number));
  const list = listBefore(show, cues[0]?.listId ?? '');
  if (numbers.length === 1) return `${list}cue ${numbers[0]}`;
  if (numbers.length > 4)
    return `${list}${numbers.length} cues, ${numbers[0]} to ${numbers.at(-1)}`;
  return `${list}cues ${numbers.slice(0, -1).join(', ')} and ${numbers.at(-1)}`;
}

/** Taken numbers, in words, if any of these is. */
export function clash(
  show: Show,
  listId: string,
  numbers: readonly number[],
  moving: ReadonlySet<string> = new Set(),
): Refusal | undefined {
  const wanted = new Set(numbers);
  if (wanted.size < numbers.length)
    return refuse('clash', 'Two of these cues would have the same number. Nothing was changed.', {
      number: 'Twice.',
    });
  const taken = show.cuesOf(listId).filter((c) => wanted.has(c.number) && !moving.has(c.id));
  const [first] = taken;
  if (!first) return undefined;
  return refuse(
    'clash',
    taken.length === 1
      ? `Cue ${formatCueNumber(first.number)} exists already${first.name ? ` (${first.name})` : ''}. Nothing was changed.`
      : `${taken.length} of these numbers are taken: ${taken
          .slice(0, 5)
          .map((c) => formatCueNumber(c.number))
          .join(', ')}${taken.length > 5 ? ' …' : ''}. Nothing was changed.`,
    { number: 'This number is taken.' },
  );
}

/** A list that would go round for ever within one instant is refused: nobody could stop it. */
export function standsStill(
  show: Show,
  listId: string,
  changes: readonly RowChange[],
): Refusal | undefined {
  const after = bookAfter(show, changes);
  const round = rounds(after.lists.get(listId), after.cuesOf(listId), cueTotal).find(
    (r) => r.time_s === 0,
  );
  if (!round) return undefined;
  const [first] = round.cues;
  const through =
    round.cues.length === 1
      ? 'would follow itself'
      : `and ${sayCues(round.cues.slice(1), show)} would follow each other in a circle`;
  return refuse(
    'loop',
    `Cue ${formatCueNumber(first?.number ?? 0)} ${through} without any time passing. Give one of them a time; nothing was changed.`,
    { follow_s: 'A circle in no time.' },
  );
}

/** `; 3 values that tracked on went into cue 6`. */
export function sayKept(show: Show, written: readonly RowChange[]): string {
  if (written.length === 0) return '';
  const cues = [
    ...new Set(
      written.flatMap((c) => (c.table === 'values' ? [(c.after ?? c.before)?.cueId ?? ''] : [])),
    ),
  ]
    .flatMap((id) => show.cues.get(id) ?? [])
    .sort((a, b) => a.number - b.number);
  return `; ${written.length === 1 ? '1 value that tracked on went' : `${written.length} values that tracked on went`} into ${cues.length > 0 ? sayCues(cues, show) : 'the new cues'}`;
}
