/** Leaving a note: about a cue, a unit, a place or words of the script; with a photo, a drawing, and for whom it is. */
'use client';
import { capital } from '@/core/words';
import { Camera, MapPin, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { z } from 'zod';
import { NOTE_WORDS } from '@/core/notes/tables';
import type { Member } from '@/core/live/answers';
import { NOTE_KINDS, type NoteKind } from '@/core/notes/rows';
import { useLoad } from '../crew/use-load';
import { keep, kept } from '../parts/keep';
import { edit } from '../state/actions';
import { ApiError } from '../state/api';
import { notice } from '../state/messages';
import { useScreen, useShow } from '../state/store';
import { OnStage, type Pointed } from './OnStage';
import { Picture } from './Picture';
import { photoOf } from './photo';
import { useParts } from '../state/use-parts';

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
  const { showId, people } = useParts(useScreen, 'showId', 'people');
  const key = useScreen((s) => `wingman-note-${s.showId}-${s.you.userId}`);
  const before = useMemo(() => kept(keep, key, BegunSchema), [key]);
  const [text, setText] = useState(before?.text ?? '');
  /** A note that was begun stays with its words and its cue while the show goes on, and through a reload. */
  const [begun, setBegun] = useState<{
    cueId?: string | undefined;
    words: string;
    spot?: z.infer<typeof Spot> | undefined;
  } | null>(before);
  const [photo, setPhoto] = useState<string>();
  const [pointed, setPointed] = useState<Pointed>({});
  const [pointing, setPointing] = useState(false);
  const [to, setTo] = useState('');
  const [busy, setBusy] = useState(false);
  const members =
    useLoad<{ members: Member[] }>(
      showId === '' ? null : `/api/shows/${showId}/members`,
      people.length,
    ).data?.members ?? [];
  const file = useRef<HTMLInputElement>(null);
  const { cueId, words, spot } = begun ?? {
    cueId: about.cueId,
    words: shownWords,
    spot: about.words,
  };
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
    if (!begun) setBegun({ cueId: about.cueId, words: shownWords, spot: about.words });
  };
  const write = (next: string): void => {
    setText(next);
    if (next === '' && !photo && !pointed.drawing) setBegun(null);
    else begin();
  };
  const leave = async (kind: NoteKind): Promise<void> => {
    setBusy(true);
    const person = members.find((m) => m.userId === to);
    const { fixtureId = about.fixtureId, place = about.place, drawing } = pointed;
    const answer = await edit('add-note', {
      ...(cueId === undefined ? {} : { cueId }),
      ...(fixtureId === undefined ? {} : { fixtureId }),
      ...(place ? { place } : {}),
      ...(spot ? { words: spot } : {}),
      kind,
      text: text.trim(),
      ...(person ? { to: { userId: person.userId, name: person.name } } : {}),
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
  };
  const take = async (f: File | undefined): Promise<void> => {
    if (!f) return;
    setBusy(true);
    try {
      setPhoto(await photoOf(f));
      begin();
    } catch (error) {
      notice.error((error as Error).message);
    }
    setBusy(false);
    if (file.current) file.current.value = '';
  };
  const unit = show.fixtures.get(pointed.fixtureId ?? about.fixtureId ?? '');
  const shown = [
    unit ? `unit ${unit.number}` : (pointed.place ?? about.place) ? 'a place' : '',
    pointed.drawing ? 'a drawing' : '',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <form
      className="flex-none px-4 py-3"
      onSubmit={(e) => {
        e.preventDefault();
        void leave('other');
      }}
    >
      <h2 className="flex min-h-8 items-center gap-2">
        <span
          data-testid="note-about"
          className="min-w-0 flex-1 truncate text-[15px] font-semibold"
        >
          About {words}
        </span>
        {begun && begun.words !== shownWords && (
          <button
            type="button"
            onClick={() => setBegun({ cueId: about.cueId, words: shownWords, spot: about.words })}
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
        value={text}
        maxLength={1000}
        rows={2}
        onChange={(e) => write(e.target.value)}
        className="mt-2 w-full rounded-xl bg-panel p-3 text-[15px] leading-5 shadow-[inset_0_0_0_1px_var(--color-edge)] focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none"
      />
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <label
          className={`${CHIP} cursor-pointer focus-within:outline focus-within:outline-2 focus-within:outline-standby`}
        >
          <Camera size={17} /> {photo ? 'Another photo' : 'Photo'}
          <input
            ref={file}
            type="file"
            accept="image/*"
            aria-label="Photo"
            className="sr-only"
            onChange={(e) => void take(e.target.files?.[0])}
          />
        </label>
        <button type="button" className={CHIP} onClick={() => setPointing(true)}>
          <MapPin size={17} /> {shown || 'On the stage'}
        </button>
        <select
          aria-label="For whom"
          value={to}
          onChange={(e) => setTo(e.target.value)}
          className="min-h-11 max-w-[46%] min-w-0 flex-1 rounded-lg bg-raised px-2 text-[14px]"
        >
          <option value="">for anybody</option>
          {members
            .filter((m) => m.role !== 'volunteer')
            .map((m) => (
              <option key={m.userId} value={m.userId}>
                for {m.name}
              </option>
            ))}
        </select>
      </div>
      {(photo ?? shown) && (
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
      )}
      <div className="mt-2 grid grid-cols-2 gap-2">
        {NOTE_KINDS.filter((k) => k !== 'other').map((k) => (
          <button
            key={k}
            type="button"
            disabled={busy}
            onClick={() => void leave(k)}
            className={`${BIG} bg-raised`}
          >
            {capital(WORDS[k])}
          </button>
        ))}
        <button
          type="submit"
          disabled={busy || (text.trim() === '' && !photo && !pointed.drawing)}
          className={`${BIG} col-span-2 bg-lift`}
        >
          {busy ? 'One moment …' : 'Leave this note'}
        </button>
      </div>
      {pointing && (
        <OnStage onClose={() => setPointing(false)} onUse={(p) => (setPointed(p), begin())} />
      )}
    </form>
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
