/** A note of the list: about what, in whose words, its pictures, its answers, and what can be done with it. */
'use client';
import { sinceWhen } from '@/core/dates';
import { Check as Tick, MessageSquare, RotateCcw, UserRound, X } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { aboutNote, noteWords } from '@/core/notes/words';
import type { Show } from '@/core/show/show';
import type { RowOf } from '@/core/show/tables';
import { Dialog, IconButton } from '../parts/controls';
import { useStillPlan } from '../plan/still';
import { LayerCanvases } from '../plan/use-canvases';
import { toPixel } from '../plan/view';
import { select } from '../state/commands';
import { edit } from '../state/edits';
import { mayEdit, useScreen, useShow } from '../state/store';
import { ForWhom, useMembers } from './ForWhom';
import { Picture } from './Picture';

type Note = RowOf['notes'];
interface Pictures {
  photo: string | undefined;
  drawn: { src: string | undefined; lines: readonly (readonly number[])[] } | undefined;
}

function picturesOf(show: Show, { photo, drawing }: Note): Pictures {
  const data = (id: string | undefined): string | undefined =>
    id === undefined ? undefined : show.photos.get(id)?.data;
  return {
    photo: data(photo),
    drawn: drawing && { src: data(drawing.picture), lines: drawing.lines },
  };
}

/** The cue that it is about; `show` where it is about none. */
function CueOf({ note, onCue }: { note: Note; onCue: ((cueId: string) => void) | undefined }) {
  const show = useShow();
  const cue = note.cueId === undefined ? undefined : show.cues.get(note.cueId);
  const number = cue?.number ?? note.cueNumber;
  const isGone = !cue && number !== undefined;
  const why = isGone ? 'this cue has been deleted' : 'about the show';
  return (
    <button
      type="button"
      disabled={!cue || !onCue}
      onClick={() => cue && onCue?.(cue.id)}
      title={cue ? undefined : why}
      className={`num mt-0.5 min-w-11 rounded px-1.5 text-left text-[13px] leading-[22px] ${onCue && cue ? 'text-standby hover:bg-raised' : 'text-soft'} ${isGone ? 'line-through' : ''}`}
    >
      {number === undefined ? 'show' : formatCueNumber(number)}
    </button>
  );
}

/** About which unit or words; by whom, when, for whom. */
function FromWhom({ note }: { note: Note }) {
  const show = useShow();
  const isAbout = note.fixtureId !== undefined || note.place || note.words;
  const about = isAbout ? aboutNote(show, note) : '';
  return (
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
  );
}

/** What came with it, small; pressed, large. */
function Small({ note, photo, drawn }: Pictures & { note: Note }) {
  const [opened, setOpened] = useState(false);
  if (!photo && !drawn && !note.place) return null;
  const size = 'h-14 max-w-[120px] rounded';
  return (
    <>
      <button
        type="button"
        aria-label="Look at it"
        onClick={() => setOpened(true)}
        className="mt-1 flex items-center gap-2"
      >
        {photo && <Picture src={photo} label="Photo of the note" className={size} />}
        {drawn && (
          <Picture
            src={drawn.src}
            label="Drawing of the note"
            lines={drawn.lines}
            className={size}
          />
        )}
        {note.place && !drawn && <span className="text-[12px] text-standby underline">where</span>}
      </button>
      {opened && <Large note={note} photo={photo} drawn={drawn} onClose={() => setOpened(false)} />}
    </>
  );
}

function Large({ note, photo, drawn, onClose }: Pictures & { note: Note; onClose: () => void }) {
  const show = useShow();
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
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
  );
}

/** A place on the stage, on its plan as it is now. */
export function Where({ place }: { place: { x: number; y: number } }) {
  const { box, size, refs, view } = useStillPlan();
  const at = toPixel(view, place);
  return (
    <div
      ref={box}
      data-theme="night"
      className="pointer-events-none relative h-[420px] overflow-hidden rounded-lg bg-ink"
    >
      <LayerCanvases refs={refs} size={size} />
      {size.width > 0 && (
        <span
          data-testid="where"
          className="absolute -translate-x-1/2 -translate-y-full rounded bg-warning px-1.5 text-[12px] font-semibold text-ink"
          style={{ left: at.x, top: at.y }}
        >
          here
        </span>
      )}
    </div>
  );
}

