/** What tables of notes, of their pictures and of what somebody liked know of themselves. */
import { sayCue, type Cues } from '../cues/tables.ts';
import { formatCueNumber } from '../cues/number.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { defineTable, ownedBy, ref } from '../show/define-table.ts';
import { metres, person } from '../show/plain-words.ts';
import { LikeRow, NoteRow, PhotoRow, type NoteKind } from './rows.ts';

/** Kinds of notes, as they are left. */
export const NOTE_WORDS: Readonly<Record<NoteKind, string>> = {
  slow: 'too slow',
  fast: 'too fast',
  bright: 'too bright',
  dark: 'too dark',
  other: 'in words',
};
interface Needs extends Cues {
  readonly fixtures: ReadonlyMap<string, FixtureRow>;
}

export const notes = defineTable({
  name: 'notes',
  one: 'note',
  row: NoteRow,
  section: 'people',
  since: 2,
  refs: [ref('photos', (n: NoteRow) => [n.photo, n.drawing?.picture])],
  about: (n) => ({ cueId: n.cueId }),
  says: { row: (n) => `a note of ${n.by.name}` },
  fields: {
    kind: { say: (kind: NoteKind) => NOTE_WORDS[kind] },
    cueId: { called: 'cue', say: (id: string, show: Needs) => sayCue(id, show) },
    cueNumber: { called: 'cue', say: formatCueNumber },
    fixtureId: {
      called: 'unit',
      say: (id: string, show: Needs) => `unit ${show.fixtures.get(id)?.number ?? '?'}`,
    },
    fixtureNumber: { called: 'unit' },
    place: { say: metres },
    words: { say: (words: NonNullable<NoteRow['words']>) => `“${words.quote}”` },
    by: { say: person },
    done: { say: person },
    to: { called: 'for', say: person },
    photo: { say: () => 'a photo' },
    drawing: { say: (d: NonNullable<NoteRow['drawing']>) => `${d.lines.length} lines` },
    replies: { called: 'answers' },
  },
});

export const photos = defineTable({
  name: 'photos',
  one: 'picture of a note',
  row: PhotoRow,
  section: 'people',
  since: 3,
  says: { row: () => 'a picture of a note' },
});

export const likes = defineTable({
  name: 'likes',
  one: 'word',
  row: LikeRow,
  section: 'people',
  since: 3,
  refs: [ownedBy('cues', (l: LikeRow) => [l.cueId])],
  light: true,
  says: {
    row: (l, show: Cues) => `that ${l.by.name} likes ${sayCue(l.cueId, show)}`,
    using: (l) => `the word of ${l.by.name}`,
  },
  fields: {
    cueId: { called: 'cue', say: (id: string, show: Cues) => sayCue(id, show) },
    by: { say: person },
    lost: { called: 'changed since', say: (lost: { text: string }) => lost.text },
  },
});
