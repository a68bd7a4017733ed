/** A designer's word on a cue: given, taken back, and lost with what changed. */
'use client';
import { shortDay } from '@/core/dates';
import { Award } from 'lucide-react';
import type { CueRow } from '@/core/cues/rows';
import { edit } from '../state/edits';
import { useScreen, useShow } from '../state/store';

/** A designer’s word on a cue: given, taken back, or lost. */
export function Liked({ cue, tall = false }: { cue: CueRow; tall?: boolean }) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const likes = [...show.likes.values()].filter((l) => l.cueId === cue.id);
  const mine = likes.find((l) => l.by.userId === you.userId && !l.lost);
  const may = you.role !== 'volunteer';
  return (
    <div data-testid="liked" className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[12.5px]">
      {likes.map((l) =>
        l.lost ? (
          <span
            key={l.id}
            className="[overflow-wrap:anywhere] text-warning"
            title={`Liked by ${l.by.name} on ${shortDay(l.by.at)}`}
          >
            {l.by.name} liked it on {shortDay(l.by.at)}; {l.lost.by.name} has changed it since:{' '}
            {l.lost.text}
          </span>
        ) : (
          <span key={l.id} className="flex items-center gap-1 text-soft">
            <Award size={14} className="text-lime-word" />{' '}
            {l.by.userId === you.userId ? 'You like it' : `${l.by.name} likes it`},{' '}
            {shortDay(l.by.at)}
          </span>
        ),
      )}
      {may && (
        <button
          type="button"
          onClick={() => void edit('like-cue', { cueId: cue.id, on: !mine }, { quiet: true })}
          className={`rounded-md bg-raised text-soft hover:bg-lift ${tall ? 'h-12 px-4 text-[15px]' : 'h-7 px-2.5'}`}
        >
          {mine ? 'Take that back' : 'Looked at, and liked'}
        </button>
      )}
    </div>
  );
}