function Answers({ note }: { note: Note }) {
  if (!note.replies) return null;
  return (
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
          (a) => 'seq' in a && onDone(),
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

/** Given to somebody, or to whoever works the list off. */
function Give({ note, tall, onDone }: { note: Note; tall: boolean; onDone: () => void }) {
  const members = useMembers();
  const give = (userId: string): void => {
    const member = members.find((m) => m.userId === userId);
    const to = member ? { userId: member.userId, name: member.name } : null;
    void edit('give-note', { id: note.id, to }, { quiet: true }).then(
      (a) => 'seq' in a && onDone(),
    );
  };
  return (
    <ForWhom
      members={members}
      value={note.to?.userId ?? ''}
      onChange={give}
      className={`mt-1 block rounded-md bg-raised px-2 text-[12.5px] ${tall ? 'h-11' : 'h-8'}`}
    />
  );
}

function Ways({
  note,
  tall,
  onAnswer,
  onGive,
}: {
  note: Note;
  tall: boolean;
  onAnswer: () => void;
  onGive: () => void;
}) {
  const you = useScreen((s) => s.you);
  const size = tall ? '!size-11' : '';
  return (
    <>
      {you.role !== 'volunteer' && (
        <>
          {!note.done && (
            <IconButton label="Whom it is for" className={size} onClick={onGive}>
              <UserRound size={14} />
            </IconButton>
          )}
          <IconButton label="Answer" className={size} onClick={onAnswer}>
            <MessageSquare size={14} />
          </IconButton>
        </>
      )}
      {mayEdit(you.role) && (
        <IconButton
          label={note.done ? 'Reopen' : 'Worked off'}
          className={size}
          onClick={() =>
            void edit('finish-note', { id: note.id, done: !note.done }, { quiet: true })
          }
        >
          {note.done ? <RotateCcw size={14} /> : <Tick size={15} />}
        </IconButton>
      )}
      {(note.by.userId === you.userId || note.done) && (
        <IconButton
          label="Take this note back"
          className={size}
          onClick={() => void edit('delete-note', { id: note.id }, { quiet: true })}
        >
          <X size={14} />
        </IconButton>
      )}
    </>
  );
}

/** A note of a run. */
export function NoteRow({
  note,
  onCue,
  tall,
}: {
  note: Note;
  onCue: ((cueId: string) => void) | undefined;
  /** For a finger. */
  tall: boolean;
}) {
  const show = useShow();
  const [open, setOpen] = useState<'answer' | 'give' | null>(null);
  const toggle = (what: 'answer' | 'give'): void => setOpen(open === what ? null : what);
  const close = (): void => setOpen(null);
  const pictures = picturesOf(show, note);
  const says = [noteWords(note.kind), note.text].filter(Boolean).join(': ');
  return (
    <li
      data-note={note.id}
      className={`border-b border-raised py-1.5 ${note.done ? 'text-dim' : ''}`}
    >
      <div className="flex items-start gap-2">
        <CueOf note={note} onCue={onCue} />
        <span className="min-w-0 flex-1">
          <span className="block [overflow-wrap:anywhere]">
            {says || (pictures.drawn ? 'a drawing' : 'a photo')}
          </span>
          <FromWhom note={note} />
          <Small note={note} {...pictures} />
          <Answers note={note} />
          {open === 'give' && <Give note={note} tall={tall} onDone={close} />}
          {open === 'answer' && <Answer note={note} onDone={close} />}
        </span>
        <Ways
          note={note}
          tall={tall}
          onAnswer={() => toggle('answer')}
          onGive={() => toggle('give')}
        />
      </div>
    </li>
  );
}
