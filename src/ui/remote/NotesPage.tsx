/** For a designer's tablet in the house: which cue it is, the script, calling the next one, and notes for the programmer. */
'use client';
import { useEffect, useMemo, useState } from 'react';
import { z } from 'zod';
import { formatCueNumber } from '@/core/cues/number';
import { NOTE_WORDS } from '@/core/edits/notes';
import { NOTE_KINDS, type NoteKind } from '@/core/show/rows';
import { Page, useCalls } from '../book/ScriptPane';
import { NoteList } from '../book/NoteList';
import { useElapsed } from '../frame/Spine';
import { edit, said } from '../state/actions';
import { ApiError } from '../state/api';
import { notice } from '../state/messages';
import { keep, kept } from '../parts/keep';
import { useList, useScreen, useShow } from '../state/store';
import { RemoteBar } from './RemoteBar';

const BIG = 'min-h-12 rounded-xl px-3 text-[16px] font-semibold disabled:opacity-40';
const WORDS: Record<NoteKind, string> = { ...NOTE_WORDS, other: 'Something else' };
const first = (text: string): string => `${text[0]?.toUpperCase() ?? ''}${text.slice(1)}`;

export function NotesPage() {
  const show = useShow();
  const list = useList();
  const { connection, you: { userId } } = useScreen();
  const [picked, setPicked] = useState<string | null>(null);
  const now = list?.cueId ? show.cues.get(list.cueId) : undefined;
  const next = list?.nextId ? show.cues.get(list.nextId) : undefined;
  const about = (picked ? show.cues.get(picked) : undefined) ?? now;
  const { elapsed, total, running } = useElapsed();
  const { script, calls } = useCalls(list?.id);
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title="Notes" always />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(340px,40%)] max-[760px]:block max-[760px]:overflow-y-auto">
        <section aria-label="The show now" className="flex min-h-0 flex-col">
          <div className="flex flex-none items-center gap-4 px-5 py-3">
            <div className="min-w-0 flex-1">
              <h2 className="cap !text-lime">On stage</h2>
              <p data-testid="notes-now" className="flex items-baseline gap-3">
                <span className="num text-[44px] font-semibold leading-[48px] text-lime">{now ? formatCueNumber(now.number) : '–'}</span>
                <span className="min-w-0 truncate text-[24px] font-semibold">{now?.name}</span>
                {running && <span className="num text-[16px] text-soft">{(total - elapsed).toFixed(1)} s</span>}
              </p>
              <p className="truncate text-standby">{next ? `next: ${formatCueNumber(next.number)} ${next.name}${next.call ? `, on “${next.call}”` : ''}` : 'nothing is next'}</p>
            </div>
            <button type="button" disabled={connection !== 'live' || !next} title="The operator sees that the next cue is called" onClick={() => void said({ command: 'call', do: 'go' })} className={`${BIG} !min-h-16 bg-raised px-5`}>
              Call {next ? formatCueNumber(next.number) : ''}
            </button>
          </div>
          <div className="min-h-0 flex-1 border-t border-line max-[760px]:h-[34vh] max-[760px]:flex-none">
            {script ? <Page big script={script} calls={calls} now={list?.cueId ?? null} next={list?.nextId ?? null} onCall={({ cue }) => setPicked(cue.id)} onLine={(at) => setPicked(calls.filter((c) => c.call.from <= at).at(-1)?.cue.id ?? null)} /> : <p className="p-5 text-muted">This show has no script yet.</p>}
          </div>
        </section>
        <section aria-label="Notes" className="flex min-h-0 flex-col border-l border-line max-[760px]:border-l-0 max-[760px]:border-t">
          <Leave key={userId} cueId={about?.id} words={about ? `cue ${formatCueNumber(about.number)}${about.name ? ` ${about.name}` : ''}` : 'the show'} onNow={picked !== null && picked !== now?.id ? () => setPicked(null) : undefined} />
          <div className="min-h-0 flex-1 overflow-y-auto border-t border-line px-4 py-3">
            <NoteList />
          </div>
        </section>
      </div>
    </div>
  );
}

const BegunSchema = z.object({ text: z.string().min(1).max(1000), cueId: z.string().optional(), words: z.string() });
function Leave({ cueId: shownId, words: shownWords, onNow }: { cueId: string | undefined; words: string; onNow: (() => void) | undefined }) {
  const key = useScreen((s) => `wingman-note-${s.showId}-${s.you.userId}`);
  const before = useMemo(() => kept(keep, key, BegunSchema), [key]);
  const [text, setText] = useState(before?.text ?? '');
  /** A note that was begun stays with its words and its cue while the show goes on, and through a reload. */
  const [begun, setBegun] = useState<{ cueId?: string | undefined; words: string } | null>(before);
  const { cueId, words } = begun ?? { cueId: shownId, words: shownWords };
  useEffect(() => {
    if (before) notice('The note that you had begun is still here.', { id: 'note-kept' });
  }, [before]);
  useEffect(() => {
    if (key.endsWith('-')) return;
    try {
      keep.setItem(key, begun ? JSON.stringify({ text, cueId, words }) : '');
    } catch {
      notice.warning('This browser has no room to keep what you type; leave the page open until the note is left.', { id: 'note-room' });
    }
  }, [key, text, begun, cueId, words]);
  const write = (next: string): void => {
    setText(next);
    if (next === '') setBegun(null);
    else if (!begun) setBegun({ cueId, words });
  };
  const leave = async (kind: NoteKind): Promise<void> => {
    const answer = await edit('add-note', { ...(cueId === undefined ? {} : { cueId }), kind, text: text.trim() });
    if (!(answer instanceof ApiError)) write('');
  };
  return (
    <form
      className="flex-none px-4 py-3"
      onSubmit={(e) => {
        e.preventDefault();
        void leave('other');
      }}
    >
      <h2 className="flex min-h-8 items-center gap-2">
        <span data-testid="note-about" className="min-w-0 flex-1 truncate text-[15px] font-semibold">
          About {words}
        </span>
        {begun && begun.cueId !== shownId && (
          <button type="button" onClick={() => setBegun({ cueId: shownId, words: shownWords })} className="h-8 rounded-md bg-raised px-3 text-[12.5px]">
            About {shownWords.split(' ').slice(0, 2).join(' ')} instead
          </button>
        )}
        {onNow && !begun && (
          <button type="button" onClick={onNow} className="h-8 rounded-md bg-raised px-3 text-[12.5px]">
            The one on stage
          </button>
        )}
      </h2>
      <textarea aria-label="What you would like" placeholder="What you would like" value={text} maxLength={1000} rows={2} onChange={(e) => write(e.target.value)} className="mt-2 w-full rounded-xl bg-panel p-3 text-[15px] leading-5 shadow-[inset_0_0_0_1px_var(--color-edge)] focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none" />
      <div className="mt-2 grid grid-cols-2 gap-2">
        {NOTE_KINDS.filter((k) => k !== 'other').map((k) => (
          <button key={k} type="button" onClick={() => void leave(k)} className={`${BIG} bg-raised`}>
            {first(WORDS[k])}
          </button>
        ))}
        <button type="submit" disabled={text.trim() === ''} className={`${BIG} col-span-2 bg-lift`}>
          Leave this note
        </button>
      </div>
    </form>
  );
}
