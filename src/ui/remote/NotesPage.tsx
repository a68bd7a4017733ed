/** For a designer's tablet in the house: which cue it is, the script, calling the next one, and notes for the programmer. */
'use client';
import { oneLine } from '@/core/words';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { wordAt } from '@/core/script/anchors';
import { Page } from '../book/ScriptPage';
import { useCalls } from '../book/use-calls';
import { NoteList } from '../book/NoteList';
import { useElapsed } from '../frame/spine-rows';
import { Liked } from '../book/Liked';
import { LeaveNote } from '../notes/LeaveNote';
import { said } from '../state/commands';
import { useList, useScreen, useShow } from '../state/store';
import { RemoteBar } from './RemoteBar';
import { useParts } from '../state/use-parts';

const BIG = 'min-h-12 rounded-xl px-3 text-[16px] font-semibold disabled:opacity-40';

/** A page for notes during a run. */
export function NotesPage() {
  const show = useShow();
  const list = useList();
  const {
    connection,
    you: { userId },
  } = useParts(useScreen, 'connection', 'you');
  const [picked, setPicked] = useState<string | null>(null);
  /** Words of the script that were touched. */
  const [spot, setSpot] = useState<{ scriptId: string; from: number; to: number } | null>(null);
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
              <h2 className="cap !text-lime-word">On stage</h2>
              <p data-testid="notes-now" className="flex items-baseline gap-3">
                <span className="num text-[44px] leading-[48px] font-semibold text-lime-word">
                  {now ? formatCueNumber(now.number) : '–'}
                </span>
                <span className="min-w-0 truncate text-[24px] font-semibold">{now?.name}</span>
                {running && (
                  <span className="num text-[16px] text-soft">
                    {(total - elapsed).toFixed(1)} s
                  </span>
                )}
              </p>
              <p className="truncate text-standby">
                {next
                  ? `next: ${formatCueNumber(next.number)} ${next.name}${next.call ? `, on “${next.call}”` : ''}`
                  : 'nothing is next'}
              </p>
            </div>
            <button
              type="button"
              disabled={connection !== 'live' || !next}
              title="The operator sees that the next cue is called"
              onClick={() => void said({ command: 'call', do: 'go' })}
              className={`${BIG} !min-h-16 bg-raised px-5`}
            >
              Call {next ? formatCueNumber(next.number) : ''}
            </button>
          </div>
          <div className="min-h-0 flex-1 border-t border-line max-[760px]:h-[34vh] max-[760px]:flex-none">
            {script ? (
              <Page
                big
                script={script}
                calls={calls}
                now={list?.cueId ?? null}
                next={list?.nextId ?? null}
                onCall={({ cue }) => (setPicked(cue.id), setSpot(null))}
                onWord={(from, to) => {
                  const word = from === to ? wordAt(script.text, from) : { from, to };
                  setPicked(calls.filter((c) => c.call.from <= from).at(-1)?.cue.id ?? null);
                  setSpot(word ? { scriptId: script.id, ...word } : null);
                }}
              />
            ) : (
              <p className="p-5 text-muted">This show has no script yet.</p>
            )}
          </div>
        </section>
        <section
          aria-label="Notes"
          className="flex min-h-0 flex-col border-l border-line max-[760px]:border-t max-[760px]:border-l-0"
        >
          <LeaveNote
            key={userId}
            about={{ ...(about ? { cueId: about.id } : {}), ...(spot ? { words: spot } : {}) }}
            words={`${spot && script ? `“${oneLine(script.text.slice(spot.from, spot.to)).slice(0, 40)}” in ` : ''}${about ? `cue ${formatCueNumber(about.number)}${about.name ? ` ${about.name}` : ''}` : 'the show'}`}
            onNow={
              (spot ?? (picked !== null && picked !== now?.id))
                ? () => (setPicked(null), setSpot(null))
                : undefined
            }
            onLeft={() => setSpot(null)}
          />
          {about && (
            <div className="flex-none px-4 pb-2">
              <Liked tall cue={about} />
            </div>
          )}
          <div className="min-h-0 flex-1 overflow-y-auto border-t border-line px-4 py-3">
            <NoteList tall />
          </div>
        </section>
      </div>
    </div>
  );
}
