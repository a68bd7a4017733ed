/** What a designer liked and looks different by now: the word is lost, with what changed the cue. */
import { cueWritten } from '../cues/after.ts';
import { consequences } from '../cues/consequences.ts';
import { formatCueNumber } from '../cues/number.ts';
import type { LikeRow } from './rows.ts';
import { sayRow } from '../show/say.ts';
import type { RowChange, Show } from '../show/show.ts';
import { altered } from '../show/undo.ts';

/** Fields of a cue that nobody sees on the stage. */
const WORDS: ReadonlySet<string> = new Set([
  'name',
  'note',
  'operatorNote',
  'designerNote',
  'number',
  'call',
]);
const SAID = 2;
const MOST_CHARACTERS = 480;

/**
 * Rows of likes that these changes take away. A like that is itself among the changes is as they say.
 * Cost: that of `consequences`, and only where somebody likes something.
 */
export function likesLost(
  show: Show,
  changes: readonly RowChange[],
  by: LikeRow['by'],
): RowChange[] {
  const standing = [...show.likes.values()].filter(
    (l) => !l.lost && !changes.some((c) => c.table === 'likes' && c.id === l.id),
  );
  if (standing.length === 0) return [];
  const own = new Map<string, RowChange[]>();
  for (const c of changes) {
    const cueId = cueWritten(c);
    if (cueId !== undefined && !isUnseen(c)) own.set(cueId, [...(own.get(cueId) ?? []), c]);
  }
  const tracked = new Map(
    consequences(show, changes, new Set(own.keys())).map((c) => [c.cueId, c]),
  );
  return standing.flatMap((like): RowChange[] => {
    const cue = show.cues.get(like.cueId);
    const rows = own.get(like.cueId);
    const through = tracked.get(like.cueId);
    if (!cue || (!rows && !through)) return [];
    const text = rows
      ? `${rows
          .slice(0, SAID)
          .map((r) => sayOf(show, r))
          .join('; ')}${rows.length > SAID ? `; and ${rows.length - SAID} more` : ''}`
      : `${through?.slots === 1 ? '1 value' : `${through?.slots} values`} that it shows changed in ${sayOrigin(show, changes)}`;
    return [
      {
        table: 'likes',
        id: like.id,
        before: like,
        after: { ...like, lost: { by, text: text.slice(0, MOST_CHARACTERS) } },
      },
    ];
  });
}

/** A cue that comes or goes had no look that somebody liked; and what it is called is no look. */
const isUnseen = (c: RowChange): boolean =>
  c.table === 'cues' && (!c.before || !c.after || altered(c).every((f) => WORDS.has(f)));

/** Of the cue itself what it is called is known. */
const sayOf = (show: Show, row: RowChange): string =>
  row.table === 'cues' ? sayRow(show, row).replace(/^cue [^:]*: /, '') : sayRow(show, row);

/** Where a change came from that is seen in other cues. */
function sayOrigin(show: Show, changes: readonly RowChange[]): string {
  const [first] = changes;
  const cue = show.cues.get((first && cueWritten(first)) ?? '');
  if (cue) return `cue ${formatCueNumber(cue.number)}`;
  if (first?.table !== 'palettes' && first?.table !== 'looks' && first?.table !== 'effects')
    return 'what it follows';
  return `${first.table.slice(0, -1)} “${(first.after ?? first.before)?.name ?? ''}”`;
}
