/** Notes from the house, open ones first, to be worked off one by one, answered, and printed for the morning. */
'use client';
import { sinceWhen } from '@/core/dates';
import { Check as Tick, MessageSquare, Printer, RotateCcw, X } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { aboutNote, noteWords } from '@/core/notes/words';
import type { RowOf } from '@/core/show/tables';
import { Dialog, IconButton } from '../parts/controls';
import { Plan } from '../plan/Plan';
import { edit, select } from '../state/actions';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';
import { Picture } from '../notes/Picture';
import { useParts } from '../state/use-parts';

type Note = RowOf['notes'];

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
          <Row key={n.id} note={n} onCue={onCue} tall={tall} />
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
            <Row key={n.id} note={n} onCue={onCue} tall={tall} />
          ))}
        </ul>
      )}
    </div>
  );
}

function Row({
  note,
  onCue,
  tall,
}: {
  note: Note;
  onCue: ((cueId: string) => void) | undefined;
  tall: boolean;
}) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const [opened, setOpened] = useState(false);
  const [answering, setAnswering] = useState(false);
  const cue = note.cueId === undefined ? undefined : show.cues.get(note.cueId);
  const words = noteWords(note.kind);
  const number = cue?.number ?? note.cueNumber;
  const own = note.by.userId === you.userId;
  const about =
    note.fixtureId !== undefined || note.place || note.words ? aboutNote(show, note) : '';
  const photo = note.photo === undefined ? undefined : show.photos.get(note.photo)?.data;
  const drawn = note.drawing
    ? {
        src:
          note.drawing.picture === undefined
            ? undefined
            : show.photos.get(note.drawing.picture)?.data,
        lines: note.drawing.lines,
      }
    : undefined;
  return (
    <li
      data-note={note.id}
      className={`border-b border-raised py-1.5 ${note.done ? 'text-dim' : ''}`}
    >
      <div className="flex items-start gap-2">
        <button
          type="button"
          disabled={!cue || !onCue}
          onClick={() => cue && onCue?.(cue.id)}
          title={
            cue ? undefined : number === undefined ? 'about the show' : 'this cue has been deleted'
          }
          className={`num mt-0.5 min-w-11 rounded px-1.5 text-left text-[13px] leading-[22px] ${onCue && cue ? 'text-standby hover:bg-raised' : 'text-soft'} ${cue || number === undefined ? '' : 'line-through'}`}
        >
          {number === undefined ? 'show' : formatCueNumber(number)}
        </button>
        <span className="min-w-0 flex-1">
          <span className="block [overflow-wrap:anywhere]">
            {[words, note.text].filter(Boolean).join(': ') || (drawn ? 'a drawing' : 'a photo')}
          </span>
          <span className="block text-[12px] text-muted">
            {about && (
              <button
                type="button"
                disabled={note.fixtureId === undefined || !show.fixtures.has(note.fixtureId)}
                title={note.fixtureId === undefined ? undefined : 'Select this unit'}
                onClick={() => note.fixtureId !== undefined && select([note.fixtureId])}
                className="text-soft enabled:hover:underline"
              >
                {about} ·{' '}
              </button>
            )}
            {note.by.name}, {sinceWhen(note.by.at)}
            {note.to && <span className="text-soft"> · for {note.to.name}</span>}
            {note.done ? ` · worked off by ${note.done.name}` : ''}
          </span>
          {(photo ?? drawn ?? note.place) && (
            <button
              type="button"
              aria-label="Look at it"
              onClick={() => setOpened(true)}
              className="mt-1 flex items-center gap-2"
            >
              {photo && (
                <Picture
                  src={photo}
                  label="Photo of the note"
                  className="h-14 max-w-[120px] rounded"
                />
              )}
              {drawn && (
                <Picture
                  src={drawn.src}
                  label="Drawing of the note"
                  lines={drawn.lines}
                  className="h-14 max-w-[120px] rounded"
                />
              )}
              {note.place && !drawn && (
                <span className="text-[12px] text-standby underline">where</span>
              )}
            </button>
          )}
          {note.replies && (
            <ul aria-label="Answers" className="mt-1 border-l border-line pl-2">
              {note.replies.map((r, i) => (
                <li key={i} className="text-[12.5px] leading-[18px]">
                  <span className="[overflow-wrap:anywhere]">{r.text}</span>
                  <span className="ml-1.5 text-muted">
                    {r.by.name}, {sinceWhen(r.by.at)}
                  </span>
                </li>
              ))}
            </ul>
          )}
          {answering && <Answer note={note} onDone={() => setAnswering(false)} />}
        </span>
        {you.role !== 'volunteer' && (
          <IconButton
            label="Answer"
            className={tall ? '!size-11' : ''}
            onClick={() => setAnswering(!answering)}
          >
            <MessageSquare size={14} />
          </IconButton>
        )}
        {mayEdit(you.role) && (
          <IconButton
            label={note.done ? 'Reopen' : 'Worked off'}
            className={tall ? '!size-11' : ''}
            onClick={() =>
              void edit('finish-note', { id: note.id, done: !note.done }, { quiet: true })
            }
          >
            {note.done ? <RotateCcw size={14} /> : <Tick size={15} />}
          </IconButton>
        )}
        {(own || note.done) && (
          <IconButton
            label="Take this note back"
            className={tall ? '!size-11' : ''}
            onClick={() => void edit('delete-note', { id: note.id }, { quiet: true })}
          >
            <X size={14} />
          </IconButton>
        )}
      </div>
      {opened && (
        <Dialog
          open
          onOpenChange={(o) => !o && setOpened(false)}
          title={`Note of ${note.by.name} on ${aboutNote(show, note)}`}
          {...(note.text ? { about: note.text } : {})}
          width="w-[900px]"
          tall
        >
          <div className="space-y-3">
            {photo && (
              <Picture
                src={photo}
                label="Photo of the note"
                className="max-h-[60vh] w-full rounded-md"
              />
            )}
            {drawn && (
              <Picture
                src={drawn.src}
                label="Drawing of the note"
                lines={drawn.lines}
                className="w-full rounded-md"
              />
            )}
            {note.place && !drawn && <Where place={note.place} />}
          </div>
        </Dialog>
      )}
    </li>
  );
}

