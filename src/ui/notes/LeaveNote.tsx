/** Leaving a note: about a cue, a unit, a place or words of the script; with a photo, a drawing, and for whom it is. */
'use client';
import { capital } from '@/core/words';
import { Camera, MapPin, X } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { z } from 'zod';
import { NOTE_WORDS } from '@/core/notes/tables';
import type { Member } from '@/core/live/answers';
import { NOTE_KINDS, type NoteKind } from '@/core/notes/rows';
import { ForWhom, useMembers } from './ForWhom';
import { keep, kept } from '../parts/keep';
import { edit } from '../state/edits';
import { ApiError } from '../state/api';
import { notice } from '../state/messages';
import { useScreen, useShow } from '../state/store';
import { OnStage, type Pointed } from './OnStage';
import { Picture } from './Picture';
import { photoOf } from './photo';

/** What a note is about; the cue is the one that is looked at. */
export interface About extends Omit<Pointed, 'drawing'> {
  cueId?: string | undefined;
  words?: { scriptId: string; from: number; to: number };
}

const BIG = 'min-h-12 rounded-xl px-3 text-[16px] font-semibold disabled:opacity-40';
const CHIP =
  'flex min-h-11 items-center gap-1.5 rounded-lg bg-raised px-3 text-[14px] hover:bg-lift disabled:opacity-40';
const WORDS: Record<NoteKind, string> = { ...NOTE_WORDS, other: 'Something else' };
const Spot = z.object({ scriptId: z.string(), from: z.number(), to: z.number() });
const BegunSchema = z.object({
  text: z.string().min(1).max(1000),
  cueId: z.string().optional(),
  words: z.string(),
  spot: Spot.optional(),
});

/** What a note was begun about. */
interface Begun {
  cueId?: string | undefined;
  words: string;
  spot?: z.infer<typeof Spot> | undefined;
}

/**
 * A note that is being written: what was begun stays with its words and its cue while the show goes on, and through a reload.
 * @param now what is looked at now
 */
function useNote(about: About, now: Begun, onLeft: (() => void) | undefined) {
  const key = useScreen((s) => `wingman-note-${s.showId}-${s.you.userId}`);
  const before = useMemo(() => kept(keep, key, BegunSchema), [key]);
  const [text, setText] = useState(before?.text ?? '');
  const [begun, setBegun] = useState<Begun | null>(before);
  const [photo, setPhoto] = useState<string>();
  const [pointed, setPointed] = useState<Pointed>({});
  const [busy, setBusy] = useState(false);
  const { cueId, words, spot } = begun ?? now;
  useEffect(() => {
    if (before) notice('The note that you had begun is still here.', { id: 'note-kept' });
  }, [before]);
  useEffect(() => {
    if (key.endsWith('-')) return;
    try {
      keep.setItem(key, begun && text !== '' ? JSON.stringify({ text, cueId, words, spot }) : '');
    } catch {
      notice.warning(
        'This browser has no room to keep what you type; leave the page open until the note is left.',
        { id: 'note-room' },
      );
    }
  }, [key, text, begun, cueId, words, spot]);
  const begin = (): void => {
    if (!begun) setBegun(now);
  };
  return {
    text,
    photo,
    pointed,
    busy,
    begun,
    words,
    isEmpty: text.trim() === '' && !photo && !pointed.drawing,
    setPointed,
    setPhoto,
    aboutNow: () => setBegun(now),
    point: (p: Pointed) => {
      setPointed(p);
      begin();
    },
    write: (next: string) => {
      setText(next);
      if (next === '' && !photo && !pointed.drawing) setBegun(null);
      else begin();
    },
    take: async (f: File | undefined): Promise<void> => {
      if (!f) return;
      setBusy(true);
      try {
        setPhoto(await photoOf(f));
        begin();
      } catch (error) {
        notice.error((error as Error).message);
      }
      setBusy(false);
    },
    leave: async (kind: NoteKind, to: Member | undefined): Promise<void> => {
      setBusy(true);
      const { fixtureId = about.fixtureId, place = about.place, drawing } = pointed;
      const answer = await edit('add-note', {
        ...(cueId === undefined ? {} : { cueId }),
        ...(fixtureId === undefined ? {} : { fixtureId }),
        ...(place ? { place } : {}),
        ...(spot ? { words: spot } : {}),
        kind,
        text: text.trim(),
        ...(to ? { to: { userId: to.userId, name: to.name } } : {}),
        ...(photo ? { photo } : {}),
        ...(drawing ? { drawing } : {}),
      });
      setBusy(false);
      if (answer instanceof ApiError) return;
      setText('');
      setBegun(null);
      setPhoto(undefined);
      setPointed({});
      onLeft?.();
    },
  };
}
type Note = ReturnType<typeof useNote>;

/**
 * @param about what is looked at now; a note that was begun stays with what it was begun about
 * @param onNow back to the cue on stage @param onLeft when it was left
 */
