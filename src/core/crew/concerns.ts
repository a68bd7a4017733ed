/** Whom a change concerns besides its author, and in what words: whose work it undid or wrote over, who was given or noted what. */
import { cueWritten } from '../cues/after.ts';
import { formatCueNumber } from '../cues/number.ts';
import { aboutNote, noteWords } from '../notes/words.ts';
import { plural } from '../words.ts';
import type { InboxKind, InboxPlace } from '../live/inbox.ts';
import type { NoteRow } from '../notes/rows.ts';
import { sayRow } from '../show/say.ts';
import type { RowChange, Show } from '../show/show.ts';
import type { PartRow } from '../crew/rows.ts';
import { altered, type Change } from '../show/undo.ts';
import { same } from '../same.ts';

/** Something for a person’s inbox. */
export interface Concern {
  userId: string;
  kind: InboxKind;
  text: string;
  place: InboxPlace | null;
}

/** What a change is judged against. */
export interface Against {
  /** The change that this one undoes, if it undoes one. */
  reverted?: Change | undefined;
  /** Changes that its author may have written over, oldest first. */
  past: readonly Change[];
  /** Who has worked on a cue, for what is noted about it. */
  madeBy: (cueId: string) => readonly string[];
}

/** Said of one in full; the rest is counted. */
const SAID = 2;
const MOST_CHARACTERS = 400;
const short = (text: string): string =>
  text.length > MOST_CHARACTERS ? `${text.slice(0, MOST_CHARACTERS - 1)}…` : text;

/**
 * @param show as it was before the change
 * @returns at most one concern for a person and kind of doing; never one of the author's own
 */
export function concernsOf(show: Show, change: Change, against: Against): Concern[] {
  const { userId, userName } = change;
  const found = [
    ...undone(show, change, against.reverted),
    ...writtenOver(show, change, against.past),
    ...parts(show, change),
    ...notes(show, change, against),
    ...likes(show, change),
  ];
  const mine = new Set<string>();
  return found
    .filter((c) => {
      const key = `${c.userId}/${c.kind}`;
      if (c.userId === userId || c.userId === '' || mine.has(key)) return false;
      mine.add(key);
      return true;
    })
    .map((c) => ({ ...c, text: short(`${userName} ${c.text}`) }));
}

function undone(show: Show, change: Change, reverted: Change | undefined): Concern[] {
  if (!reverted || change.edit !== 'undo') return [];
  return [
    {
      userId: reverted.userId,
      kind: 'undone',
      text: `undid “${reverted.summary}”, which was yours.`,
      place: placeOf(show, change.rows),
    },
  ];
}

const HOW: Record<string, (n: number, summary: string) => string> = {
  restore: (n, summary) =>
    `${summary.charAt(0).toLowerCase()}${summary.slice(1)}: ${plural(n, 'thing')} of yours ${n === 1 ? 'is' : 'are'} not as you left ${n === 1 ? 'it' : 'them'}`,
  merge: (n, summary) =>
    `${summary.charAt(0).toLowerCase()}${summary.slice(1)}: ${plural(n, 'thing')} of yours ${n === 1 ? 'was' : 'were'} written over`,
};

/** Rows that stood as somebody else had made them, by whoever made them so. */
function writtenOver(show: Show, change: Change, past: readonly Change[]): Concern[] {
  const last = new Map<string, Change>();
  for (const p of past) for (const row of p.rows) last.set(`${row.table}/${row.id}`, p);
  const by = new Map<string, RowChange[]>();
  for (const row of change.rows) {
    const before = last.get(`${row.table}/${row.id}`);
    if (!before || before.userId === change.userId || same(row.before, row.after)) continue;
    const theirs = before.rows.find((r) => r.table === row.table && r.id === row.id);
    // Only what they changed, and where it says something else now.
    const fields =
      theirs?.before && theirs.after && row.before && row.after
        ? altered(theirs).filter((f) => altered(row).includes(f))
        : undefined;
    if (fields?.length === 0) continue;
    by.set(before.userId, [...(by.get(before.userId) ?? []), row]);
  }
  return [...by].map(([userId, rows]): Concern => {
    const said = rows
      .slice(0, SAID)
      .map((r) => sayRow(show, r, SAID))
      .join('; ');
    const more = rows.length > SAID ? `; and ${rows.length - SAID} more` : '';
    const how = HOW[change.edit]?.(rows.length, change.summary) ?? `wrote over what you had made`;
    return { userId, kind: 'over', text: `${how}: ${said}${more}.`, place: placeOf(show, rows) };
  });
}

