/** Notes from the house: what somebody wants changed, as a list for the programmer to work off. */
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { refuse } from '../refusal.ts';
import { NOTE_KINDS, NoteRow, RowId, type NoteKind } from '../show/rows.ts';
import { defineEdit, deleteRow, EDITORS, insertRow, LOOKERS, replaceRow } from './edit.ts';

const KEPT = 5000;
export const NOTE_WORDS: Record<NoteKind, string> = { slow: 'too slow', fast: 'too fast', bright: 'too bright', dark: 'too dark', other: 'note' };

const Add = z.object({ cueId: RowId.optional(), kind: z.enum(NOTE_KINDS), text: NoteRow.shape.text.default('') });
type Add = z.input<typeof Add>;

export const addNote = defineEdit<Add>({
  name: 'add-note',
  params: Add,
  roles: LOOKERS,
  plan: (show, params, { newId, by }) => {
    const p = Add.parse(params);
    const text = p.text.trim();
    if (p.kind === 'other' && text === '') return refuse('invalid', 'Say what you would like changed.', { text: 'Empty.' });
    const cue = p.cueId === undefined ? undefined : show.cues.get(p.cueId);
    if (p.cueId !== undefined && !cue) return refuse('not-found', 'This cue has been deleted meanwhile. The note was not kept; leave it about the show.');
    if (show.notes.size >= KEPT) return refuse('limit', `A show keeps at most ${KEPT} notes; delete some that are done.`);
    const row: NoteRow = { id: newId(), ...(cue ? { cueId: cue.id, cueNumber: cue.number } : {}), kind: p.kind, text, by: { userId: by.userId, name: by.name, at: by.at } };
    return { changes: [insertRow('notes', row)], summary: `Left a note on ${cue ? `cue ${formatCueNumber(cue.number)}` : 'the show'}: ${NOTE_WORDS[p.kind]}${text ? `, ${text.slice(0, 80)}` : ''}` };
  },
});

const Finish = z.object({ id: RowId, done: z.boolean() });
type Finish = z.infer<typeof Finish>;
export const finishNote = defineEdit<Finish>({
  name: 'finish-note',
  params: Finish,
  roles: EDITORS,
  plan: (show, p, { by }) => {
    const note = show.notes.get(p.id);
    if (!note) return refuse('not-found', 'This note has been deleted meanwhile.');
    const { done, ...open } = note;
    void done;
    return { changes: [replaceRow('notes', note, p.done ? { ...open, done: { userId: by.userId, name: by.name, at: by.at } } : open)], summary: `${p.done ? 'Worked off' : 'Reopened'} ${note.by.name}’s note${note.cueNumber === undefined ? '' : ` on cue ${formatCueNumber(note.cueNumber)}`}` };
  },
});

const Id = z.object({ id: RowId });
type Id = z.infer<typeof Id>;
export const deleteNote = defineEdit<Id>({
  name: 'delete-note',
  params: Id,
  roles: LOOKERS,
  plan: (show, { id }, { by }) => {
    const note = show.notes.get(id);
    if (!note) return refuse('not-found', 'This note has been deleted already.');
    if (!note.done && note.by.userId !== by.userId) return refuse('forbidden', `This note is ${note.by.name}’s and open: work it off first, or let ${note.by.name} take it back.`);
    return { changes: [deleteRow('notes', note)], summary: `Deleted a note${note.cueNumber === undefined ? '' : ` on cue ${formatCueNumber(note.cueNumber)}`}` };
  },
});