export function LeaveNote({
  about,
  words: shownWords,
  onNow,
  onLeft,
}: {
  about: About;
  words: string;
  onNow?: (() => void) | undefined;
  onLeft?: () => void;
}) {
  const show = useShow();
  const note = useNote(about, { cueId: about.cueId, words: shownWords, spot: about.words }, onLeft);
  const { pointed, begun } = note;
  const [pointing, setPointing] = useState(false);
  const [to, setTo] = useState('');
  const members = useMembers();
  const leave = (kind: NoteKind): void =>
    void note.leave(
      kind,
      members.find((m) => m.userId === to),
    );
  const unit = show.fixtures.get(pointed.fixtureId ?? about.fixtureId ?? '');
  const shown = sayPointed(pointed, unit?.number, about);
  return (
    <form
      className="flex-none px-4 py-3"
      onSubmit={(e) => {
        e.preventDefault();
        leave('other');
      }}
    >
      <h2 className="flex min-h-8 items-center gap-2">
        <span
          data-testid="note-about"
          className="min-w-0 flex-1 truncate text-[15px] font-semibold"
        >
          About {note.words}
        </span>
        {begun && begun.words !== shownWords && (
          <button
            type="button"
            onClick={note.aboutNow}
            className="h-8 rounded-md bg-raised px-3 text-[12.5px]"
          >
            About {shownWords.split(' ').slice(0, 2).join(' ')} instead
          </button>
        )}
        {onNow && !begun && (
          <button
            type="button"
            onClick={onNow}
            className="h-8 rounded-md bg-raised px-3 text-[12.5px]"
          >
            The one on stage
          </button>
        )}
      </h2>
      <textarea
        aria-label="What you would like"
        placeholder="What you would like"
        value={note.text}
        maxLength={1000}
        rows={2}
        onChange={(e) => note.write(e.target.value)}
        className="mt-2 w-full rounded-xl bg-panel p-3 text-[15px] leading-5 shadow-[inset_0_0_0_1px_var(--color-edge)] focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none"
      />
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <PhotoChip has={note.photo !== undefined} onPhoto={note.take} />
        <button type="button" className={CHIP} onClick={() => setPointing(true)}>
          <MapPin size={17} /> {shown || 'On the stage'}
        </button>
        <ForWhom
          members={members}
          value={to}
          onChange={setTo}
          className="min-h-11 max-w-[46%] flex-1 rounded-lg bg-raised px-2 text-[14px]"
        />
      </div>
      <WithIt note={note} shown={shown} />
      <Kinds busy={note.busy} isEmpty={note.isEmpty} onLeave={leave} />
      {pointing && <OnStage onClose={() => setPointing(false)} onUse={note.point} />}
    </form>
  );
}

/** `unit 101, a drawing` */
function sayPointed(pointed: Pointed, unit: number | undefined, about: About): string {
  const where = (pointed.place ?? about.place) ? 'a place' : '';
  return [unit === undefined ? where : `unit ${unit}`, pointed.drawing ? 'a drawing' : '']
    .filter(Boolean)
    .join(', ');
}

function PhotoChip({
  has,
  onPhoto,
}: {
  has: boolean;
  onPhoto: (file: File | undefined) => Promise<void>;
}) {
  return (
    <label
      className={`${CHIP} cursor-pointer focus-within:outline focus-within:outline-2 focus-within:outline-standby`}
    >
      <Camera size={17} /> {has ? 'Another photo' : 'Photo'}
      <input
        type="file"
        accept="image/*"
        aria-label="Photo"
        className="sr-only"
        onChange={({ currentTarget }) =>
          // The same photo may be chosen again.
          void onPhoto(currentTarget.files?.[0]).then(() => (currentTarget.value = ''))
        }
      />
    </label>
  );
}

/** What goes with the words, and can be taken away again. */
function WithIt({
  note: { photo, pointed, setPhoto, setPointed },
  shown,
}: {
  note: Note;
  shown: string;
}) {
  if (!photo && !shown) return null;
  return (
    <div className="mt-2 flex items-start gap-2">
      {photo && <Taken src={photo} label="The photo" onGone={() => setPhoto(undefined)} />}
      {pointed.drawing?.picture && (
        <Taken
          src={pointed.drawing.picture}
          label="The drawing"
          lines={pointed.drawing.lines}
          onGone={() => setPointed({})}
        />
      )}
      {shown && !pointed.drawing && (
        <button
          type="button"
          onClick={() => setPointed({})}
          className="h-9 rounded-md px-2 text-[13px] text-soft hover:bg-raised"
        >
          Not about {shown}
        </button>
      )}
    </div>
  );
}

function Kinds({
  busy,
  isEmpty,
  onLeave,
}: {
  busy: boolean;
  isEmpty: boolean;
  onLeave: (kind: NoteKind) => void;
}) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      {NOTE_KINDS.filter((k) => k !== 'other').map((k) => (
        <button
          key={k}
          type="button"
          disabled={busy}
          onClick={() => onLeave(k)}
          className={`${BIG} bg-raised`}
        >
          {capital(WORDS[k])}
        </button>
      ))}
      <button type="submit" disabled={busy || isEmpty} className={`${BIG} col-span-2 bg-lift`}>
        {busy ? 'One moment …' : 'Leave this note'}
      </button>
    </div>
  );
}

function Taken({
  src,
  label,
  lines,
  onGone,
}: {
  src: string;
  label: string;
  lines?: readonly (readonly number[])[];
  onGone: () => void;
}) {
  return (
    <span className="relative flex-none">
      <Picture src={src} label={label} lines={lines} className="h-20 max-w-[180px] rounded-md" />
      <button
        type="button"
        aria-label={`Without ${label.toLowerCase()}`}
        onClick={onGone}
        className="absolute -top-2 -right-2 grid size-7 place-items-center rounded-full bg-lift text-text"
      >
        <X size={14} />
      </button>
    </span>
  );
}
