/** Notes from the house: what somebody wants changed, as a list for the programmer to work off. */
import { rowFor } from '../show/row-for.ts';
import { noteWords, aboutNote } from './words.ts';
import { z } from 'zod';
import { isRefusal, refuse } from '../refusal.ts';
import { NOTE_KINDS, NoteRow, PhotoRow } from './rows.ts';
import { RowId, idOf } from '../show/fields.ts';
import type { RowChange } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS, LOOKERS } from '../roles.ts';

const KEPT = 5000;
/** Pictures of all notes of a show: they travel with it. */
const PHOTOS_KEPT = 200;

const shape = NoteRow.shape;
const Add = z.object({
  cueId: idOf('cues').optional(),
  fixtureId: idOf('fixtures').optional(),
  place: shape.place,
  words: z
    .object({
      scriptId: idOf('scripts'),
      from: z.number().int().min(0),
      to: z.number().int().min(0),
    })
    .optional(),
  kind: z.enum(NOTE_KINDS),
  text: shape.text.default(''),
  to: shape.to,
  photo: PhotoRow.shape.data.optional(),
  /** Lines, over a picture of the stage as it was. */
  drawing: z
    .object({ picture: PhotoRow.shape.data.optional(), lines: shape.drawing.unwrap().shape.lines })
    .optional(),
});
type Add = z.input<typeof Add>;

/** Leaves a note about a cue, words of the script, units, a spot, or the show. */
export const addNote = defineEdit({
  name: 'add-note',
  params: Add,
  roles: LOOKERS,
  plan: (show, p, { newId, by }) => {
    const text = p.text.trim();
    if (p.kind === 'other' && text === '' && !p.photo && !p.drawing)
      return refuse('invalid', 'Say what you would like changed, or show it.', { text: 'Empty.' });
    const cue = p.cueId === undefined ? undefined : show.cues.get(p.cueId);
    if (p.cueId !== undefined && !cue)
      return refuse(
        'not-found',
        'This cue has been deleted meanwhile. The note was not kept; leave it about the show.',
      );
    const fixture = p.fixtureId === undefined ? undefined : show.fixtures.get(p.fixtureId);
    if (p.fixtureId !== undefined && !fixture)
      return refuse(
        'not-found',
        'This unit has been deleted meanwhile. The note was not kept; leave it about a place or the show.',
      );
    const script = p.words ? show.scripts.get(p.words.scriptId) : undefined;
    if (p.words && (!script || p.words.to <= p.words.from || p.words.to > script.text.length))
      return refuse(
        'not-found',
        'These words are not in the script any more. The note was not kept.',
      );
    if (show.notes.size >= KEPT)
      return refuse('limit', `A show keeps at most ${KEPT} notes; delete some that are done.`);
    const pictures = [p.photo, p.drawing?.picture].filter((d) => d !== undefined);
    if (show.photos.size + pictures.length > PHOTOS_KEPT)
      return refuse(
        'limit',
        `A show keeps at most ${PHOTOS_KEPT} pictures of notes; delete notes that are done.`,
      );
    const photos: PhotoRow[] = pictures.map((data) => ({ id: newId(), data }));
    const row: NoteRow = {
      id: newId(),
      ...(cue ? { cueId: cue.id, cueNumber: cue.number } : {}),
      ...(fixture ? { fixtureId: fixture.id, fixtureNumber: fixture.number } : {}),
      ...(p.place ? { place: p.place } : {}),
      ...(p.words && script
        ? {
            words: {
              ...p.words,
              quote: script.text.slice(p.words.from, Math.min(p.words.to, p.words.from + 200)),
            },
          }
        : {}),
      kind: p.kind,
      text,
      by: { userId: by.userId, name: by.name, at: by.at },
      ...(p.to ? { to: p.to } : {}),
      ...(p.photo ? { photo: photos[0]?.id } : {}),
      ...(p.drawing
        ? {
            drawing: {
              lines: p.drawing.lines,
              ...(p.drawing.picture ? { picture: photos.at(-1)?.id } : {}),
            },
          }
        : {}),
    };
    const more = [
      p.photo ? 'with a photo' : '',
      p.drawing ? 'with a drawing' : '',
      p.to ? `for ${p.to.name}` : '',
    ]
      .filter(Boolean)
      .join(', ');
    return {
      changes: [...photos.map((photo) => insertRow('photos', photo)), insertRow('notes', row)],
      summary: `Left a note on ${aboutNote(show, row)}${[noteWords(p.kind), text.slice(0, 80)]
        .filter(Boolean)
        .map((w, i) => (i === 0 ? `: ${w}` : `, ${w}`))
        .join('')}${more ? ` (${more})` : ''}`,
    };
  },
});