/** A place on the stage, on the plan as it is now. */
function Where({ place }: { place: { x: number; y: number } }) {
  const [view, setView] = useState<[number, number, number]>();
  return (
    <div
      className="pointer-events-none relative h-[420px] overflow-hidden rounded-lg bg-ink"
      ref={(el) => {
        if (!el || view) return;
        // The plan has its measures when it has drawn itself.
        setTimeout(
          () =>
            setView(
              (el.querySelector('[data-testid=plan]')?.getAttribute('data-view') ?? '0,0,0')
                .split(',')
                .map(Number) as [number, number, number],
            ),
          400,
        );
      }}
    >
      <Plan arrange={false} />
      {view && (
        <span
          data-testid="where"
          className="absolute -translate-x-1/2 -translate-y-full rounded bg-warning px-1.5 text-[12px] font-semibold text-ink"
          style={{ left: view[1] + place.x * view[0], top: view[2] - place.y * view[0] }}
        >
          here
        </span>
      )}
    </div>
  );
}

function Answer({ note, onDone }: { note: Note; onDone: () => void }) {
  const [text, setText] = useState('');
  return (
    <form
      className="mt-1 flex gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void edit('reply-note', { id: note.id, text: text.trim() }, { quiet: true }).then(
          (a) => !(a instanceof ApiError) && onDone(),
        );
      }}
    >
      <input
        aria-label={`Answer ${note.by.name}`}
        autoFocus
        value={text}
        maxLength={1000}
        onChange={(e) => setText(e.target.value)}
        className="h-9 min-w-0 flex-1 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]"
      />
      <button
        type="submit"
        disabled={text.trim() === ''}
        className="h-9 rounded-md bg-raised px-3 text-[12.5px] disabled:opacity-40"
      >
        Answer
      </button>
    </form>
  );
}