function parts(show: Show, change: Change): Concern[] {
  return change.rows.flatMap((row): Concern[] => {
    if (row.table !== 'parts') return [];
    const [was, is] = [row.before, row.after];
    const name = (is ?? was)?.name ?? '';
    const place: InboxPlace = { place: 'crew', view: 'people' };
    const given: Concern[] =
      is && is.userId !== was?.userId
        ? [
            {
              userId: is.userId,
              kind: 'handed',
              text: `gave you part “${name}”: ${[is.fixtures.length > 0 ? plural(is.fixtures.length, 'fixture') : '', ...is.lists.map((id) => show.lists.get(id)?.name ?? '')].filter(Boolean).join(', ')}.`,
              place,
            },
          ]
        : [];
    if (!was) return given;
    const taken: Concern = { userId: was.userId, kind: 'taken', text: sayTaken(was, is), place };
    return [...given, taken];
  });
}

/** What the one who had a part is told of its change. */
function sayTaken(was: PartRow, is: PartRow | null): string {
  const name = (is ?? was).name;
  if (!is) return `took part “${name}” back: it is everybody’s again.`;
  if (is.userId !== was.userId) return `took part “${name}” from you; it is ${is.userName}’s now.`;
  return `changed what is in part “${name}”, which is yours.`;
}

const noteText = (note: NoteRow): string =>
  [noteWords(note.kind), note.text ? `“${note.text}”` : ''].filter(Boolean).join(': ') ||
  (note.photo || note.drawing ? 'with a picture' : '');

function notes(show: Show, change: Change, against: Against): Concern[] {
  return change.rows.flatMap((row): Concern[] => {
    if (row.table !== 'notes' || !row.after) return [];
    const [was, is] = [row.before, row.after];
    const place: InboxPlace = {
      place: 'book',
      note: is.id,
      ...(is.cueId !== undefined && show.cues.has(is.cueId) ? { cue: is.cueId } : {}),
    };
    const tell = (userId: string, text: string): Concern => ({ userId, kind: 'note', text, place });
    if (!was) {
      const said = `noted about ${aboutNote(show, is)}, ${noteText(is)}`;
      // Whom it is for reads it; without one, those who made the cue.
      return is.to
        ? [tell(is.to.userId, said)]
        : (is.cueId === undefined ? [] : against.madeBy(is.cueId)).map((userId) =>
            tell(userId, said),
          );
    }
    const reply = (is.replies ?? [])[(was.replies ?? []).length];
    if (reply) {
      const others = new Set([
        is.by.userId,
        ...(is.to ? [is.to.userId] : []),
        ...(is.replies ?? []).map((r) => r.by.userId),
      ]);
      return [...others].map((userId) =>
        tell(
          userId,
          `answered ${userId === is.by.userId ? 'your note' : 'a note'} about ${aboutNote(show, is)}: “${reply.text}”`,
        ),
      );
    }
    if (is.to && is.to.userId !== was.to?.userId)
      return [
        tell(is.to.userId, `gave you the note about ${aboutNote(show, is)}, ${noteText(is)}`),
      ];
    if (is.done && !was.done)
      return [
        tell(is.by.userId, `worked off your note about ${aboutNote(show, is)}, ${noteText(is)}`),
      ];
    return [];
  });
}

function likes(show: Show, change: Change): Concern[] {
  return change.rows.flatMap((row): Concern[] => {
    if (row.table !== 'likes' || !row.after) return [];
    const [was, is] = [row.before, row.after];
    const place: InboxPlace = { place: 'book', cue: is.cueId };
    const cue = show.cues.get(is.cueId);
    const what = `cue ${cue ? formatCueNumber(cue.number) : '?'}`;
    return is.lost && !was?.lost
      ? [
          {
            userId: is.by.userId,
            kind: 'liked',
            text: `changed ${what}, which you had liked: ${is.lost.text}`,
            place,
          },
        ]
      : [];
  });
}

/** Where the first of these rows is looked at. */
function placeOf(show: Show, rows: readonly RowChange[]): InboxPlace {
  const [first] = rows;
  const cue = rows.map(cueWritten).find((id) => id !== undefined && show.cues.has(id));
  if (cue !== undefined) return { place: 'book', cue };
  switch (first?.table) {
    case 'fixtures':
    case 'types':
    case 'routes':
    case 'universes':
    case 'circuits':
      return { place: 'rig' };
    case 'palettes':
    case 'looks':
    case 'effects':
    case 'groups':
    case 'pieces':
    case 'layouts':
    case 'pictures':
      return { place: 'stage' };
    case 'faders':
      return { place: 'run' };
    case 'lists':
    case 'scripts':
    case 'calls':
    case 'cues':
    case 'values':
      return { place: 'book' };
    default:
      return { place: 'crew', view: 'history' };
  }
}