const Finish = z.object({ id: RowId, done: z.boolean() });
type Finish = z.infer<typeof Finish>;
/** Marks a note as done, or opens it again. */
export const finishNote = defineEdit({
  name: 'finish-note',
  params: Finish,
  roles: EDITORS,
  plan: (show, p, { by }) => {
    const note = rowFor(show, 'notes', p.id);
    if (isRefusal(note)) return note;
    const { done, ...open } = note;
    void done;
    return {
      changes: [
        replaceRow(
          'notes',
          note,
          p.done ? { ...open, done: { userId: by.userId, name: by.name, at: by.at } } : open,
        ),
      ],
      summary: `${p.done ? 'Worked off' : 'Reopened'} ${note.by.name}’s note on ${aboutNote(show, note)}`,
    };
  },
});

const Reply = z.object({
  id: RowId,
  text: z.string().min(1, 'Say something.').max(1000, 'A reply has at most 1000 characters.'),
});
type Reply = z.infer<typeof Reply>;
/** Answers a note. */
export const replyNote = defineEdit({
  name: 'reply-note',
  params: Reply,
  roles: LOOKERS,
  plan: (show, p, { by }) => {
    const note = show.notes.get(p.id);
    if (!note)
      return refuse(
        'not-found',
        'This note has been deleted meanwhile. What you wrote was not kept.',
      );
    const text = p.text.trim();
    if (text === '') return refuse('invalid', 'Say something.', { text: 'Empty.' });
    const replies = [
      ...(note.replies ?? []),
      { by: { userId: by.userId, name: by.name, at: by.at }, text },
    ];
    return {
      changes: [replaceRow('notes', note, { ...note, replies })],
      summary: `Answered ${note.by.name}’s note on ${aboutNote(show, note)}: ${text.slice(0, 80)}`,
    };
  },
});

const Give = z.object({ id: RowId, to: NoteRow.shape.to.unwrap().nullable() });
type Give = z.infer<typeof Give>;
/** Whom a note is for; null: whoever works the list off. */
export const giveNote = defineEdit({
  name: 'give-note',
  params: Give,
  roles: LOOKERS,
  plan: (show, p) => {
    const note = rowFor(show, 'notes', p.id);
    if (isRefusal(note)) return note;
    const next = { ...note };
    if (p.to) next.to = p.to;
    else delete next.to;
    return {
      changes: [replaceRow('notes', note, next)],
      summary: `The note on ${aboutNote(show, note)} is for ${p.to?.name ?? 'whoever works it off'}`,
    };
  },
});

const Id = z.object({ id: RowId });
type Id = z.infer<typeof Id>;
/** Deletes a note: one's own, or one that is done. */
export const deleteNote = defineEdit({
  name: 'delete-note',
  params: Id,
  roles: LOOKERS,
  plan: (show, { id }, { by }) => {
    const note = rowFor(show, 'notes', id, 'already');
    if (isRefusal(note)) return note;
    if (!note.done && note.by.userId !== by.userId)
      return refuse(
        'forbidden',
        `This note is ${note.by.name}’s and open: work it off first, or let ${note.by.name} take it back.`,
      );
    const pictures = [note.photo, note.drawing?.picture].flatMap((p): RowChange[] => {
      const row = p === undefined ? undefined : show.photos.get(p);
      return row ? [deleteRow('photos', row)] : [];
    });
    return {
      changes: [...pictures, deleteRow('notes', note)],
      summary: `Deleted a note on ${aboutNote(show, note)}`,
    };
  },
});
