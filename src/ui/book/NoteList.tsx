/** Notes from the house, open ones first, to be worked off one by one. */
'use client';
import { Check as Tick, RotateCcw, X } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { NOTE_WORDS } from '@/core/edits/notes';
import type { RowOf } from '@/core/show/rows';
import { IconButton } from '../parts/controls';
import { edit } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';

type Note = RowOf['notes'];

export function NoteList({ onCue }: { onCue?: (cueId: string) => void }) {
  const show = useShow();
  const [done, setDone] = useState(false);
  const notes = [...show.notes.values()].sort((a, b) => (a.cueNumber ?? 0) - (b.cueNumber ?? 0) || a.by.at.localeCompare(b.by.at));
  const open = notes.filter((n) => !n.done);
  const worked = notes.filter((n) => n.done);
  return (
    <div>
      <h2 className="text-[13.5px] font-semibold">
        To do <span className="font-normal text-muted">{open.length}</span>
      </h2>
      {open.length === 0 && <p className="mt-1 text-[12.5px] text-muted">No open notes.</p>}
      <ul>
        {open.map((n) => (
          <Row key={n.id} note={n} onCue={onCue} />
        ))}
      </ul>
      {worked.length > 0 && (
        <button type="button" aria-expanded={done} onClick={() => setDone(!done)} className="mt-3 h-8 text-[12.5px] text-muted hover:text-soft">
          {done ? 'Hide' : 'Show'} {worked.length} worked off
        </button>
      )}
      {done && (
        <ul>
          {worked.map((n) => (
            <Row key={n.id} note={n} onCue={onCue} />
          ))}
        </ul>
      )}
    </div>
  );
}

function Row({ note, onCue }: { note: Note; onCue: ((cueId: string) => void) | undefined }) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const cue = note.cueId === undefined ? undefined : show.cues.get(note.cueId);
  const words = note.kind === 'other' ? '' : NOTE_WORDS[note.kind];
  const number = cue?.number ?? note.cueNumber;
  const own = note.by.userId === you.userId;
  return (
    <li data-note={note.id} className={`flex items-start gap-2 border-b border-raised py-1.5 ${note.done ? 'text-dim' : ''}`}>
      <button type="button" disabled={!cue || !onCue} onClick={() => cue && onCue?.(cue.id)} title={cue ? undefined : number === undefined ? 'about the show' : 'this cue has been deleted'} className={`num mt-0.5 min-w-11 rounded px-1.5 text-left text-[13px] leading-[22px] ${onCue && cue ? 'text-standby hover:bg-raised' : 'text-soft'} ${cue || number === undefined ? '' : 'line-through'}`}>
        {number === undefined ? 'show' : formatCueNumber(number)}
      </button>
      <span className="min-w-0 flex-1">
        <span className="block [overflow-wrap:anywhere]">{[words, note.text].filter(Boolean).join(': ')}</span>
        <span className="block text-[12px] text-muted">
          {note.by.name}, {new Date(note.by.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}
          {note.done ? ` · worked off by ${note.done.name}` : ''}
        </span>
      </span>
      {mayEdit(you.role) && (
        <IconButton label={note.done ? 'Reopen' : 'Worked off'} onClick={() => void edit('finish-note', { id: note.id, done: !note.done }, { quiet: true })}>
          {note.done ? <RotateCcw size={14} /> : <Tick size={15} />}
        </IconButton>
      )}
      {(own || note.done) && (
        <IconButton label="Take this note back" onClick={() => void edit('delete-note', { id: note.id }, { quiet: true })}>
          <X size={14} />
        </IconButton>
      )}
    </li>
  );
}
