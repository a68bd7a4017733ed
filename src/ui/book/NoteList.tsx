/** Notes from the house, open ones first, to be worked off one by one, answered, and printed for the morning. */
'use client';
import { Printer } from 'lucide-react';
import { useState } from 'react';
import { NoteRow } from '../notes/NoteRow';
import { useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

/** Notes from the house, open ones first. */
export function NoteList({
  onCue,
  tall = false,
}: {
  onCue?: (cueId: string) => void;
  /** For a finger. */ tall?: boolean;
}) {
  const show = useShow();
  const { showId, you } = useParts(useScreen, 'showId', 'you');
  const [done, setDone] = useState(false);
  const [mine, setMine] = useState(false);
  const notes = [...show.notes.values()]
    .filter((n) => !mine || n.to?.userId === you.userId)
    .sort((a, b) => (a.cueNumber ?? 0) - (b.cueNumber ?? 0) || a.by.at.localeCompare(b.by.at));
  const open = notes.filter((n) => !n.done);
  const worked = notes.filter((n) => n.done);
  const forMe = [...show.notes.values()].filter(
    (n) => n.to?.userId === you.userId && !n.done,
  ).length;
  return (
    <div>
      <div className="flex items-center gap-3">
        <h2 className="flex-1 text-[13.5px] font-semibold">
          To do <span className="font-normal text-muted">{open.length}</span>
        </h2>
        {(forMe > 0 || mine) && (
          <button
            type="button"
            aria-pressed={mine}
            onClick={() => setMine(!mine)}
            className={`${tall ? 'h-11' : 'h-8'} rounded-md px-2.5 text-[12.5px] ${mine ? 'bg-standby-wash text-standby' : 'bg-raised text-soft'}`}
          >
            {forMe} for you
          </button>
        )}
        <a
          href={`/api/shows/${showId}/export/notes.pdf`}
          target="_blank"
          rel="noreferrer"
          title="The list on paper, for the morning"
          className={`flex items-center gap-1.5 rounded-md px-2 text-[12.5px] text-soft hover:bg-raised ${tall ? 'h-11' : 'h-8'}`}
        >
          <Printer size={14} /> Print
        </a>
      </div>
      {open.length === 0 && <p className="mt-1 text-[12.5px] text-muted">No open notes.</p>}
      <ul>
        {open.map((n) => (
          <NoteRow key={n.id} note={n} onCue={onCue} tall={tall} />
        ))}
      </ul>
      {worked.length > 0 && (
        <button
          type="button"
          aria-expanded={done}
          onClick={() => setDone(!done)}
          className={`mt-3 text-[12.5px] text-muted hover:text-soft ${tall ? 'h-11' : 'h-8'}`}
        >
          {done ? 'Hide' : 'Show'} {worked.length} worked off
        </button>
      )}
      {done && (
        <ul>
          {worked.map((n) => (
            <NoteRow key={n.id} note={n} onCue={onCue} tall={tall} />
          ))}
        </ul>
      )}
    </div>
  );
}
