/** What notes are about and want, in words. */

import { formatCueNumber } from '../cues/number.ts';
import type { Show } from '../show/show.ts';
import { oneLine } from '../words.ts';
import type { NoteKind, NoteRow } from './rows.ts';
import { NOTE_WORDS } from './tables.ts';

/** What is wanted, in words; a note of another kind says it itself. */
export const noteWords = (kind: NoteKind): string => (kind === 'other' ? '' : NOTE_WORDS[kind]);

/** What a note is about, in words: `cue 12`, `unit 101`, `a place on the stage`, `“Cast off!”`, `the show`. */
export function aboutNote(show: Pick<Show, 'cues' | 'fixtures'>, note: NoteRow): string {
  const cue = note.cueId === undefined ? undefined : show.cues.get(note.cueId);
  const fixture = note.fixtureId === undefined ? undefined : show.fixtures.get(note.fixtureId);
  const number = cue?.number ?? note.cueNumber;
  const unit = fixture?.number ?? note.fixtureNumber;
  const words = note.words && oneLine(note.words.quote);
  return (
    [
      ...(unit === undefined ? [] : [`unit ${unit}`]),
      ...(note.place ? ['a place on the stage'] : []),
      ...(words === undefined ? [] : [`“${words.length > 40 ? `${words.slice(0, 39)}…` : words}”`]),
      ...(number === undefined ? [] : [`cue ${formatCueNumber(number)}`]),
    ].join(' in ') || 'the show'
  );
}
